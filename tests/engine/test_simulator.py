"""Plans through time, against closed forms, the exact cycle, the steady balance and the laws."""

import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from bathys.network import balance
from bathys.physics import GRAVITY, area_of
from bathys.physics.water import water_at
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.scenarios import follow
from bathys.simulation import Doings, NotSimulated, PowerCut, simulate, simulator
from tests.conftest import EXAMPLE
from tests.engine.random_plans import random_plan
from tests.plan_files import lists_of

EXAMPLES = sorted(p.stem for p in EXAMPLE.parent.glob("*.json"))


def _document(name: str) -> dict[str, Any]:
    document: dict[str, Any] = lists_of(EXAMPLE.parent / f"{name}.json")
    return document


def _plan(name: str) -> Plan:
    return load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_example_runs_and_keeps_its_water(name: str) -> None:
    """Three hours with a power cut in them: water kept to 1e-9, nothing over a rim, every siphon
    that cycles on paper cycles."""
    plan = _plan(name)
    found = simulate(plan, 3.0, Doings(PowerCut(6000.0, 1800.0)))
    assert found.lost < 1e-9
    assert found.spilled == 0.0
    assert all(found.times_of("breaks", s.id) for s in plan.siphons)
    assert np.all(np.isfinite(found.levels))
    assert np.all(np.diff(found.times) > 0.0)


def test_the_cycle_is_that_of_the_exact_integral() -> None:
    """One pump, one bed, one siphon: the cycle from Gauss–Legendre over the bed's level, which a
    stiff integrator has been held against. 0.2 %."""
    plan = _plan("stacked-pair")
    exact = assess(plan).evaluation.beds[0].cycle
    found = simulate(plan, 4.0)
    assert found.cycle("S1") == pytest.approx(exact.period, rel=2e-3)
    starts, breaks = found.times_of("starts", "S1"), found.times_of("breaks", "S1")
    assert breaks[-1] - starts[-1] == pytest.approx(exact.drain_time, rel=5e-3)
    level = found.level("B1") - plan.vessel("B1").floor_height
    assert level.max() == pytest.approx(exact.bed_high, abs=2e-3)


@pytest.mark.parametrize("name", ["raft-line", "side-tanks", "constant-flood", "decoupled-pair"])
def test_what_settles_settles_where_the_balance_says(name: str) -> None:
    """Without siphons and switches every level comes to that of the steady balance: 1 mm, and
    5 mm in the sump, which also holds what is on its way down the drains."""
    plan = _plan(name)
    steady = balance(plan, water_at(plan.site.water_temperature))
    found = simulate(plan, 12.0)
    for vessel in plan.vessels:
        slack = 0.016 if vessel.id in steady.closing.values() else 1e-3
        assert found.level(vessel.id)[-1] == pytest.approx(steady.levels[vessel.id], abs=slack)


def test_a_bed_drains_through_its_holes_as_torricelli_says() -> None:
    """t = (2 A φ/(Cd a √(2g))) (√h1 − √h0) with the pump off (Torricelli), heads over the holes'
    centres. 1 %: the level is sampled every ten seconds."""
    plan = _plan("two-pump-timed")
    found = simulate(plan, 4.0)
    pipe = plan.part("O3")
    bed = plan.vessel("B1")
    level = found.level("B1") - bed.floor_height - pipe.hole_height
    after = found.times > found.times_of("pump_off", "P2")[-1] + 60.0
    times, heads = found.times[after], level[after]
    first = int(np.argmax(heads < 0.25))
    last = int(np.argmax(heads < 0.06))
    assert last > first > 0
    shape, media = bed.shape, bed.media
    assert media is not None
    wetted = shape.length * shape.width * media.void_fraction  # type: ignore[union-attr]
    hole = 0.62 * pipe.holes * area_of(pipe.hole_diameter) * math.sqrt(2.0 * GRAVITY)
    closed = 2.0 * wetted / hole * (math.sqrt(heads[first]) - math.sqrt(heads[last]))
    assert times[last] - times[first] == pytest.approx(closed, rel=0.01)


def test_a_float_keeps_its_pit_between_its_marks() -> None:
    """On at the high mark, off at the low one; the run time is what arrives over what it moves."""
    plan = _plan("cascade-float-lift")
    found = simulate(plan, 8.0)
    pit = found.level("S1") - plan.vessel("S1").floor_height
    late = found.times > 7200.0
    band = plan.pumps[0].band
    assert band is not None
    assert pit[late].max() == pytest.approx(band.starts, abs=0.01)
    assert pit[late].min() == pytest.approx(band.stops, abs=0.01)
    share = found.running["P1"] / (8.0 * 3600.0)
    steady = balance(plan, water_at(20.0))
    assert share == pytest.approx(steady.shares["P1"], rel=0.06)


