"""Water in and out: rain drums, float valves, topping up by hand, exchanges, the reserve."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.edits import apply_edits
from bathys.evaluation.reserve import reserve_of
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import BadPlan, Plan, plan_from_data
from bathys.simulation import Doings, Rain, Weather, simulate
from bathys.simulation.boundary_conditions import is_under_way
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

DAY, HOUR = 86400.0, 3600.0


def _tank(id_: str, side: float, depth: float, **more: Any) -> dict[str, Any]:
    return {
        "id": id_, "name": id_, "job": "sump", "floor_height": 0.0, "water_depth": depth,
        "shape": {"kind": "box", "length": side, "width": side, "height": 1.0}, **more,
    }  # fmt: skip


def _plan(*vessels: dict[str, Any], **lists: Any) -> Plan:
    head = {"format": "bathys-plan", "version": 4, "name": "Tanks", "vessels": list(vessels)}
    return plan_from_data({**head, **lists})


def test_a_roof_fills_its_drum() -> None:
    """20 mm of rain on a 12 m2 roof and the drum's own open rim of 0.36 m2: 247 L (depth times
    area); under its lid only the roof counts."""
    rain = Doings(weather=Weather(rain=Rain(0.0, HOUR, 0.02)))
    for lid, litres in ((0.0, 247.2), (1.0, 240.0)):
        plan = _plan(_tank("D1", 0.6, 0.1, catch_area=12.0, covered=lid))
        found = simulate(plan, 2.0, rain)
        rose = float(found.level("D1")[-1] - found.level("D1")[0]) * 0.36 * 1000.0
        assert rose == pytest.approx(litres, rel=1e-6)
        assert found.lost < 1e-12


def test_a_float_valve_by_its_pressure_is_an_orifice() -> None:
    """3 bar on a 3 mm seat: Cd a sqrt(2 p / rho) = 0.62 * 7.07 mm2 * 24.5 m/s = 387 L/h
    (Torricelli)."""
    valve = {"id": "W1", "name": "W1", "stands_in": "S1", "level": 0.8, "flow": 1e-5}
    plan = _plan(_tank("S1", 1.0, 0.3), top_ups=[{**valve, "supply": 3e5, "seat": 0.003}])
    flow = plan.top_ups[0].lets_in
    assert flow * 3.6e6 == pytest.approx(
        0.62 * math.pi * 0.0015**2 * math.sqrt(2 * 3e5 / 998) * 3.6e6
    )
    found = simulate(plan, 1.0)
    assert float(found.level("S1")[-1]) == pytest.approx(0.3 + flow * HOUR, rel=1e-6)
    plain = _plan(_tank("S1", 1.0, 0.3), top_ups=[valve])
    assert plain.top_ups[0].lets_in == 1e-5


def test_a_float_valve_on_a_rain_drum_takes_what_the_drum_has() -> None:
    """The sump rises by what the drum falls, until the drum is empty; nothing comes from outside
    (mass)."""
    valve = {
        "id": "W1",
        "name": "W1",
        "stands_in": "S1",
        "level": 0.8,
        "flow": 2e-5,
        "source": "D1",
    }
    plan = _plan(_tank("S1", 1.0, 0.3), _tank("D1", 0.5, 0.4), top_ups=[valve])
    found = simulate(plan, 3.0, every=60.0)
    sump, drum = found.level("S1") * 1.0, found.level("D1") * 0.25
    assert np.ptp(sump + drum) < 1e-9
    assert found.supplied == pytest.approx(0.0, abs=1e-12)
    assert float(drum[-1]) < 1.1e-3
    assert float(sump[-1]) == pytest.approx(0.4, abs=1.1e-3)
    with pytest.raises(BadPlan, match="cannot draw from the vessel"):
        _plan(_tank("S1", 1.0, 0.3), top_ups=[{**valve, "source": "S1"}])
    with pytest.raises(BadPlan, match="no vessel called"):
        _plan(_tank("S1", 1.0, 0.3), top_ups=[{**valve, "source": "D9"}])


def test_topping_up_by_hand_brings_back_what_dried_off() -> None:
    """Every second day at 8:00: the level falls by 6 mm a day and is back at its mark after each
    visit; a float does so at once, and what came in all is what dried off (mass)."""
    hand = {
        "kind": "hand", "id": "W1", "name": "W1", "stands_in": "S1", "level": 0.5, "flow": 2e-4,
        "at": 8 * HOUR, "every": 2 * DAY,
    }  # fmt: skip
    dry = Doings(weather=Weather(evaporation=0.006 / DAY))
    found = simulate(_plan(_tank("S1", 1.0, 0.5), top_ups=[hand]), 96.0, dry, every=600.0)
    level, times = found.level("S1"), found.times
    before = float(level[np.searchsorted(times, 2 * DAY + 8 * HOUR) - 1])
    after = float(level[np.searchsorted(times, 2 * DAY + 9 * HOUR)])
    assert before == pytest.approx(after - 0.006 * 47.0 / 24.0, abs=6e-4)
    assert after == pytest.approx(0.5, abs=2e-3)
    fell = float(level[0]) - float(level[-1])
    assert found.supplied + 0.006 * (4.0 - times[-1] / DAY) == pytest.approx(-fell, abs=1e-6)


def test_a_fifth_exchanged_a_week_is_ten_gallons_of_fifty() -> None:
    """20 % of 50 gal is 10 gal (arithmetic); it goes out and comes in again, and the level is back
    where it stood."""
    side = math.sqrt(50.0 * 3.785412e-3 / 0.8)
    exchange = {
        "kind": "exchange", "id": "Z1", "name": "Z1", "stands_in": "S1", "share": 0.2,
        "flow": 1e-4, "at": HOUR,
    }  # fmt: skip
    plan = _plan(_tank("S1", side, 0.8), transfers=[exchange])
    out, back = plan.moves
    assert out.volume / 3.785412e-3 == pytest.approx(10.0, rel=1e-6)
    assert (out.every, back.at) == (7 * DAY, pytest.approx(HOUR + out.lasts))
    found = simulate(plan, 4.0, every=10.0)
    level = found.level("S1")
    assert float(level.min()) == pytest.approx(0.8 * 0.8, abs=1e-3)
    assert float(level[-1]) == pytest.approx(0.8, abs=1e-6)
    assert found.lost < 1e-12
    assert [e.kind for e in found.events] == ["transfer", "transfer_ends"]


@given(share=st.floats(0.05, 0.9), flow=st.floats(2e-5, 1e-3), time=st.floats(0.0, 14 * DAY))
def test_an_exchange_never_fills_and_empties_at_once(
    share: float, flow: float, time: float
) -> None:
    """Law: at any moment water goes out, comes in, or does neither."""
    exchange = {
        "kind": "exchange", "id": "Z1", "name": "Z1", "stands_in": "S1", "share": share,
        "flow": flow,
    }  # fmt: skip
    moves = _plan(_tank("S1", 1.0, 0.8), transfers=[exchange]).moves
    assert sum(is_under_way(m, time) for m in moves) <= 1
    assert moves[0].volume == pytest.approx(moves[1].volume)


def test_the_reserve_lasts_as_a_bucket_would() -> None:
    """Water over the pump by the sump's own area, over what dries off the open water a day less the
    rain that can be counted on; told at the head of the page."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    plan = plan_from_data(document)
    found = assess(plan)
    kept = reserve_of(found.evaluation, "S1")
    assert kept is not None
    sump = found.evaluation.vessels["S1"]
    over = sump.levels.low - sump.vessel.floor_height - plan.pumps[0].inlet_height - 0.05
    assert kept.volume == pytest.approx(1.6 * 1.1 * over, rel=0.02)
    circles = math.pi / 4.0 * (1.5**2 + 2 * 0.58**2)
    assert kept.dries == pytest.approx(0.005 * (circles + 1.6 * 1.1 + 2.4 * 1.2), rel=1e-6)
    head = next(f for f in found.headlines if f.key == "plan.water")
    assert head.value == pytest.approx(
        sum(v.rest_volume for v in found.evaluation.vessels.values())
    )
    assert head.compare_with["days"] == pytest.approx(kept.days)
    document["site"]["rain_a_week"] = 0.01
    wetter = reserve_of(assess(plan_from_data(document)).evaluation, "S1")
    assert wetter is not None
    rim = circles + 1.6 * 1.1 + 2.4 * 1.2 + 2 * 1.15 * 0.95
    assert wetter.comes == pytest.approx(0.01 / 7.0 * rim, rel=1e-6)


def test_hands_that_come_too_rarely_are_told() -> None:
    """U17; and by hand nobody tops up while away (U4 counts float valves only)."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    document["site"]["evaporation"] = 0.02
    document["top_ups"] = [
        {"kind": "hand", "id": "W1", "name": "W1", "stands_in": "S1", "level": 0.44, "flow": 2e-4,
         "every": 30 * DAY}
    ]  # fmt: skip
    found = assess(plan_from_data(document))
    told = next(f for f in found.findings if f.rule.id == "U17")
    offer = told.list_offers()[0]
    fixed = assess(apply_edits(plan_from_data(document), list(offer.edits)))
    assert "U17" not in {f.rule.id for f in fixed.findings}
    dynamic = assess_dynamic(found, with_failures=True)
    assert not [o for o in dynamic.resilience.outcomes if o.failure.kind == "stuck_float"]
