"""Briefs drawn at random."""

import random
from typing import Any

from bathys.design import LAYOUTS

__all__ = ["BEDS", "random_brief"]

TANKS = (
    "round-500",
    "round-1000",
    "round-2000",
    "tote-1000",
    "tote-600",
    "trough-600",
    "pond-1000",
)
BEDS = ("tote-1000-bed", "tub-90", "crate-65", "liner-bed", "half-drum", "bath-150")
SIDE_TANKS = ("aquarium-112", "aquarium-180", "aquarium-240")
RAFTS = ("liner-bed", "tote-1000-bed", "pallet-box-600")


def random_brief(number: int) -> dict[str, Any]:
    """A brief drawn at random, of what people have; the same for the same number."""
    rng = random.Random(f"briefs {number}")
    layout = LAYOUTS[rng.choice(sorted(LAYOUTS))]
    brief: dict[str, Any] = {"layout": layout.key, "tank": {"container": rng.choice(TANKS)}}
    if layout.wants_beds:
        most = 4 if layout.has_sump else 2
        least = 2 if layout.key == "linked_beds" else 1
        most = {"bench_top": 1, "cascade": 2}.get(layout.key, most)
        brief["beds"] = {"count": rng.randint(least, most), "container": rng.choice(BEDS)}
    if layout.wants_rafts:
        least = 0 if layout.wants_beds else 1
        brief["rafts"] = {"count": rng.randint(least, 4), "container": rng.choice(RAFTS)}
    if layout.wants_side_tanks:
        brief["side_tanks"] = {"count": rng.randint(1, 3), "container": rng.choice(SIDE_TANKS)}
    if layout.key == "bench_top":
        brief["tank"] = {"container": rng.choice(SIDE_TANKS)}
        brief["beds"]["container"] = rng.choice(("crate-20", "crate-45", "tub-65"))
    warm = rng.choice((True, False))
    return brief | {
        "dig": rng.choice((0.0, 0.3, 0.5)),
        "highest": rng.choice((1.5, 1.7, 2.0)),
        "apart": rng.choice((0.5, 1.0, 2.0)),
        "temperature": 26.0 if warm else 18.0,
        "species": "warm" if warm else "cool",
        "medium": rng.choice(("gravel", "expanded_clay", "lava")),
        "schools": [rng.choice(("tank", "whole_system", "frugal"))],
        "pipe": rng.choice(("ASTM D1785 Schedule 40", "EN ISO 1452 PN10")),
    }
