"""Things done to a plan while it runs, and what its pipes ask of a pump as they age."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.network import balance
from bathys.physics.water import water_at
from bathys.plan import load_plan
from bathys.scenarios import ScenarioStep, follow
from bathys.simulation import Doings, PowerCut, Rain, Weather, simulate
from bathys.sizing import pump_line, system_curves
from bathys.units import FAMILIES, mixed, own_system, read, show
from tests.conftest import EXAMPLE

EXAMPLES = sorted(EXAMPLE.parent.glob("*.json"))
PLAN = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())


@settings(max_examples=12)
@given(at=st.floats(30.0, 7000.0), lasts=st.floats(60.0, 3000.0))
def test_pulling_the_plug_on_the_way_is_the_power_cut_known_beforehand(
    at: float, lasts: float
) -> None:
    """Stopped, changed and gone on with, or told from the start: the same water."""
    told = simulate(PLAN, 3.0, Doings(PowerCut(at, lasts)), every=60.0)
    done = follow(PLAN, 3.0, [ScenarioStep(at, "plug", amount=lasts)], every=60.0)
    for vessel in PLAN.vessels:
        usual = np.interp(told.times, done.times, done.level(vessel.id))
        assert np.median(np.abs(usual - told.level(vessel.id))) < 2e-3
    kinds = [e.kind for e in done.events if e.kind.startswith("power")]
    assert kinds == [e.kind for e in told.events if e.kind.startswith("power")]
    assert done.lost < 1e-9


@pytest.mark.parametrize("at", [30.0, 31.0, 45.0, 52.5, 60.0, 333.0, 2000.0])
@pytest.mark.parametrize("lasts", [600.0, 1790.0, 1797.0, 1800.0])
def test_siphons_start_at_the_same_moment_however_the_steps_fall(at: float, lasts: float) -> None:
    """A step that ended just short of a siphon's start was once followed by a whole one, which
    began it seconds late."""
    told = simulate(PLAN, 1.0, Doings(PowerCut(at, lasts)))
    done = follow(PLAN, 1.0, [ScenarioStep(at, "plug", amount=lasts)])
    for siphon in PLAN.siphons:
        one, two = told.times_of("starts", siphon.id), done.times_of("starts", siphon.id)
        assert len(one) == len(two)
        assert one == pytest.approx(two, abs=0.5)


def test_nothing_done_changes_nothing_and_the_past_stays() -> None:
    """No steps is the plain run; before a step, all is as without it; two steps add up."""
    calm = simulate(PLAN, 3.0, every=30.0)
    assert np.array_equal(follow(PLAN, 3.0, every=30.0).levels, calm.levels)
    steps = [ScenarioStep(3600.0, "block", "R8"), ScenarioStep(5400.0, "rain", amount=0.02)]
    done = follow(PLAN, 3.0, steps, every=30.0)
    past = calm.times < 3600.0
    tank = [run.level("T1")[: past.sum()] for run in (calm, done)]
    assert tank[1] == pytest.approx(tank[0], abs=1e-5)
    assert done.spills["T1"] > 0.1
    dry = follow(PLAN, 3.0, steps[:1], every=30.0)
    catch = done.supplied - dry.supplied
    told = simulate(PLAN, 3.0, Doings(weather=Weather(0.0, Rain(5400.0, 3600.0, 0.02))))
    assert catch == pytest.approx(told.supplied, rel=1e-3)
    assert done.lost < 1e-9


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_a_pump_settles_where_its_line_meets_what_the_pipes_ask(path) -> None:  # type: ignore[no-untyped-def]
    """In every example; what pipes take rises with the head, and falls as they age."""
    now = balance(load_plan(path.read_bytes()), water_at(20.0))
    for pump in now.plan.pumps:
        curves = system_curves(now, pump)
        assert curves[0].duty_flow == pytest.approx(now.pump_flows[pump.id], rel=1e-6)
        line = pump_line(pump)
        for curve in curves:
            assert np.all(np.diff(curve.flows) >= -1e-9)
            assert np.all(curve.flows <= curves[0].flows + 1e-9)
            asked = np.interp(curve.duty_head, curve.heads, curve.flows)
            assert curve.duty_flow == pytest.approx(asked, rel=1e-4)
            made = np.interp(curve.duty_flow, line.flows, line.heads)
            assert curve.duty_head == pytest.approx(made, rel=0.01)


def test_a_bare_riser_asks_lift_and_the_square_of_the_flow() -> None:
    """One pipe in rough flow: what it asks above its lift grows nearly with the square (closed
    form: Darcy-Weisbach at a constant friction factor)."""
    now = balance(load_plan(EXAMPLE.read_bytes()), water_at(20.0))
    curve = next(c for c in system_curves(now, now.plan.pumps[0]) if c.fouling == "neglected")
    lift = now.plan.elevation("B1.inlet") - now.levels["T1"]  # type: ignore[operator]
    run = curve.flows > 0.3 * curve.flows[-1]
    power = np.polyfit(np.log(curve.flows[run]), np.log(curve.heads[run] - lift), 1)[0]
    assert 1.9 < power <= 2.01


@given(st.fixed_dictionaries({f: st.sampled_from(["metric", "us"]) for f in FAMILIES}))
def test_every_mix_of_units_shows_and_reads_each_quantity_in_its_own(choices) -> None:  # type: ignore[no-untyped-def]
    """The choice comes back out of the mix; what is shown is read again as the same."""
    units = mixed(choices)
    for family, (_, quantities) in FAMILIES.items():
        for quantity in quantities:
            assert own_system(units, quantity) == choices[family]
            assert show(1.5, quantity, units) == show(1.5, quantity, choices[family])
            if quantity in ("length", "flow", "volume", "mass"):
                assert read("12", quantity, units) == read("12", quantity, choices[family])