@pytest.mark.parametrize("vented", [True, False])
def test_an_open_tee_saves_the_tank(vented: bool) -> None:
    """A closed lift starts to siphon and, once the pump stops, draws its tank down; with the tee
    open the tank stays at its crest whatever happens."""
    document = _document("split-flow")
    lift = document["outlets"][0]
    lift["vented"] = vented
    lift["bore"] = {"kind": "inside", "diameter": 0.04}
    document["runs"][7]["bore"] = {"kind": "inside", "diameter": 0.03}
    document["vessels"][0]["shape"]["height"] = 1.3
    document["vessels"][0]["ports"][0]["height"] = 1.25
    plan = plan_from_data(document)
    found = simulate(plan, 5.0, Doings(PowerCut(9000.0, 9000.0)))
    crest = plan.vessel("T1").floor_height + lift["crest_height"]
    lowest = found.level("T1").min()
    if vented:
        assert not found.times_of("starts", "O1")
        assert lowest >= crest - 1e-6
    else:
        assert found.times_of("starts", "O1")
        assert lowest < crest - 0.05


def test_a_drowned_return_siphons_the_bed_back_and_a_check_valve_holds() -> None:
    """When the power fails, water runs back through the stopped pump down to the outlet's mouth."""
    document = _document("stacked-pair")
    document["vessels"][1]["ports"][0]["height"] = 0.10
    free = simulate(plan_from_data(document), 1.0)
    begun = free.times_of("breaks", "S1")[0]
    nearly_full = begun + 0.8 * (free.times_of("starts", "S1")[1] - begun)
    ends = []
    for fittings in ([], [{"kind": "swing_check", "count": 1}]):
        document["runs"][0]["fittings"] = fittings
        plan = plan_from_data(document)
        found = simulate(plan, 2.0, Doings(PowerCut(nearly_full, 6000.0)))
        level = found.level("B1") - plan.vessel("B1").floor_height
        ends.append(float(np.interp(nearly_full + 3000.0, found.times, level)))
    assert ends[0] == pytest.approx(0.10, abs=5e-3)
    assert ends[1] > 0.18


def test_a_bed_that_gets_too_little_never_starts_and_one_that_gets_too_much_hangs() -> None:
    """The verdicts of the window are those of the simulation."""
    for angle, kind in ((70.0, None), (0.0, "hangs")):
        document = _document("stacked-pair")
        document["runs"][0]["valve"]["angle"] = angle
        if kind:
            document["pumps"][0]["curve"] |= {"max_flow": 0.0009, "max_head": 3.0}
        plan = plan_from_data(document)
        verdict = assess(plan).evaluation.beds[0].cycle.verdict
        found = simulate(plan, 2.0)
        if kind is None:
            assert verdict == "never_starts"
            assert not found.times_of("starts", "S1")
        else:
            assert verdict in ("hangs", "holds")
            assert len(found.times_of("breaks", "S1")) == 0


def test_halving_the_tolerance_moves_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    """No reported cycle by more than 0.5 %, no level by more than a millimetre."""
    plan = _plan("twin-sumps")
    one = simulate(plan, 3.0)
    monkeypatch.setattr(simulator, "_TOLERANCE", 0.5 * simulator._TOLERANCE)
    monkeypatch.setattr(simulator, "_LEAST_SHARE", 0.5 * simulator._LEAST_SHARE)
    two = simulate(plan, 3.0)
    assert two.steps > 1.2 * one.steps
    for siphon in plan.siphons:
        assert one.cycle(siphon.id) == pytest.approx(two.cycle(siphon.id), rel=5e-3)
    assert one.level("S1").min() == pytest.approx(two.level("S1").min(), abs=1e-3)


@pytest.mark.parametrize("seed", [0, 1, 2, 4, 7, 8, 9, 10])
def test_water_is_kept_whatever_happens(seed: int) -> None:
    """Random layouts with a power cut each: kept to 1e-9, and stopping pumps makes no water."""
    found = simulate(random_plan(seed), 0.5, Doings(PowerCut(700.0 + 40.0 * seed, 500.0)))
    assert found.lost < 1e-9
    assert np.all(np.isfinite(found.levels))


@pytest.mark.parametrize("hours", [0.0, -1.0, 8760.0, math.nan])
def test_times_that_are_not_followed_are_refused(hours: float) -> None:
    """With a sentence."""
    with pytest.raises(NotSimulated, match="744"):
        simulate(_plan("stacked-pair"), hours)


def test_a_run_that_takes_too_much_work_is_given_as_far_as_it_came(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Bounded in work, with the part that flutters named; asked for whole, it is refused so."""
    monkeypatch.setattr("bathys.simulation.simulator._STEPS_AT_ONCE", 400)
    monkeypatch.setattr("bathys.simulation.simulator._STEPS_AN_HOUR", 0.0)
    plan = load_plan(Path("examples/split-flow.json").read_bytes())
    part = follow(plan, 12.0)
    assert part.cut_short
    assert 60.0 < part.times[-1] < 12 * 3600.0
    assert part.steps <= 401
    assert len(part.times) == len(part.levels)
    with pytest.raises(NotSimulated, match="too fast"):
        simulate(plan, 12.0)
