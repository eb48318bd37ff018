"""Pumps and valves by the clock, pumps that share a line, and what a dial does."""

import json
import math
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from bathys.kinds import model_named
from bathys.network import balance
from bathys.physics import GRAVITY, area_of
from bathys.physics.pump_curve import LabelCurve, ThrottledCurve
from bathys.physics.water import water_at
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import BadPlan, Plan, plan_from_data
from bathys.plan.switch import Clock
from bathys.simulation import simulate
from tests.conftest import EXAMPLE
from tests.engine.siphon_beds import friction
from tests.plan_files import lists_of

HOUR, DAY = 3600.0, 86400.0


def _read(data: dict[str, Any]) -> Any:
    return model_named("switches", "spells").model_validate_json(json.dumps(data))


def _spells(*lines: tuple[float, float], **fields: Any) -> Clock:
    rows = [{"begins": a * HOUR, "ends": b * HOUR} for a, b in lines]
    clock: Clock = _read({"spells": rows, **fields}).clock
    return clock


def test_spells_of_the_day_by_hand() -> None:
    """Over midnight, in turns within a spell, on some days of the week, in winter: counted by
    hand."""
    night = _spells((22.0, 6.0))
    assert [night.is_on(h * HOUR) for h in (0.0, 5.99, 6.0, 12.0, 22.0, 30.0)] == [
        True, True, False, False, True, False,
    ]  # fmt: skip
    assert night.share == pytest.approx(8.0 / 24.0)
    assert (night.runs, night.rests) == (8.0 * HOUR, 16.0 * HOUR)
    turns = _spells((6.0, 20.0), within_on=900.0, within_off=900.0)
    assert turns.share == pytest.approx(7.0 / 24.0)
    assert (turns.runs, turns.rests) == (900.0, 10.0 * HOUR + 900.0)
    weekly = _spells((8.0, 8.25), days=("wed",))
    assert weekly.turn == 7.0 * DAY
    assert weekly.next_change(0.0) == pytest.approx(2.0 * DAY + 8.0 * HOUR)
    assert weekly.share == pytest.approx(0.25 / 168.0)
    rows = {"spells": [{"begins": 0.0, "ends": 12 * HOUR}]}
    cold = {"winter_spells": [{"begins": 0.0, "ends": 6 * HOUR}], "winter_months": 4}
    year = _read(rows | cold | {"season": "winter"})
    assert year.clock.share == 0.25
    assert year.share_a_year == pytest.approx((8 * 0.5 + 4 * 0.25) / 12)


@given(
    lines=st.lists(st.tuples(st.integers(0, 95), st.integers(0, 95)), min_size=1, max_size=6),
    days=st.sets(st.sampled_from(["mon", "thu", "sun"])),
)
def test_a_clock_tells_the_same_by_its_edges_and_by_asking(
    lines: list[tuple[int, int]], days: set[str]
) -> None:
    """From edge to edge it stands as it stood; the time between them adds up to its share, whatever
    spells overlap (law)."""
    rows = [{"begins": a * 900.0, "ends": b * 900.0} for a, b in lines]
    clock = _read({"spells": rows, "days": sorted(days), "grid": "quarter"}).clock
    edges = [0.0]
    while edges[-1] < clock.turn - 1e-3:
        edges.append(min(clock.next_change(edges[-1]), clock.turn))
    on = sum(b - a for a, b in pairwise(edges) if clock.is_on(a))
    assert on == pytest.approx(clock.share * clock.turn)
    for a, b in pairwise(edges):
        assert clock.is_on(a) == clock.is_on(0.5 * (a + b))


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"spells": []}, "must be on at some time"),
        ({"spells": [{"begins": 60.0, "ends": 900.0}], "grid": "quarter"}, "quarters of an hour"),
        ({"spells": [{"begins": 0.0, "ends": 900.0}], "within_on": 60.0}, "need both"),
    ],
)
def test_what_no_timer_does_is_refused(fields: dict[str, Any], words: str) -> None:
    document = lists_of(EXAMPLE)
    document["pumps"][0]["switch"] = {"kind": "spells", **fields}
    with pytest.raises(BadPlan, match=words):
        plan_from_data(document)


