"""Bells, loops and standpipes as they are really built."""

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from bathys.edits import set_value, switch_kind
from bathys.evaluation import BedResult
from bathys.physics import GRAVITY, area_of
from bathys.physics.siphon import elbow_rise, elbow_start_share
from bathys.pipeline import assess
from bathys.plan import BadPlan, plan_from_data
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of


def _bed(**fields: Any) -> BedResult:
    document = lists_of(EXAMPLE)
    document["siphons"][0] |= fields
    return assess(plan_from_data(document)).evaluation.beds[0]


@given(angle=st.floats(0.0, 90.0), more=st.floats(0.0, 45.0))
def test_an_elbow_turned_further_up_starts_with_less(angle: float, more: float) -> None:
    """Level it changes nothing, upright it takes 0.6 (0.5 to 1) of the spill (assumed, the
    handbooks' factor); between the two it never rises."""
    one, two = elbow_start_share(angle), elbow_start_share(min(angle + more, 90.0))
    assert two.value <= one.value <= 1.0
    assert one.low <= one.value <= one.high == 1.0
    assert elbow_start_share(0.0).value == 1.0
    assert (elbow_start_share(90.0).value, elbow_start_share(90.0).low) == (0.6, 0.5)


@pytest.mark.parametrize("angle", [0.0, 30.0, 90.0])
def test_back_pressure_of_the_last_elbow_is_its_rise(angle: float) -> None:
    """Full flow is what the head from level to the raised mouth drives through the same line and
    one more elbow: g H = sum of losses, by root finding."""
    plain, bent = _bed(), _bed(end_elbow=angle)
    built, level = bent.loop.built, 0.2
    bore = built.bore
    elbow = next(p for p in built.line.pieces if p.label == "last elbow of the tail")
    before = plain.loop.built
    head = before.floor + level - before.outlet - elbow_rise(bore, angle)

    def short(flow: float) -> float:
        lost = float(before.line.loss([flow])[0][0])
        return head - lost - elbow.loss * (flow / area_of(bore)) ** 2 / (2.0 * GRAVITY)

    assert float(built.full_flow(level, -9.0)[0]) == pytest.approx(
        brentq(short, 1e-6, 0.01), rel=1e-6
    )
    assert elbow_rise(bore, angle) == pytest.approx(1.4 * bore * math.sin(math.radians(angle)))


def test_what_lets_air_in_breaks_it() -> None:
    """The highest tube that has enough air, and its cup's rim; a thin one counts with the next
    below it, and for nothing alone."""
    wide, thin = 0.008, 0.0028
    assert _bed().loop.built.intake == pytest.approx(0.025)
    one = _bed(air_tubes=[{"bore": wide, "mouth_height": 0.06}])
    assert one.loop.built.intake == 0.06
    assert one.siphon.break_share.value > _bed().siphon.break_share.value
    cup = _bed(air_tubes=[{"bore": wide, "mouth_height": 0.06}], cup_depth=0.02)
    assert cup.loop.built.intake == pytest.approx(0.08)
    alone = _bed(air_tubes=[{"bore": thin, "mouth_height": 0.09}])
    assert alone.loop.built.intake == pytest.approx(0.025)
    assert not alone.siphon.has_air_tube
    pair = [{"bore": thin, "mouth_height": 0.09}, {"bore": wide, "mouth_height": 0.05}]
    assert _bed(air_tubes=pair).loop.built.intake == 0.05


def test_rows_of_holes_pass_what_slots_of_their_area_do() -> None:
    """Twelve 10 mm holes in two rows have 942 mm2 (12 pi d2/4); the siphon breaks at their top."""
    rows = [
        {"count": 6, "diameter": 0.010, "height": 0.010},
        {"count": 6, "diameter": 0.010, "height": 0.020},
    ]
    drilled = _bed(slot_area=None, hole_rows=rows)
    slotted = _bed(slot_area=12 * math.pi * 0.005**2, slot_height=0.025)
    assert drilled.siphon.foot_area == pytest.approx(9.42e-4, rel=1e-3)
    assert drilled.cycle.window == slotted.cycle.window


def test_what_throttles_it_makes_its_window_narrower() -> None:
    """A low cap, and a guard with few openings; neither moves its start."""
    plain = _bed().cycle.window
    for fields in ({"crown_gap": 0.003}, {"guard_area": 2e-4}):
        tight = _bed(**fields).cycle.window
        assert tight.stop.value < 0.95 * plain.stop.value
        assert tight.start == plain.start


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"bell_bore": {"kind": "inside", "diameter": 0.03}}, "wider than the standpipe"),
        ({"slot_area": None}, "slots or drilled holes"),
        ({"cup_depth": 0.02}, "there is none"),
        ({"air_tubes": [{"bore": 0.008, "mouth_height": 0.4}]}, "below the standpipe's rim"),
        ({"end_elbow": 91.0}, "at most 90"),
    ],
)
def test_what_cannot_be_built_is_refused(fields: dict[str, Any], words: str) -> None:
    with pytest.raises(BadPlan, match=words):
        _bed(**fields)


def _raft(**fields: Any) -> Any:
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    document["outlets"][1] |= fields
    plan = plan_from_data(document)
    found = assess(plan).evaluation
    level = found.vessels["G1"].levels.low - plan.vessel("G1").floor_height
    return plan, level, found.runs["R13"].flow


def test_a_sleeve_and_a_screen_raise_the_water_by_what_they_cost() -> None:
    """Through a sleeve's holes dh = (Q/(Cd A))2/2g and half a velocity head between the pipes
    (Torricelli, Crane); a screen of half its area takes the rim's head at twice the flow, and a
    ring its own height."""
    plan, plain, flow = _raft()
    pipe = plan.part("O2")
    sleeve = {
        "kind": "sleeve",
        "bore": {"kind": "inside", "diameter": 0.06},
        "hole_rows": [{"count": 5, "diameter": 0.008, "height": 0.02}],
    }
    sleeved, level, same = _raft(sleeve=sleeve)
    assert same == pytest.approx(flow, rel=0.02)
    holes = 5 * area_of(0.008)
    between = area_of(0.06) - area_of(pipe.bore.outside)
    cost = ((same / (0.62 * holes)) ** 2 + 0.5 * (same / between) ** 2) / (2.0 * 9.80665)
    assert level - plain == pytest.approx(cost, rel=0.01)
    assert sleeved.part("O2").takes_from == 0.02
    assert plan.part("O2").takes_from == plan.part("O2").rim_height
    screened = _raft(screen={"kind": "screen", "mesh": 0.004, "open_share": 0.5})[1]
    assert (screened - 0.28) / (plain - 0.28) == pytest.approx(2.0 ** (2.0 / 3.0), rel=0.01)
    assert _raft(ring_height=0.02)[1] - plain == pytest.approx(0.02, abs=1e-6)


def test_a_loop_is_set_within_its_range() -> None:
    """It is refused beyond it, and its section shows how low and how high it may be set."""
    document = lists_of(EXAMPLE.parent / "stacked-pair.json")
    plan = switch_kind(plan_from_data(document), "siphons.S1", "loop").plan
    crest = plan.part("S1").crest_height
    plan = set_value(plan, "siphons.S1.lowest_crest", crest - 0.05).plan
    assert plan.part("S1").crest_range == (pytest.approx(crest - 0.05), crest)
    with pytest.raises(ValueError, match="within the range"):
        set_value(plan, "siphons.S1.crest_height", crest - 0.06)
