"""What vessels are for, and what follows from it: one row a job."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

__all__ = ["JOBS", "Job"]


@dataclass(frozen=True, slots=True)
class Job:
    """What a vessel is for.

    Attributes
    ----------
    name : str
        Its name
    letter : str
        With which the ids of such vessels begin
    wants_flow : bool
        Whether what lives or settles in it needs water passing through
    keeps_fish : bool
        Whether fish live in it, so that enough water must stay whatever fails
    floods : bool
        Whether it is flooded and drained by turns, and reckoned by its shell
    has_rafts : bool
        Whether rafts float on it, of which plants hang
    cleans : bool
        Whether bacteria clean the water in it beside those in media
    takes_up : bool
        Whether it is there to take up what the other vessels of its loop hold more or less
    turnover : str
        What is usual of its turnover
    usual : mapping
        How it is usually built, as plain data of a vessel
    """

    name: str
    letter: str
    wants_flow: bool = True
    keeps_fish: bool = False
    floods: bool = False
    has_rafts: bool = False
    cleans: bool = False
    takes_up: bool = False
    turnover: str = ""
    usual: Mapping[str, Any] = field(default_factory=dict)


def _box(height: float, floor: float = 0.5, **more: Any) -> dict[str, Any]:
    shape = {"kind": "box", "length": 1.2, "width": 1.0, "height": height}
    return {"floor_height": floor, "shape": shape, **more}


JOBS: dict[str, Job] = {
    "fish_tank": Job(
        "Fish tank",
        "T",
        keeps_fish=True,
        usual=_box(0.7),
        turnover="once is accepted, 1.5 to 2 preferred",
    ),
    "grow_bed": Job(
        "Grow bed",
        "B",
        floods=True,
        usual=_box(0.35, media={"kind": "expanded_clay", "top": 0.3, "void_fraction": 0.45}),
    ),
    "raft": Job(
        "Raft",
        "G",
        has_rafts=True,
        cleans=True,
        usual=_box(0.35),
        turnover="rafts are held for one to four hours",
    ),
    "settler": Job("Settler", "C", usual=_box(0.7)),
    "biofilter": Job("Biofilter", "F", cleans=True, usual=_box(0.7)),
    "drum": Job(
        "Mineralising drum",
        "M",
        wants_flow=False,
        usual={
            "floor_height": 0.0,
            "shape": {"kind": "cylinder", "diameter": 0.57, "height": 0.88},
            "water_depth": 0.7,
            "freeboard": 0.1,
        },
    ),
    "sump": Job(
        "Sump", "S", wants_flow=False, takes_up=True, usual=_box(0.7, floor=0.0, water_depth=0.5)
    ),
}
"""By the name that a plan file has for it."""
