"""Plans that flood, starve or never run, and of which nothing was said once."""

import random
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from bathys.cli import main
from bathys.physics.pump_curve import PointsCurve
from bathys.pipeline import Assessment, DynamicAssessment, assess, assess_dynamic
from bathys.plan import load_plan, plan_from_data
from bathys.simulation import simulate
from tests.plan_files import lists_of

PLANS = Path(__file__).parent / "plans"


def _data(name: str) -> dict[str, Any]:
    folder = PLANS if (PLANS / f"{name}.json").exists() else Path("examples")
    data: dict[str, Any] = lists_of(folder / f"{name}.json")
    return data


def _assessed(name: str) -> Assessment:
    return assess(load_plan((PLANS / f"{name}.json").read_bytes()))


def _dynamic(name: str) -> DynamicAssessment:
    return assess_dynamic(_assessed(name), with_failures=False)


def _told(found: Assessment | DynamicAssessment, least: str = "warning") -> set[tuple[str, str]]:
    grades = ("fault",) if least == "fault" else ("fault", "warning")
    return {(f.rule.id, f.place) for f in found.findings if f.severity in grades}


@pytest.mark.parametrize(
    ("name", "rule", "place"),
    [
        ("transfer-drains", "U14", "W1"),
        ("transfer-floods", "U14", "W1"),
        ("siphon-with-lower-drain", "B1", "X1"),
        ("float-never-reached", "F8", "P1"),
        ("bed-without-feed", "F6", "B8"),
        ("small-bed-without-feed", "F6", "B1"),
        ("nearly-shut-drain", "U0", "B1"),
        ("valve-on-no-delivery", "F0", "R2"),
    ],
)
def test_check_names_the_danger_and_its_place(
    name: str, rule: str, place: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert (rule, place) in _told(_assessed(name), "fault")
    assert main(["check", str(PLANS / f"{name}.json")]) == 1
    assert rule in capsys.readouterr().out


def test_a_bed_that_never_fills_is_not_sound(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", str(PLANS / "small-bed-without-feed.json")]) == 1
    capsys.readouterr()


@pytest.mark.parametrize(("name", "place"), [("transfer-drains", "P1"), ("transfer-floods", "T1")])
def test_schedules_are_followed_until_they_harm(name: str, place: str) -> None:
    """40 L a day in floods a 61 L aquarium; 20 L a day out bares its pump on the second day."""
    found = _dynamic(name)
    places = {f.place for f in found.findings if f.rule.id in ("U15", "U3", "B6")}
    assert place in places
    run = found.resilience.scheduled
    assert run is not None
    assert run.times[-1] >= 2.0 * 86400.0 - 100.0


def test_a_weak_float_valve_is_told() -> None:
    """86.4 L a day comes, 100 L a day dries off."""
    found = next(f for f in _assessed("weak-float-valve").findings if f.rule.id == "U4")
    assert (found.severity, found.place) == ("warning", "W1")
    assert found.figures["comes"] == pytest.approx(0.0864)
    assert found.figures["dries"] == pytest.approx(0.1)


def test_a_float_in_a_vessel_another_pump_fills_runs_its_share() -> None:
    """No false finding: what P1 brings, P2 takes back."""
    found = _assessed("float-fed-by-pump")
    duties = found.evaluation.duties
    assert duties["P2"].share == pytest.approx(duties["P1"].flow / duties["P2"].flow, rel=0.01)
    assert not [f for f in found.findings if f.rule.id in ("U0", "F8", "F6")]
    followed = simulate(found.evaluation.plan, 6.0)
    assert duties["P2"].share == pytest.approx(followed.running["P2"] / 21600.0, abs=0.03)


def test_a_siphon_fed_by_a_timer_tells_no_cycle_until_it_was_followed() -> None:
    """60 s in the hour: three turns fill the bed."""
    dynamic = _dynamic("timed-siphon")
    assert dynamic.assessment.evaluation.beds[0].cycle.period is None
    assert dynamic.resilience.periodic.cycles[0].period == pytest.approx(10800.0, rel=0.01)


@pytest.mark.parametrize(
    "name",
    [
        "bench-top",
        "constant-height-tank",
        "linked-beds",
        "split-flow",
        "stacked-pair",
        "twin-sumps",
        "twelve-beds",
    ],
)
def test_a_cycle_told_agrees_with_the_run_within_its_doubt(name: str) -> None:
    plan = plan_from_data(_data(name))
    dynamic = assess_dynamic(assess(plan), with_failures=False)
    rows = {c.siphon: c.period for c in dynamic.resilience.periodic.cycles}
    told = [b for b in dynamic.assessment.evaluation.beds if b.cycle.period is not None]
    assert told
    for bed in told:
        assert rows[bed.siphon.id] == pytest.approx(bed.cycle.period, rel=0.1), bed.siphon.id


@pytest.mark.parametrize("kind", ["holes", "slots", "side", "lower rim"])
def test_a_siphon_bed_with_another_way_out_never_starts(kind: str) -> None:
    """Whatever lets the water go below its rim; told as the simulation has it."""
    data = _data("stacked-pair")
    data["vessels"][0]["ports"].append({"name": "back", "height": 0.7})
    data["vessels"][1]["ports"].append({"name": "side", "height": 0.12})
    outlet: dict[str, Any] = {"id": "O1", "name": "Second way", "stands_in": "B1"}
    bore = {"kind": "inside", "diameter": 0.05}
    parts = {
        "holes": {"kind": "holes", "height": 0.1, "diameter": 0.02, "count": 4},
        "slots": {
            "kind": "standpipe",
            "bore": bore,
            "rim_height": 0.29,
            "holes": 12,
            "hole_height": 0.05,
            "hole_diameter": 0.012,
        },
        "lower rim": {"kind": "standpipe", "bore": bore, "rim_height": 0.15},
    }
    start = "B1.side"
    if kind in parts:
        data["outlets"], start = [outlet | parts[kind]], "O1.out"
    data["runs"].append(
        {
            "id": "R3",
            "name": "Second drain",
            "from": start,
            "to": "T1.back",
            "bore": bore,
            "level_length": 0.3,
        }
    )
    plan = plan_from_data(data)
    found = assess(plan)
    assert ("B1", "S1") in _told(found, "fault")
    followed = simulate(plan, 2.0)
    assert not followed.times_of("starts", "S1")
    bed = found.evaluation.beds[0]
    level = float(followed.level("B1")[-1]) - bed.bed.floor_height
    assert level == pytest.approx(bed.cycle.bed_high, abs=2e-3)


def test_a_small_leak_lets_the_siphon_cycle_as_it_is_followed() -> None:
    """One small hole low down: less comes to the siphon, and it takes longer."""
    data = _data("stacked-pair")
    data["vessels"][0]["ports"].append({"name": "back", "height": 0.7})
    data["outlets"] = [
        {
            "id": "O1",
            "name": "Weep hole",
            "kind": "holes",
            "stands_in": "B1",
            "height": 0.03,
            "diameter": 0.006,
            "count": 1,
        }
    ]
    data["runs"].append(
        {
            "id": "R3",
            "name": "Weep",
            "from": "O1.out",
            "to": "T1.back",
            "bore": {"kind": "inside", "diameter": 0.03},
            "level_length": 0.3,
        }
    )
    dynamic = assess_dynamic(assess(plan_from_data(data)), with_failures=False)
    told = dynamic.assessment.evaluation.beds[0].cycle.period
    assert told is not None
    assert dynamic.resilience.periodic.cycles[0].period == pytest.approx(told, rel=0.03)


def test_a_valve_shut_at_90_degrees_on_a_feed_is_told() -> None:
    data = _data("split-flow")
    next(r for r in data["runs"] if r["id"] == "R5")["valve"] = {"kind": "ball", "angle": 90.0}
    found = next(f for f in assess(plan_from_data(data)).findings if f.rule.id == "F6")
    assert (found.place, found.severity) == ("B1", "fault")
    assert "shut" in found.sentence


def test_a_bypass_shut_on_purpose_parts_two_loops() -> None:
    """Shut or not there at all: the same levels on both sides, the same findings."""
    data = _data("decoupled-pair")
    for vessel, height in (("S1", 0.35), ("S2", 0.05)):
        next(v for v in data["vessels"] if v["id"] == vessel)["ports"].append(
            {"name": "bypass", "height": height}
        )
    without = assess(plan_from_data(data))
    data["runs"].append(
        {
            "id": "R90",
            "name": "Bypass",
            "from": "S1.bypass",
            "to": "S2.bypass",
            "level_length": 1.0,
            "bore": {"kind": "inside", "diameter": 0.05},
            "valve": {"kind": "ball", "angle": 90.0},
        }
    )
    shut = assess(plan_from_data(data))
    assert shut.evaluation.balance.levels == pytest.approx(without.evaluation.balance.levels)
    assert shut.evaluation.balance.closing == without.evaluation.balance.closing
    assert [(f.rule.id, f.place) for f in shut.findings] == [
        (f.rule.id, f.place) for f in without.findings
    ]


def test_the_tank_turns_over_by_what_comes_from_elsewhere() -> None:
    """A spray bar that brings tank water straight back treats nothing."""
    data = _data("stacked-pair")
    data["vessels"][0]["ports"].append({"name": "spray", "height": 0.74})
    data["junctions"] = [{"id": "J1", "name": "Tee", "height": 0.8}]
    riser = data["runs"][0]
    end, riser["to"] = riser["to"], "J1"
    bore = {"kind": "inside", "diameter": 0.025}
    data["runs"] += [
        {"id": "R8", "name": "On", "from": "J1", "to": end, "bore": bore, "level_length": 0.5},
        {
            "id": "R9",
            "name": "Spray",
            "from": "J1",
            "to": "T1.spray",
            "bore": bore,
            "level_length": 0.2,
        },
    ]
    found = assess(plan_from_data(data))
    tank = found.evaluation.vessels["T1"]
    assert tank.returned == pytest.approx(found.evaluation.runs["R9"].flow)
    assert tank.treated == pytest.approx(found.evaluation.runs["R2"].mean_flow, rel=0.01)
    told = found.figure("T1.turnover")
    assert told is not None
    assert told.value == pytest.approx(tank.treated / tank.volume)
    assert told.compare_with["all"] == pytest.approx(tank.inflow / tank.volume)


def test_a_plan_broken_before_anything_fails_says_so() -> None:
    """A bed that always runs over: no list of harmless failures."""
    dynamic = assess_dynamic(_assessed("nearly-shut-drain"))
    assert ("spills", "B1") in dynamic.resilience.broken
    assert not dynamic.resilience.outcomes
    assert dynamic.resilience.harmless == 0


def test_random_falling_pump_curves_that_end_at_no_head_are_worked_out() -> None:
    pick = random.Random(5)
    for _ in range(300):
        count = pick.randint(3, 8)
        flows = np.cumsum([pick.uniform(1e-5, 3e-4) for _ in range(count)])
        heads = np.sort([pick.uniform(0.0, 4.0) for _ in range(count - 1)])[::-1].tolist()
        heads += [0.0]
        if pick.random() < 0.3:
            heads[-2] = 0.0
        curve = PointsCurve(list(zip(flows.tolist(), heads, strict=True)))
        assert curve.head(curve.max_flow)[0] == pytest.approx(0.0, abs=1e-9)
        assert curve.head(0.99 * curve.max_flow)[0] >= 0.0


@pytest.mark.parametrize(
    "name",
    ["curve-ends-at-no-head", "drains-in-a-ring", "nearly-shut-drain", "valve-on-no-delivery"],
)
def test_what_once_broke_off_is_worked_out_and_followed(name: str) -> None:
    found = _dynamic(name)
    assert all(np.isfinite(v.volume) for v in found.assessment.evaluation.vessels.values())


def test_schedules_are_claims_on_the_sump_and_events_of_the_run() -> None:
    """40 L brought in the morning and taken out at night: the tank must hold them by day."""
    data = _data("stacked-pair")
    shared = {"volume": 0.04, "flow": 1e-4, "every": 86400.0}
    data["transfers"] = [
        {"id": "Q1", "name": "Morning water", "target": "T1", "at": 8 * 3600.0, **shared},
        {"id": "Q2", "name": "Evening water", "source": "T1", "at": 20 * 3600.0, **shared},
    ]
    found = assess(plan_from_data(data))
    assert "U14" not in {f.rule.id for f in found.findings}
    dynamic = assess_dynamic(found, with_failures=False)
    claims = {c.kind: c.volume for c in dynamic.resilience.sumps[0].claims}
    assert claims["schedule"] == pytest.approx(0.04, rel=1e-6)
    run = dynamic.resilience.scheduled
    assert run is not None
    assert len(run.times_of("transfer", "Q1")) == len(run.times_of("transfer_ends", "Q1")) == 4
    assert not [f for f in dynamic.findings if f.rule.id == "U15"]


@pytest.mark.parametrize("every", [2 * 86400.0, 7 * 86400.0, 20 * 86400.0])
def test_the_undisturbed_plan_is_followed_for_twice_its_longest_schedule(every: float) -> None:
    data = _data("stacked-pair")
    data["transfers"] = [
        {
            "id": "Q1",
            "name": "Sludge",
            "source": "T1",
            "volume": 0.002,
            "flow": 1e-4,
            "every": every,
        }
    ]
    dynamic = assess_dynamic(assess(plan_from_data(data)), with_failures=False)
    run = dynamic.resilience.scheduled
    assert run is not None
    lasts = min(max(2.0 * every, 4 * 86400.0), 28 * 86400.0)
    assert run.times[-1] == pytest.approx(lasts, rel=1e-3)


def test_a_siphon_held_running_by_a_float_valve_in_its_bed_is_told() -> None:
    """A miss of the hunt: the pump lifts nothing, and the float valve feeds the bed for ever."""
    data = _data("linked-beds")
    data["pumps"][0]["curve"] |= {"max_flow": 1.6e-4, "max_head": 0.014}
    data["top_ups"] = [
        {"id": "Z1", "name": "Float valve", "stands_in": "B2", "level": 0.232, "flow": 7.1e-4}
    ]
    found = assess(plan_from_data(data))
    assert ("B1", "X1") in _told(found, "fault")
    run = simulate(plan_from_data(data), 12.0)
    assert run.times_of("starts", "X1")
    assert not run.times_of("breaks", "X1")


def test_the_vessel_that_takes_up_the_rest_is_told_to_overflow() -> None:
    """A tank cut lower than its running level: no brim stands in the balance for it, and its beds
    get nothing once its water is gone (found by the hunt)."""
    plan = lists_of(Path("examples/cascade-float-lift.json"))
    tank = next(v for v in plan["vessels"] if v["id"] == "T1")
    tank["shape"]["height"] = 0.5814
    low = plan_from_data(plan)
    told = {f.id: f for f in assess(low).findings if f.place == "T1"}
    assert told["U0.level_over_rim"].severity == "fault"
    assert simulate(low, 1.0).spills["T1"] > 0.05
    tank["shape"]["height"] = 0.85
    assert not any(f.rule.id == "U0" for f in assess(plan_from_data(plan)).findings)