def _waste(clock: dict[str, Any] | None) -> Plan:
    """A tank of 1 m2 with a hole low in its wall; a clock opens the valve of its pipe to waste."""
    run = {
        "id": "R1", "name": "Waste", "from": "T1.low", "to": "J1",
        "bore": {"kind": "inside", "diameter": 0.03}, "level_length": 6.0,
        "valve_clock": clock,
    }  # fmt: skip
    return plan_from_data(
        {
            "format": "bathys-plan",
            "version": 4,
            "name": "Waste",
            "vessels": [
                {
                    "id": "T1", "name": "Tank", "job": "fish_tank", "floor_height": 1.0,
                    "shape": {"kind": "box", "length": 1.0, "width": 1.0, "height": 1.0},
                    "water_depth": 0.9, "ports": [{"name": "low", "height": 0.2}],
                }
            ],
            "runs": [run],
            "junctions": [{"id": "J1", "name": "Waste", "kind": "outfall", "height": 0.9}],
        }
    )  # fmt: skip


def test_a_valve_opened_for_minutes_a_week_lets_out_just_that() -> None:
    """Five minutes at 8:00 on Tuesday: the level falls by what the run carries in that time, within
    1.5 % (Torricelli counts the jet from the pipe's middle, the engine from over it, as HDS-5 has
    it), and by nothing on other days; no water is lost (mass)."""
    short = {
        "kind": "spells",
        "spells": [{"begins": 8 * HOUR, "ends": 8 * HOUR + 300.0}],
        "days": ["tue"],
    }
    plan = _waste(short)
    found = simulate(plan, 72.0, every=600.0)
    kinds = [(e.kind, e.time) for e in found.events if e.kind.startswith("valve")]
    assert kinds == [("valve_opens", DAY + 8 * HOUR), ("valve_shuts", DAY + 8 * HOUR + 300.0)]
    line = balance(_waste(None), water_at(20.0)).layout.lines["R1"]

    def rate(_: float, level: Any) -> list[float]:
        """Torricelli through mouth, pipe and exit, friction by root finding [1/s]."""

        def short(flow: float) -> float:
            speed = flow / area_of(0.03)
            k = sum(p.loss for p in line.pieces)
            k += friction(flow, 0.03, 1.5e-6) * line.pieces[1].length / 0.03
            return float(level[0]) - 0.9 - k * speed * speed / (2.0 * GRAVITY)

        return [-float(brentq(short, 1e-6, 0.1))]

    fell = 1.9 - float(solve_ivp(rate, (0.0, 300.0), [1.9], rtol=1e-8).y[0, -1])
    levels = found.level("T1")
    before = levels[found.times < DAY + 8 * HOUR]
    assert np.ptp(before) < 1e-9
    assert levels[0] - levels[-1] == pytest.approx(fell, rel=0.015)
    assert found.carried["R1"] == pytest.approx(levels[0] - levels[-1], rel=1e-6)
    assert found.lost < 1e-12


def test_a_valve_is_judged_as_it_stands_most_of_the_time() -> None:
    """Open ten minutes in the hour it is shut to the balance; open fifty it is open. A float opens
    none."""
    rare, often = (
        {"kind": "timer", "on": a, "off": b} for a, b in ((600.0, 3000.0), (3000.0, 600.0))
    )
    water = water_at(20.0)
    assert balance(_waste(rare), water).layout.lines["R1"].shut
    assert not balance(_waste(often), water).layout.lines["R1"].shut
    with pytest.raises(BadPlan, match="by the clock only"):
        _waste({"kind": "float", "on_height": 0.4, "off_height": 0.2})


