"""Siphon beds over one tank as a plan, and the same written out for scipy."""

import math
from collections.abc import Callable
from typing import Any

import numpy as np
from scipy.optimize import brentq

from bathys.plan import Plan, plan_from_data
from bathys.simulation import SimulationResult
from tests.engine.siphon_beds import Bed, G, Pipe, Pumped, area, follow

__all__ = [
    "FLOOR",
    "OUTLET",
    "RIM",
    "ROUGH",
    "SHARE",
    "START",
    "agreement",
    "beds_plan",
    "bell",
    "bell_bed",
    "inside",
    "pump_of",
    "rim_spill",
    "two_beds",
    "water_of",
    "worst_deviation",
]

ROUGH = 1.5e-6  # new plastic pipe [m] (the engine's; published range 1.5–7 µm)
TANK = {"length": 2.0, "width": 1.0}
RIM, INTAKE, FLOOR, OUTLET = 0.26, 0.03, 0.9, 0.5
START, SHARE = 0.31, 0.6


def inside(diameter: float) -> dict[str, Any]:
    return {"kind": "inside", "diameter": diameter}


def beds_plan(sizes: list[float], siphon: dict[str, Any], bore: float, tops: float = 0.95) -> Plan:
    """Beds of these lengths over one tank, each fed through a hose of its own from one pump."""
    document: dict[str, Any] = {
        "format": "bathys-plan",
        "version": 1,
        "name": "reference",
        "vessels": [
            {
                "id": "T1",
                "name": "tank",
                "job": "fish_tank",
                "floor_height": 0.0,
                "water_depth": 0.45,
                "ports": [],
                "shape": {"kind": "box", **TANK, "height": 0.6},
            }
        ],
        "pumps": [
            {
                "id": "P1",
                "name": "pump",
                "stands_in": "T1",
                "inlet_height": 0.0,
                "power": 30.0,
                "curve": {"kind": "label", "max_flow": 4.5e-4 * len(sizes), "max_head": 3.0},
            }
        ],
        "junctions": [{"id": "J1", "name": "manifold", "kind": "plain", "height": 0.5}],
        "runs": [
            {
                "id": "M1",
                "name": "manifold",
                "from": "P1.out",
                "to": "J1",
                "bore": inside(0.3),
                "level_length": 0.0,
            }
        ],
        "siphons": [],
    }
    for k, length in enumerate(sizes, start=1):
        document["vessels"][0]["ports"].append({"name": f"in{k}", "height": OUTLET})
        document["vessels"].append(
            {
                "id": f"B{k}",
                "name": f"bed {k}",
                "job": "grow_bed",
                "floor_height": FLOOR,
                "shape": {"kind": "box", "length": length, "width": 0.7, "height": 0.4},
                "media": {"kind": "gravel", "top": 0.35, "void_fraction": 0.4},
                "ports": [{"name": "inlet", "height": tops}],
            }
        )
        document["siphons"].append(
            {**siphon, "id": f"X{k}", "name": f"siphon {k}", "stands_in": f"B{k}"}
        )
        document["runs"] += [
            {
                "id": f"R{k}",
                "name": "branch",
                "from": "J1",
                "to": f"B{k}.inlet",
                "bore": inside(0.016),
                "level_length": 1.0,
            },
            {
                "id": f"D{k}",
                "name": "tail",
                "from": f"X{k}.tail",
                "to": f"T1.in{k}",
                "bore": inside(bore),
                "level_length": 0.3,
            },
        ]
    return plan_from_data(document)


def _branch(tops: float = 0.95) -> tuple[Pipe, float]:
    end = FLOOR + tops
    return Pipe([(1.0, area(0.016))], [(1.0 + end - 0.5, 0.016, ROUGH)]), end


def pump_of(count: int) -> Pumped:
    return Pumped(4.5e-4 * count, 3.0, 2.0, [_branch() for _ in range(count)])


def rim_spill(bore: float) -> Any:
    """Weir round a rim, 1.8 π d h^1.5, until its mouth governs as an orifice of 0.6."""

    def spill(head: float) -> float:
        weir = 1.8 * math.pi * bore * head**1.5
        return min(weir, 0.6 * area(bore) * math.sqrt(2.0 * G * head))

    return spill


def bell_bed(length: float, bore: float) -> Bed:
    start = START * area(bore) * math.sqrt(G * bore)
    spill = rim_spill(bore)
    head = brentq(lambda h: spill(h) - start, 1e-6, 0.2, xtol=1e-12)
    annulus = area(0.06) - area(bore + 0.004)
    tail = Pipe(
        [(1.0 / 0.62**2, 0.0016), (0.5, annulus), (1.5, area(bore)), (1.0, area(bore))],
        [(RIM, bore, ROUGH), (0.3 + FLOOR - OUTLET, bore, ROUGH)],
    )
    return Bed(length * 0.7 * 0.4, FLOOR, RIM, INTAKE, spill, head, SHARE, tail, OUTLET)


def bell(bore: float) -> dict[str, Any]:
    return {
        "kind": "bell",
        "standpipe_bore": inside(bore),
        "rim_height": RIM,
        "bell_bore": inside(0.06),
        "slot_height": INTAKE,
        "slot_area": 0.0016,
    }


def water_of(beds: list[Bed]) -> float:
    """All that beds and tank hold while the hoses are full."""
    hoses = sum(area(0.016) * (1.0 + FLOOR + 0.95 - 0.5) for _ in beds)
    manifold = area(0.3) * 0.5
    return 0.45 * 2.0 + sum(b.area * b.intake for b in beds) - hoses - manifold


def agreement(bed: Bed, starts: list[float], breaks: list[float]) -> float:
    """Worst share by which a fill or drain time differs, of every cycle after the first."""
    count = min(len(bed.breaks), len(starts), len(breaks))
    ours, theirs = np.array(starts[1:count]), np.array(bed.starts[1:count])
    drained = (np.array(breaks[1:count]) - ours) / (np.array(bed.breaks[1:count]) - theirs)
    filled = (ours - np.array(breaks[: count - 1])) / (theirs - np.array(bed.breaks[: count - 1]))
    return float(np.abs(np.concatenate([drained, filled]) - 1.0).max())


def two_beds() -> tuple[Plan, Callable[[float], list[Bed]]]:
    """Two unequal bell beds on one pump: the plan, and scipy's run of so many hours."""
    sizes, bore = [1.0, 1.3], 0.026
    plan = beds_plan(sizes, bell(bore), bore)

    def by_scipy(hours: float) -> list[Bed]:
        beds = [bell_bed(length, bore) for length in sizes]
        follow(beds, pump_of(len(sizes)), 2.0, 0.0, water_of(beds), hours)
        return beds

    return plan, by_scipy


def worst_deviation(beds: list[Bed], found: SimulationResult) -> float:
    """Worst share by which any fill or drain time of any bed differs."""
    return max(
        agreement(bed, found.times_of("starts", f"X{k}"), found.times_of("breaks", f"X{k}"))
        for k, bed in enumerate(beds, start=1)
    )
