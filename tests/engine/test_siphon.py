"""The siphon's cycle, its verdicts, and the power cut."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from bathys.evaluation import BedResult
from bathys.network import Line, Piece
from bathys.physics import GRAVITY
from bathys.pipeline import Assessment, assess
from bathys.plan import plan_from_data
from bathys.simulation.cycle import nodes_between, time_between
from tests.plan_files import lists_of


def _loop(document: dict[str, Any]) -> BedResult:
    return assess(plan_from_data(document)).evaluation.beds[0]


def _rules(assessment: Assessment) -> set[str]:
    return {f.rule.id for f in assessment.findings if f.severity != "note"}


def test_bare_vessel_drains_as_the_closed_form() -> None:
    """A prismatic vessel through an orifice: t = 2A (√h1 − √h0)/(Cd a √(2g)), Torricelli. 0.1 %."""
    area, hole, coefficient = 0.8, math.pi * 0.01**2, 0.62
    piece = Piece("opening", "hole", 0.02, loss=1.0 / coefficient**2)
    line = Line([piece], 1e-6)
    edges = np.linspace(0.5, 0.1, 13)
    levels = nodes_between(edges)
    times = time_between(edges, np.full_like(levels, area), -line.flow(levels))
    closed = 2 * area / (coefficient * hole * math.sqrt(2 * GRAVITY))
    closed *= math.sqrt(0.5) - math.sqrt(0.1)
    assert times.sum() == pytest.approx(closed, rel=1e-3)


def test_cycle_agrees_with_a_stiff_integrator(document: dict[str, Any]) -> None:
    """scipy's Radau at tight tolerance on the same balance written in volumes: 0.1 %. The balance
    is written out here; only the flows at a level come from the engine."""
    result = _loop(document)
    loop, cycle = result.loop, result.cycle
    built, bed = loop.built, loop.bed_storage
    low, high = (float(bed.volume(h)) for h in (cycle.bed_low, cycle.bed_high))

    def tank(volume: float) -> float:
        area = 1.15 * 0.95
        water = area * 0.62 + low - volume - loop.line.volume
        return water / area

    def flows(volume: float) -> tuple[float, float, float]:
        level = float(bed.level(volume))
        inflow = loop.flow_at(tank(volume), level)
        over = max(level - built.rim, 0.0)
        return inflow, 1.8 * math.pi * built.bore * over**1.5, level

    def fill(_: float, y: np.ndarray) -> list[float]:
        inflow, spill, _ = flows(y[0])
        return [inflow - spill]

    def drain(_: float, y: np.ndarray) -> list[float]:
        inflow, _, level = flows(y[0])
        return [inflow - float(built.full_flow(level, tank(y[0]))[0])]

    def time(law: Any, start: float, end: float) -> float:
        def reached(_: float, y: np.ndarray) -> float:
            return float(y[0] - end)

        reached.terminal = True  # type: ignore[attr-defined]
        run = solve_ivp(law, (0, 5000), [start], "Radau", events=reached, rtol=1e-8, atol=1e-10)
        return float(run.t_events[0][0])

    assert cycle.fill_time == pytest.approx(time(fill, low, high), rel=1e-3)
    assert cycle.drain_time == pytest.approx(time(drain, high, low), rel=1e-3)


def test_cycle_keeps_water(document: dict[str, Any]) -> None:
    """At every point of the cycle bed, tank and riser hold what was filled in."""
    result = _loop(document)
    loop, trace = result.loop, result.cycle.trace
    assert trace is not None
    bed = loop.bed_storage.volume(np.array(trace.bed_levels))
    tank = loop.tank_storage.volume(np.array(trace.tank_levels) - loop.tank.floor_height)
    assert np.allclose(bed + tank + loop.line.volume, loop.total_volume, rtol=1e-9)


VERDICTS = [
    ("never_starts", {"max_flow": 0.00012, "max_head": 1.3}, "B1"),
    ("holds", {"max_flow": 0.0012, "max_head": 3.2}, "B1"),
    ("hangs", {"max_flow": 0.00085, "max_head": 2.6}, "B1"),
    ("no_inflow", {"max_flow": 0.0005, "max_head": 0.8}, "F0"),
]


@pytest.mark.parametrize(("verdict", "pump", "rule"), VERDICTS, ids=[v[0] for v in VERDICTS])
def test_each_way_a_siphon_fails_is_told(
    document: dict[str, Any], verdict: str, pump: dict[str, float], rule: str
) -> None:
    """Too little water trickles, too much holds, a little too much hangs."""
    document["runs"][0]["valve"]["angle"] = 0.0
    document["pumps"][0]["curve"] |= pump
    found = assess(plan_from_data(document))
    assert found.evaluation.beds[0].cycle.verdict == verdict
    assert found.evaluation.beds[0].cycle.period is None
    assert any(f.rule.id == rule and f.severity == "fault" for f in found.findings)


def test_a_short_tail_leaves_no_window(document: dict[str, Any]) -> None:
    """With hardly any drop no inflow both starts and stops it, and the finding says so."""
    document["vessels"][1]["floor_height"] = 0.64
    found = assess(plan_from_data(document))
    assert found.evaluation.beds[0].cycle.window.is_empty
    assert {"B1", "B4"} <= _rules(found)


def test_raising_the_bed_lowers_the_flow_and_lengthens_the_cycle(document: dict[str, Any]) -> None:
    """What a builder sees when they lift the bed by 200 mm."""
    before = _loop(document)
    document["vessels"][1]["floor_height"] += 0.2
    after = _loop(document)
    assert after.cycle.mean_inflow < before.cycle.mean_inflow
    assert after.cycle.period is not None
    assert before.cycle.period is not None
    assert after.cycle.period > before.cycle.period


@settings(max_examples=40)
@given(rim=st.floats(0.1, 0.29), depth=st.floats(0.45, 0.68), angle=st.floats(0.0, 50.0))
def test_power_cut_ends_between_floor_and_all_water(rim: float, depth: float, angle: float) -> None:
    """No cut makes or loses water, and the tank ends no higher than all of it stands."""

    from tests.conftest import EXAMPLE

    plan = lists_of(EXAMPLE)
    plan["siphons"][0]["rim_height"], plan["vessels"][0]["water_depth"] = rim, depth
    plan["runs"][0]["valve"]["angle"] = angle
    result = _loop(plan)
    for outage in result.outages:
        bed = float(result.loop.bed_storage.volume(outage.bed_level))
        total = bed + outage.tank_volume + outage.spilled
        assert total == pytest.approx(result.loop.total_volume, rel=1e-9)
        assert outage.returned >= 0.0
    assert max(o.tank_level for o in result.outages) <= depth + 1e-9 or result.cycle.period is None


def test_a_starved_pump_stops_at_its_inlet(document: dict[str, Any]) -> None:
    """With the inlet above what the bed leaves in the tank, the level ends at the inlet."""
    document["pumps"][0]["inlet_height"] = 0.58
    found = assess(plan_from_data(document))
    cycle = found.evaluation.beds[0].cycle
    assert cycle.verdict == "starved"
    assert cycle.tank_low == pytest.approx(0.58, abs=1e-6)
    assert cycle.mean_inflow == 0.0
    assert {"B1", "U1"} <= _rules(found)


def test_a_pump_that_stalls_as_the_tank_falls_fills_no_bed(document: dict[str, Any]) -> None:
    """It lifts from the full tank but not from the lower one: the bed stops short of its rim."""
    document["pumps"][0]["curve"]["max_head"] = 0.92
    found = assess(plan_from_data(document))
    cycle = found.evaluation.beds[0].cycle
    assert cycle.verdict == "no_inflow"
    assert 0.025 < cycle.bed_high < 0.27
    assert "F0" in _rules(found)


def test_a_rim_at_the_beds_own_rim_runs_over(document: dict[str, Any]) -> None:
    """Even a trickle that starts no siphon, and no level is told above the wall."""
    document["runs"][0]["valve"]["angle"] = 67.0
    document["siphons"][0]["rim_height"] = 0.35
    document["vessels"][1]["ports"][0]["height"] = 0.42
    cycle = _loop(document).cycle
    assert cycle.verdict == "overflows"
    assert cycle.bed_high == 0.35


def test_raising_the_rim_never_lowers_the_top(document: dict[str, Any]) -> None:
    """A higher standpipe floods at least as high."""
    tops = []
    for rim in (0.15, 0.2, 0.25, 0.29):
        document["siphons"][0]["rim_height"] = rim
        tops.append(_loop(document).cycle.bed_high)
    assert tops == sorted(tops)


def test_a_drowned_return_siphons_back(document: dict[str, Any]) -> None:
    """An inlet under water drains the bed through the stopped pump down to its mouth; a check
    valve stops it."""
    document["vessels"][1]["ports"][0]["height"] = 0.1
    found = assess(plan_from_data(document))
    before_start = found.evaluation.beds[0].outages[0]
    assert before_start.bed_level == pytest.approx(0.1)
    assert before_start.siphoned_back > 0.01
    assert "P5" in _rules(found)
    document["runs"][0]["fittings"].append({"kind": "swing_check", "count": 1})
    fixed = assess(plan_from_data(document))
    assert fixed.evaluation.beds[0].outages[0].siphoned_back == 0.0
    assert "P5" not in _rules(fixed)


def test_an_overfull_tank_spills_when_the_power_goes(document: dict[str, Any]) -> None:
    """Filled to the brim with the beds full, it cannot take them back: here the riser alone,
    with the tank filled as high as the shell allows."""
    document["vessels"][0]["water_depth"] = 0.75
    found = assess(plan_from_data(document))
    assert "U2" in _rules(found)


def test_what_cannot_be_worked_out_is_said(document: dict[str, Any]) -> None:
    """A siphon without a tail gets a finding and no cycle, not a guess."""
    document["runs"] = document["runs"][:1]
    found = assess(plan_from_data(document))
    assert not found.evaluation.beds
    assert any(f.rule.id == "scope" and "no tail" in f.sentence for f in found.findings)


@pytest.mark.parametrize("field", ["tank", "bed"])
def test_drowned_tail_is_told(document: dict[str, Any], field: str) -> None:
    """A tail that ends under water is warned of, whichever vessel moved."""
    if field == "tank":
        document["vessels"][0]["ports"][0]["height"] = 0.3
    else:
        document["vessels"][0]["water_depth"] = 0.72
    assert "B7" in _rules(assess(plan_from_data(document)))