def test_pumps_by_day_stop_at_night_and_cost_less() -> None:
    """On 14 of 24 hours: watt-hours to the share; the sump is judged with the night in it, and the
    seasons count in the year's energy."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    whole = assess(plan_from_data(document))
    document["pumps"][0]["switch"] = {
        "kind": "spells",
        "spells": [{"begins": 6 * HOUR, "ends": 20 * HOUR}],
    }
    plan = plan_from_data(document)
    daily = assess(plan)
    one, two = (a.evaluation.duties["P1"].energy_year for a in (whole, daily))
    assert two / one == pytest.approx(14.0 / 24.0, rel=1e-9)
    found = simulate(plan, 48.0, every=60.0)
    assert [e.kind for e in found.events if e.kind.startswith("pump_")] == [
        "pump_on", "pump_off", "pump_on", "pump_off",
    ]  # fmt: skip
    periodic = assess_dynamic(daily, with_failures=False).resilience.periodic
    assert periodic.through.times[-1] >= 47.0 * HOUR


def test_the_sump_keeps_room_for_a_valve_on_a_clock() -> None:
    """A weekly flush of ten minutes out of the loop is a claim of its own: flow times time."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    document["vessels"][0]["ports"].append({"name": "flush", "height": 0.1})
    document["junctions"].append({"id": "J9", "name": "Waste", "kind": "outfall", "height": 0.2})
    document["runs"].append(
        {
            "id": "R99", "name": "Flush", "from": "T1.flush", "to": "J9",
            "bore": {"kind": "inside", "diameter": 0.025}, "level_length": 2.0,
            "valve_clock": {
                "kind": "spells", "days": ["sun"], "spells": [{"begins": 0.0, "ends": 600.0}],
            },
        }
    )  # fmt: skip
    plan = plan_from_data(document)
    sump = assess_dynamic(assess(plan), with_failures=False).resilience.sumps[0]
    claim = next(c for c in sump.claims if c.kind == "schedule")
    document["runs"][-1]["valve_clock"] = None
    flow = assess(plan_from_data(document)).evaluation.runs["R99"].flow
    assert claim.volume == pytest.approx(600.0 * flow, rel=0.02)


@given(share=st.floats(0.2, 1.0), at=st.floats(0.0, 1.0))
def test_a_dial_on_the_intake_takes_flow_and_no_lift(share: float, at: float) -> None:
    """Its lift at no flow stays, at no lift just its share is left; never more than the open
    pump, and it falls (law)."""
    new = LabelCurve(1e-3, 3.0, 2.0)
    curve = ThrottledCurve(new, share)
    assert curve.head(0.0)[0] == pytest.approx(3.0)
    assert curve.head(share * 1e-3)[0] == pytest.approx(0.0, abs=1e-9)
    head, slope = curve.head(at * share * 1e-3)
    assert head <= new.head(at * share * 1e-3)[0] + 1e-12
    assert slope < 0.0


def test_a_dial_is_asked_after_and_its_watts_differ() -> None:
    """Slowed to 70 % a pump draws 0.34 of its watts (affinity, 0.7 cubed); narrowed it draws them
    all. Until it is said, a note asks."""
    document = lists_of(EXAMPLE)
    document["pumps"][0]["dial"] = 0.7
    rated = document["pumps"][0]["power"]
    watts = {}
    for turns in ("unknown", "speed", "intake"):
        document["pumps"][0]["dial_turns"] = turns
        found = assess(plan_from_data(document))
        watts[turns] = found.evaluation.duties["P1"].power
        assert ("E5" in {f.rule.id for f in found.findings}) == (turns == "unknown")
    assert watts["speed"] == watts["unknown"] == pytest.approx(0.343 * rated)
    assert watts["intake"] == pytest.approx(rated)


def test_a_built_in_float_moves_with_its_pump() -> None:
    """Hung 10 cm higher, the pump starts and stops 10 cm higher."""
    document = lists_of(EXAMPLE)
    pump = document["pumps"][0]
    pump |= {"switch": {"kind": "built_in", "stops_above": 0.05, "travel": 0.2}, "hangs": True}
    marks = []
    for height in (pump["inlet_height"], pump["inlet_height"] + 0.1):
        pump["inlet_height"] = height
        band = plan_from_data(document).pumps[0].band
        assert band is not None
        marks.append((band.stops, band.starts))
    assert marks[1] == pytest.approx((marks[0][0] + 0.1, marks[0][1] + 0.1))
    assert "E6" in {f.rule.id for f in assess(plan_from_data(document)).findings}


