"""Siphons and timers that are designed do what was asked of them in the time simulation."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import apply_edits
from bathys.pipeline import assess
from bathys.plan import plan_from_data
from bathys.simulation import simulate
from bathys.sizing import (
    SiphonAsk,
    TimerAsk,
    ask_of_bed,
    choice_edits,
    design_siphon,
    design_timer,
)
from bathys.vessels import Storage, storage_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

LITRE_AN_HOUR = 1.0 / 3.6e6


@pytest.mark.parametrize("inflow", [150.0, 400.0, 900.0, 2000.0])
def test_what_is_chosen_starts_and_stops_when_it_is_built(inflow: float) -> None:
    """Built into the demo and fed through a valve set for that flow, the best bell cycles, by its
    window and through time."""
    document: dict[str, Any] = lists_of(EXAMPLE)
    document["pumps"][0]["curve"] = {
        "kind": "points",
        # All but upright: what it gives hardly changes with the level.
        "points": [
            {"flow": 0.0, "head": 90.0},
            {"flow": inflow * LITRE_AN_HOUR, "head": 1.1},
            {"flow": inflow * LITRE_AN_HOUR * 1.02, "head": 0.0},
        ],
    }
    document["runs"][0]["valve"]["angle"] = 0.0
    plan = plan_from_data(document)
    before = assess(plan).evaluation.beds[0]
    tail = plan.run_from("S1.tail")
    assert tail is not None
    cycle = before.cycle
    ask = ask_of_bed(before.loop.built, tail, cycle.start_inflow, cycle.break_inflow)
    best = next(c for c in design_siphon(ask).choices if c.kind == "bell")
    built = apply_edits(plan, choice_edits(before.siphon, best, tail.id))
    assert assess(built).evaluation.beds[0].cycle.verdict == "cycles"
    found = simulate(built, 6.0)
    assert len(found.times_of("breaks", "S1")) >= 2
    assert not found.times_of("hangs", "S1")


def test_design_is_refused_with_a_reason() -> None:
    """Too little, too much, and too short a drop, each by its name; what would do is named."""
    little = design_siphon(SiphonAsk(20.0 * LITRE_AN_HOUR, 20.0 * LITRE_AN_HOUR))
    assert "too little" in little.refusal
    assert not [c for c in little.choices if c.fits]
    much = design_siphon(SiphonAsk(40_000.0 * LITRE_AN_HOUR, 40_000.0 * LITRE_AN_HOUR))
    assert "too much" in much.refusal
    flat = design_siphon(SiphonAsk(700.0 * LITRE_AN_HOUR, 700.0 * LITRE_AN_HOUR, drop=-0.1))
    figures = flat.figures or {}
    assert figures["wanted"] > figures["drop"]
    ask = SiphonAsk(700.0 * LITRE_AN_HOUR, 700.0 * LITRE_AN_HOUR, drop=figures["wanted"])
    assert not design_siphon(ask).refusal


def test_bells_are_about_twice_their_standpipes() -> None:
    """V11 (common practice): ¾ → 1½, 1 → 2."""
    design = design_siphon(SiphonAsk(400.0 * LITRE_AN_HOUR, 400.0 * LITRE_AN_HOUR))
    bells = {c.nominal: c.bell for c in design.tried if c.kind == "bell"}
    assert bells["3/4 in"] == "1 1/2 in"
    assert bells["1 in"] == "2 in"


@settings(max_examples=20)
@given(st.floats(60.0, 6000.0), st.floats(0.1, 0.8), st.floats(0.05, 0.4))
def test_more_drop_never_lowers_the_flow_at_which_a_siphon_stops(
    inflow: float, drop: float, more: float
) -> None:
    """For every siphon tried."""
    flow = inflow * LITRE_AN_HOUR
    one, two = (design_siphon(SiphonAsk(flow, flow, drop=d)).tried for d in (drop, drop + more))
    for a, b in zip(one, two, strict=True):
        assert b.window.stop.value > a.window.stop.value
        assert b.window.start.value == a.window.start.value


def test_a_timer_does_in_the_run_what_it_was_designed_for() -> None:
    """Minutes and holes put into the timed example: filled and drained within a minute of what was
    said."""
    document: dict[str, Any] = lists_of(EXAMPLE.parent / "two-pump-timed.json")
    plan = plan_from_data(document)
    inflow = assess(plan).evaluation.runs["R5"].flow
    pipe = plan.part("O3")
    ask = TimerAsk(inflow, pipe.rim_height, pipe.hole_height)
    choice = design_timer(storage_of(plan, plan.vessel("B1")), ask).choices[0]
    for part in document["outlets"]:
        if part["id"] in ("O3", "O4"):
            part |= {"holes": choice.holes, "hole_diameter": choice.diameter}
    document["pumps"][1]["switch"] = {"kind": "timer", "on": choice.on, "off": choice.off}
    built = plan_from_data(document)
    found = simulate(built, 4.0, every=5.0)
    level = found.level("B1") - built.vessel("B1").floor_height
    on, off = found.times_of("pump_on", "P2")[1], found.times_of("pump_off", "P2")[1]
    filled = found.times[(found.times > on) & (level >= pipe.rim_height)][0] - on
    drained = found.times[(found.times > off) & (level < pipe.hole_height + 0.005)][0] - off
    assert filled == pytest.approx(choice.fill_time, abs=60.0)
    assert drained == pytest.approx(choice.drain_time, abs=60.0)


def test_a_timer_is_refused_with_a_reason() -> None:
    """Too little water to fill in time."""
    bed = Storage([0.0, 0.3], [0.5, 1.2], 0.35)
    found = design_timer(bed, TimerAsk(100.0 * LITRE_AN_HOUR, 0.25))
    assert not found.choices
    assert (found.figures or {})["least"] > 600.0


def test_a_dry_bed_is_told_to_be_fed_first() -> None:
    found = design_siphon(SiphonAsk(0.0, 0.0))
    assert found.choices == ()
    assert "No water comes into this bed" in found.refusal
