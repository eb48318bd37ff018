"""The time simulation against scipy's stiff integrators on balances written out once more."""

import math
from typing import Any

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from bathys.plan import Plan, plan_from_data
from bathys.simulation import simulate
from tests.engine.siphon_beds import Bed, G, Pipe, Pumped, area, follow

ROUGH = 1.5e-6  # new plastic pipe [m] (the engine's; published range 1.5–7 µm)
TANK = {"length": 2.0, "width": 1.0}
RIM, INTAKE, FLOOR, OUTLET = 0.26, 0.03, 0.9, 0.5
START, SHARE = 0.31, 0.6


def _inside(diameter: float) -> dict[str, Any]:
    return {"kind": "inside", "diameter": diameter}


def _plan(sizes: list[float], siphon: dict[str, Any], bore: float, tops: float = 0.95) -> Plan:
    """Beds of these lengths over one tank, each fed through a hose of its own from one pump."""
    document: dict[str, Any] = {
        "format": "bathys-plan", "version": 1, "name": "reference",
        "vessels": [{"id": "T1", "name": "tank", "job": "fish_tank", "floor_height": 0.0,
                     "water_depth": 0.45, "ports": [],
                     "shape": {"kind": "box", **TANK, "height": 0.6}}],
        "pumps": [{"id": "P1", "name": "pump", "stands_in": "T1", "inlet_height": 0.0,
                   "power": 30.0, "curve": {"kind": "label", "max_flow": 4.5e-4 * len(sizes),
                                            "max_head": 3.0}}],
        "junctions": [{"id": "J1", "name": "manifold", "kind": "plain", "height": 0.5}],
        "runs": [{"id": "M1", "name": "manifold", "from": "P1.out", "to": "J1",
                  "bore": _inside(0.3), "level_length": 0.0}],
        "siphons": [],
    }  # fmt: skip
    for k, length in enumerate(sizes, start=1):
        document["vessels"][0]["ports"].append({"name": f"in{k}", "height": OUTLET})
        document["vessels"].append({
            "id": f"B{k}", "name": f"bed {k}", "job": "grow_bed", "floor_height": FLOOR,
            "shape": {"kind": "box", "length": length, "width": 0.7, "height": 0.4},
            "media": {"kind": "gravel", "top": 0.35, "void_fraction": 0.4},
            "ports": [{"name": "inlet", "height": tops}],
        })  # fmt: skip
        document["siphons"].append({**siphon, "id": f"X{k}", "name": f"siphon {k}",
                                    "stands_in": f"B{k}"})  # fmt: skip
        document["runs"] += [
            {"id": f"R{k}", "name": "branch", "from": "J1", "to": f"B{k}.inlet",
             "bore": _inside(0.016), "level_length": 1.0},
            {"id": f"D{k}", "name": "tail", "from": f"X{k}.tail", "to": f"T1.in{k}",
             "bore": _inside(bore), "level_length": 0.3},
        ]  # fmt: skip
    return plan_from_data(document)


def _branch(tops: float = 0.95) -> tuple[Pipe, float]:
    end = FLOOR + tops
    return Pipe([(1.0, area(0.016))], [(1.0 + end - 0.5, 0.016, ROUGH)]), end


def _pump(count: int) -> Pumped:
    return Pumped(4.5e-4 * count, 3.0, 2.0, [_branch() for _ in range(count)])


def _rim_spill(bore: float) -> Any:
    """Weir round a rim, 1.8 π d h^1.5, until its mouth governs as an orifice of 0.6."""

    def spill(head: float) -> float:
        weir = 1.8 * math.pi * bore * head**1.5
        return min(weir, 0.6 * area(bore) * math.sqrt(2.0 * G * head))

    return spill


def _bell_bed(length: float, bore: float) -> Bed:
    start = START * area(bore) * math.sqrt(G * bore)
    spill = _rim_spill(bore)
    head = brentq(lambda h: spill(h) - start, 1e-6, 0.2, xtol=1e-12)
    annulus = area(0.06) - area(bore + 0.004)
    tail = Pipe(
        [(1.0 / 0.62**2, 0.0016), (0.5, annulus), (1.5, area(bore)), (1.0, area(bore))],
        [(RIM, bore, ROUGH), (0.3 + FLOOR - OUTLET, bore, ROUGH)],
    )
    return Bed(length * 0.7 * 0.4, FLOOR, RIM, INTAKE, spill, head, SHARE, tail, OUTLET)


def _bell(bore: float) -> dict[str, Any]:
    return {"kind": "bell", "standpipe_bore": _inside(bore), "rim_height": RIM,
            "bell_bore": _inside(0.06), "slot_height": INTAKE, "slot_area": 0.0016}  # fmt: skip


def _water(plan: Plan, beds: list[Bed]) -> float:
    """All that beds and tank hold while the hoses are full."""
    hoses = sum(area(0.016) * (1.0 + FLOOR + 0.95 - 0.5) for _ in beds)
    manifold = area(0.3) * 0.5
    return 0.45 * 2.0 + sum(b.area * b.intake for b in beds) - hoses - manifold


@pytest.mark.parametrize("sizes", [[1.0], [1.0, 1.3]], ids=["one bed", "two unequal beds"])
def test_bell_beds_agree_with_a_stiff_integrator(sizes: list[float]) -> None:
    """Every start and break within three hours: 0.5 % of the time since the one before, and no
    drift between the beds."""
    bore = 0.026
    plan = _plan(sizes, _bell(bore), bore)
    beds = [_bell_bed(length, bore) for length in sizes]
    follow(beds, _pump(len(sizes)), 2.0, 0.0, _water(plan, beds), 3.0)
    found = simulate(plan, 3.0)
    for k, bed in enumerate(beds, start=1):
        _agree(bed, found.times_of("starts", f"X{k}"), found.times_of("breaks", f"X{k}"))