def _shared_line() -> Plan:
    """Two pumps in two tanks on one line up to a third."""

    def tank(id_: str, side: float, floor: float, depth: float, **more: Any) -> dict[str, Any]:
        return {
            "id": id_, "name": id_, "job": "sump", "floor_height": floor, "water_depth": depth,
            "shape": {"kind": "box", "length": side, "width": side, "height": 1.2}, **more,
        }  # fmt: skip

    def pump(id_: str, vessel: str, flow: float, head: float) -> dict[str, Any]:
        return {
            "id": id_, "name": id_, "stands_in": vessel, "inlet_height": 0.02, "power": 50.0,
            "curve": {"kind": "label", "max_flow": flow, "max_head": head},
        }  # fmt: skip

    def run(id_: str, start: str, end: str, length: float) -> dict[str, Any]:
        return {
            "id": id_, "name": id_, "from": start, "to": end, "level_length": length,
            "bore": {"kind": "inside", "diameter": 0.026},
        }  # fmt: skip

    top = tank("C1", 1.5, 1.0, 0.05, job="fish_tank", ports=[{"name": "inlet", "height": 1.1}])
    return plan_from_data(
        {
            "format": "bathys-plan",
            "version": 4,
            "name": "Two pumps, one line",
            "vessels": [tank("A1", 1.0, 0.0, 0.9), tank("B1", 0.8, 0.1, 0.8), top],
            "pumps": [pump("P1", "A1", 1e-3, 4.0), pump("P2", "B1", 7e-4, 5.0)],
            "runs": [
                run("R1", "P1.out", "J1", 1.0),
                run("R2", "P2.out", "J1", 2.0),
                run("R3", "J1", "C1.inlet", 3.0),
            ],
            "junctions": [{"id": "J1", "name": "Joint", "kind": "plain", "height": 0.5}],
        }
    )


def test_two_pumps_in_two_tanks_share_a_line_as_a_stiff_integrator_says() -> None:
    """scipy's LSODA on the two tanks' levels; at each the head at the joint is found by root
    finding, with friction of Colebrook-White. 0.3 % of what is moved in ten minutes."""
    plan = _shared_line()
    lines = balance(plan, water_at(20.0)).layout.lines
    curves = {p.id: p.curve.law for p in plan.pumps}

    def lost(run: str, flow: float) -> float:
        head = 0.0
        for piece in lines[run].pieces:
            speed = abs(flow) / area_of(piece.area_bore)
            k = piece.loss
            if piece.length and flow:
                k += friction(abs(flow), 0.026, piece.roughness) * piece.length / 0.026
            head += k * speed * speed / (2.0 * GRAVITY)
        return math.copysign(head, flow)

    def from_pump(pump: str, run: str, level: float, joint: float) -> float:
        def short(q: float) -> float:
            return level + float(curves[pump].head(q)[0]) - lost(run, q) - joint

        return float(brentq(short, -5e-3, 5e-3))

    def flows(one: float, two: float) -> tuple[float, float]:
        def short(joint: float) -> float:
            both = from_pump("P1", "R1", one, joint) + from_pump("P2", "R2", two, joint)
            return joint - 2.1 - lost("R3", both)

        joint = float(brentq(short, 1.0, 6.0))
        return from_pump("P1", "R1", one, joint), from_pump("P2", "R2", two, joint)

    def rates(_: float, levels: Any) -> list[float]:
        one, two = flows(*levels)
        return [-one / 1.0, -two / 0.64]

    found = simulate(plan, 10.0 / 60.0, every=5.0)
    begin = [float(found.level(v)[1]) for v in ("A1", "B1")]  # once the pipes are full
    end = solve_ivp(rates, (5.0, 600.0), begin, rtol=1e-8, method="LSODA").y[:, -1]
    for vessel, first, last in zip(("A1", "B1"), begin, end, strict=True):
        fell = first - float(found.level(vessel)[-1])
        assert fell == pytest.approx(first - last, rel=3e-3)
    assert found.lost < 1e-12


def test_a_pump_that_runs_dry_leaves_the_shared_line_to_the_other() -> None:
    """B is empty first; from then on A alone gives what its pump gives against a standing one."""
    plan = _shared_line()
    found = simulate(plan, 1.0, every=5.0)
    air = [e for e in found.events if e.kind == "air"]
    assert air
    assert float(found.level("B1").min()) >= 0.1 - 1e-9
    assert found.lost < 1e-12
