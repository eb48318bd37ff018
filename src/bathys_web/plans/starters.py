"""Layouts to start from: the example plans, by their picture."""

from dataclasses import dataclass
from functools import cache
from pathlib import Path

from bathys.drawing import Scene, draw_side_view
from bathys.drawing.stations import stations_of
from bathys.edits import Edit, apply_edits
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from bathys.simulation import simulate

__all__ = ["LAYOUTS", "PRACTICE", "Starter", "starter", "starters", "warm_engine"]

_FOLDER = Path(__file__).resolve().parents[3] / "examples"

LAYOUTS: dict[str, str] = {
    "stacked-pair": "A bed over a fish tank: one pump, one bell siphon straight back.",
    "constant-flood": "A bed that stays flooded, its overflow a hand under the media.",
    "linked-beds": "Several beds joined low down, drained by one siphon.",
    "bench-top": "An aquarium with a strainer and a small bed, for a table.",
    "small-settler": "A small tank whose waste settles in one barrel, a sump, a bed.",
    "constant-height-tank": "A tank that never falls, a settler, two siphon beds, a sump.",
    "split-flow": "One pump feeds the tank with its filters, and beds and raft beside it.",
    "two-pump-timed": "One pump never rests; another floods two beds by the clock.",
    "raft-line": "Tank, settler, fine filter and long rafts, back to the sump.",
    "side-tanks": "Nursery tanks beside the main loop, on one drain.",
    "fish-and-leaves": "Fish, tomatoes and lettuce, with air, carriers and all that is fed.",
    "twin-sumps": "A manifold with a bypass, three beds, a raft, two joined sumps.",
    "decoupled-pair": "Two loops that share water only when you let it.",
    "cascade-float-lift": "Down three steps by itself; a float lifts it back.",
}
"""The layouts on offer, simplest first, with what each is."""

PRACTICE: dict[str, str] = {
    "ferry-loft": "A timber bed with a liner; its bell is drilled and has two air tubes.",
    "bucket-bench": "A bucket in a drum as strainer, half a drum of herbs, a glass tank.",
    "coopers-yard": "A hot tub under a flooded bed; its standpipe has a sleeve and a screen.",
    "tote-row": "Three trays cut from totes, joined low, over a stock trough.",
    "mill-stair": "Down three steps; a hung pump with its own float lifts it back.",
    "bell-orchard": "A dip tube through the tank’s wall, a bell and a loop side by side.",
    "cannery-header": "A high header shares its water over three notches.",
    "swirl-court": "Rafts behind a settler and brushes; sludge goes to a drum.",
    "brick-terrace": "Floods by the time of the day, fewer in winter, a flush on Sundays.",
    "rain-barn": "A roof fills a drum that tops up the sump; nursery tanks beside.",
    "letdown-farm": "A clock lets fish water down to the plants at night.",
    "two-wells": "Two pumps in two sumps on one line.",
}
"""Layouts as practice builds them, simplest first."""


@dataclass(frozen=True, slots=True)
class Starter:
    """A layout to start from.

    Attributes
    ----------
    key, title, words : str
        Its name in addresses and for people, and what it is
    scene : Scene
        Its picture
    """

    key: str
    title: str
    words: str
    scene: Scene


def _title(key: str) -> str:
    return key.replace("-", " ").capitalize()


@cache
def starter(key: str) -> Plan:
    """A layout as a new plan: sized, without its example's name and purpose.

    Parameters
    ----------
    key : str
        Its key

    Returns
    -------
    Plan
        The plan

    Raises
    ------
    KeyError
        If there is none of that name
    """
    if key not in LAYOUTS and key not in PRACTICE:
        raise KeyError(key)
    folder = _FOLDER if key in LAYOUTS else _FOLDER / "practice"
    plan = load_plan((folder / f"{key}.json").read_bytes())
    return apply_edits(
        plan, [Edit("name", f"New {_title(key).lower()}"), Edit("brief.purpose", "")]
    )


@cache
def starters(*, from_practice: bool = False) -> tuple[Starter, ...]:
    """Every layout with its picture.

    Parameters
    ----------
    from_practice : bool
        Whether those that practice builds are meant

    Returns
    -------
    tuple of Starter
        The layouts, in the order of the page
    """
    found = []
    for key, words in (PRACTICE if from_practice else LAYOUTS).items():
        plan = starter(key)
        scene = draw_side_view(assess(plan).evaluation, stations_of(plan), "metric")
        found.append(Starter(key, _title(key), words, scene))
    return tuple(found)


def warm_engine() -> None:
    """Work the layouts out and follow one a little, so that tables, caches and compiled code stand
    before the first visitor comes."""
    starters()
    starters(from_practice=True)
    simulate(starter("stacked-pair"), 0.05)