def _agree(bed: Bed, starts: list[float], breaks: list[float]) -> None:
    """Fill and drain times of every cycle after the first, which begins with empty pipes."""
    count = len(bed.breaks)
    assert count >= 5
    assert abs(len(starts) - len(bed.starts)) <= 1
    ours, theirs = np.array(starts[1:count]), np.array(bed.starts[1:count])
    drained = np.array(breaks[1:count]) - ours, np.array(bed.breaks[1:count]) - theirs
    assert drained[0] == pytest.approx(drained[1], rel=5e-3)
    filled = ours - np.array(breaks[: count - 1]), theirs - np.array(bed.breaks[: count - 1])
    assert filled[0] == pytest.approx(filled[1], rel=5e-3)


def _critical_spill(bore: float) -> Any:
    """Flow over a round crest at critical depth for a level over its invert, from the geometry."""

    def at(angle: float) -> tuple[float, float]:
        wet = bore**2 / 8.0 * (angle - math.sin(angle))
        top, depth = bore * math.sin(angle / 2.0), bore / 2.0 * (1.0 - math.cos(angle / 2.0))
        return depth + wet / (2.0 * top), wet * math.sqrt(G * wet / top)

    def spill(head: float) -> float:
        if head <= 1e-7:
            return 0.0
        angle = brentq(lambda a: at(a)[0] - head, 1e-3, 6.2)
        return at(float(angle))[1]

    return spill


def test_a_loop_siphon_agrees_with_a_stiff_integrator() -> None:
    """Spill at critical depth in the tube, start at 0.69 bores over the crest (the closed form of
    Fr 0.31), break at the crown of its hole: 0.5 %."""
    bore = 0.021
    siphon = {"kind": "loop", "bore": _inside(bore), "bulkhead_height": 0.03, "crest_height": 0.24}
    plan = _plan([1.0], siphon, bore)
    spill = _critical_spill(bore)
    start = START * area(bore) * math.sqrt(G * bore)
    head = brentq(lambda h: spill(h) - start, 1e-4, 2.0 * bore)
    assert head / bore == pytest.approx(0.69, abs=0.005)
    crown = FLOOR + 0.24 + 0.5 * bore
    tail = Pipe(
        [(0.5, area(bore)), (0.6, area(bore)), (1.0, area(bore))],
        [(0.24 - 0.03, bore, ROUGH), (0.3 + crown - OUTLET, bore, ROUGH)],
    )
    bed = Bed(0.28, FLOOR, 0.24, 0.03 + 0.5 * bore, spill, head, SHARE, tail, OUTLET)
    follow([bed], _pump(1), 2.0, 0.0, _water(plan, [bed]), 3.0)
    found = simulate(plan, 3.0)
    _agree(bed, found.times_of("starts", "X1"), found.times_of("breaks", "X1"))


def test_a_timed_bed_agrees_with_a_stiff_integrator() -> None:
    """Fifteen minutes on, forty-five off; small holes and a rim: level every ten seconds for three
    hours within a millimetre, but for the seconds after a switch."""
    document = _plan([1.0], _bell(0.026), 0.026).model_dump(
        mode="json", by_alias=True, exclude_none=True
    )
    document["siphons"] = []
    document["pumps"][0]["switch"] = {"kind": "timer", "on": 900.0, "off": 2700.0}
    document["outlets"] = [{
        "id": "X1", "name": "standpipe", "kind": "standpipe", "stands_in": "B1",
        "bore": _inside(0.05), "rim_height": RIM, "holes": 3, "hole_height": 0.02,
        "hole_diameter": 0.006,
    }]  # fmt: skip
    tail = document["runs"][2]
    tail |= {"from": "X1.out", "bore": _inside(0.05)}
    found = simulate(plan_from_data(document), 3.0)
    hoses = area(0.016) * (1.0 + FLOOR + 0.95 - 0.5) + area(0.3) * 0.5
    holes, bed_area = 3.0 * area(0.006), 0.28
    water = 0.45 * 2.0 - hoses + bed_area * 0.02
    pump, spill = _pump(1), _rim_spill(0.05)

    def rates(time: float, y: Any) -> list[float]:
        out = 0.62 * holes * math.sqrt(2.0 * G * max(y[0] - 0.02, 0.0))
        out += spill(max(y[0] - RIM, 0.0))
        comes = pump.flows((water - y[0] * bed_area) / 2.0)[0] if time % 3600.0 < 900.0 else 0.0
        return [(comes - out) / bed_area]

    level, times = 0.02, found.times
    ours = found.level("B1") - FLOOR
    for begin, end in ((0.0, 900.0), (900.0, 3600.0), (3600.0, 4500.0), (4500.0, 7200.0)):
        at = times[(times >= begin) & (times < end)]
        middle = 0.5 * (begin + end)
        run = solve_ivp(
            lambda t, y, m=middle, b=begin: rates(m if t == b else t, y), (begin, end - 1e-6),
            [level], "LSODA", t_eval=at, rtol=1e-8, atol=1e-9, max_step=30.0,
        )  # fmt: skip
        level = float(run.y[0, -1])
        span = (times >= begin) & (times < end)
        assert np.abs(ours[span] - run.y[0]).max() < 2e-3
        level = float(ours[np.searchsorted(times, end)]) if end < times[-1] else level
