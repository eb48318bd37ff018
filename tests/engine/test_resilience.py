"""Plans dynamic: power cuts, failures, sumps, weather, and the laws that hold whatever happens."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import apply_edits
from bathys.network import balance
from bathys.physics.water import water_at
from bathys.pipeline import (
    Remedy,
    assess,
    assess_dynamic,
    dynamic_remedies_of,
    remedies_of,
)
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.scenarios.failures import Failure, failures_of, try_failure
from bathys.scenarios.periodic_state import find_periodic_state
from bathys.scenarios.power_cut import try_power_cut
from bathys.scenarios.sump_capacity import sump_capacity_of
from bathys.simulation import Doings, PowerCut, Rain, Weather, simulate
from bathys.vessels import storage_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

FOLDER = EXAMPLE.parent
EXAMPLES = sorted(p.stem for p in FOLDER.glob("*.json"))

# Fault example, the rule that names it, the place, and whether it takes following through time.
FAULTS = [
    ("accidental-siphon", "P4", "O1", False),
    ("drowned-return", "P5", "R1", False),
    ("dry-start", "U3", "P1", True),
    ("trickling-siphon", "B1", "S1", False),
    ("hanging-siphon", "B1", "S1", False),
    ("backed-up-drain", "P3", "R14", False),
    ("starved-sump", "U1", "P1", False),
]


def _document(name: str) -> dict[str, Any]:
    document: dict[str, Any] = lists_of(FOLDER / f"{name}.json")
    return document


def _plan(name: str) -> Plan:
    return load_plan((FOLDER / f"{name}.json").read_bytes())


@pytest.mark.parametrize(
    ("name", "rule", "place", "is_dynamic"), FAULTS, ids=[f[0] for f in FAULTS]
)
def test_each_fault_has_a_plan_that_shows_it_and_a_remedy_that_removes_it(
    name: str, rule: str, place: str, is_dynamic: bool
) -> None:
    """The finding names it; the first remedy, applied, takes the finding away and makes no new
    fault."""
    before = assess(_plan(f"faults/{name}"))
    dynamic = assess_dynamic(before, with_failures=False)
    findings = dynamic.findings if is_dynamic else before.findings
    finding = next(f for f in findings if (f.rule.id, f.place) == (rule, place))
    assert finding.severity != "note"
    tried: tuple[Remedy, ...] = (
        dynamic_remedies_of(dynamic, finding) if is_dynamic else remedies_of(before, finding)
    )
    remedy = tried[0]
    assert remedy.cures
    after = assess(apply_edits(before.evaluation.plan, remedy.offer.edits))
    again = assess_dynamic(after, with_failures=False)
    assert (rule, place) not in [(f.rule.id, f.place) for f in (*after.findings, *again.findings)]
    known = {(f.rule.id, f.place) for f in (*before.findings, *dynamic.findings)}
    assert not [
        f
        for f in (*after.findings, *again.findings)
        if f.severity == "fault" and (f.rule.id, f.place) not in known
    ]


def test_the_faults_happen_in_the_run_as_they_are_told() -> None:
    """A trickling siphon never starts, a hanging one never breaks, a dry start draws air, an
    accidental siphon draws the tank below its crest when the power fails."""
    trickling = simulate(_plan("faults/trickling-siphon"), 3.0)
    assert not trickling.times_of("starts", "S1")
    hanging = simulate(_plan("faults/hanging-siphon"), 3.0)
    assert hanging.times_of("starts", "S1")
    assert not hanging.times_of("breaks", "S1")
    assert simulate(_plan("faults/dry-start"), 3.0).times_of("air", "P1")
    plan = _plan("faults/accidental-siphon")
    closed = simulate(plan, 5.0, Doings(PowerCut(9000.0, 9000.0)))
    crest = plan.vessel("T1").floor_height + plan.part("O1").crest_height
    assert closed.level("T1").min() < crest - 0.05


@pytest.mark.parametrize("name", EXAMPLES)
def test_no_example_is_hurt_by_a_power_cut(name: str) -> None:
    """Nothing runs over, fish tanks keep what stands under their crests, no pump runs dry when
    the power is back; and what each vessel ends with adds up to what there was."""
    plan = _plan(name)
    now = balance(plan, water_at(plan.site.water_temperature))
    periodic = find_periodic_state(plan)
    for trial in try_power_cut(plan, periodic, set(now.closing.values())):
        assert trial.spilled == 0.0
        assert trial.restart.spilled == 0.0
        assert trial.restart.air == ()
        assert trial.dark.lost < 1e-9
        for row in trial.vessels:
            if (
                plan.vessel(row.vessel).job == "fish_tank"
                and row.vessel not in now.closing.values()
            ):
                assert row.share_left > 0.8


@pytest.mark.parametrize("name", ["stacked-pair", "twin-sumps", "raft-line"])
def test_a_sump_ends_a_power_cut_where_the_water_that_is_left_puts_it(name: str) -> None:
    """Final sump = all water − what stays in the others; and it never stands higher than when all
    was filled, beds drained."""
    plan = _plan(name)
    now = balance(plan, water_at(plan.site.water_temperature))
    periodic = find_periodic_state(plan)
    closers = set(now.closing.values())
    trial = try_power_cut(plan, periodic, closers)[0]
    rest = simulate(plan, 0.01).end
    total = sum(rest.volumes.values()) + sum(rest.piped.values())
    final = trial.dark.end.volumes
    kept = sum(v for k, v in final.items() if k not in closers)
    assert sum(final[c] for c in closers) == pytest.approx(total - kept, rel=1e-6)
    now_rest = now.rest_levels
    for closer in closers:
        assert trial.dark.level(closer)[-1] <= now_rest[closer] + 1e-3


def test_claims_add_up_and_marks_rise() -> None:
    """Each mark over the one before; the swing of one pair of vessels is what its bed moves; the
    evaporation is days × rate × open water."""
    plan = _plan("stacked-pair")
    now = balance(plan, water_at(plan.site.water_temperature))
    periodic = find_periodic_state(plan)
    (sump,) = sump_capacity_of(now, periodic, try_power_cut(plan, periodic, {"T1"}))
    assert sump.lowest_safe < sump.normal_low < sump.normal_high <= sump.power_off < sump.most
    by_kind = {c.kind: c for c in sump.claims}
    (cycles,) = periodic.cycles
    assert by_kind["swing"].volume < (cycles.exchanged or 0.0)
    tank = plan.vessel("T1").shape
    open_water = tank.length * tank.width  # type: ignore[union-attr]
    days = plan.site.days_away * plan.site.evaporation
    assert by_kind["evaporation"].volume == pytest.approx(days * open_water)
    assert sump.least == pytest.approx(sum(max(c.volume, c.bound or 0.0) for c in sump.claims))
    assert sump.spare == pytest.approx(sump.holds - sump.least)


def test_a_blocked_drain_runs_over_when_its_freeboard_is_full() -> None:
    """Closed form: room to the rim over the inflow; 3 %, since the inflow falls a little as the
    sump does."""
    plan = _plan("decoupled-pair")
    periodic = find_periodic_state(plan)
    found = try_failure(plan, periodic, Failure("blocked", "R2"))
    assert found is not None
    assert found.spills_in == "T1"
    now = balance(plan, water_at(plan.site.water_temperature))
    tank = plan.vessel("T1")
    area = 0.25 * np.pi * tank.shape.diameter**2  # type: ignore[union-attr]
    room = area * (tank.floor_height + tank.shape.height - now.levels["T1"])
    assert found.spills_after == pytest.approx(room / now.flows["R1"], rel=0.03)


@pytest.mark.parametrize("name", ["split-flow", "two-pump-timed", "stacked-pair"])
def test_every_failure_is_followed(name: str) -> None:
    """None is left out, and a burst line leaves what lies under the pump's inlet."""
    plan = _plan(name)
    periodic = find_periodic_state(plan)
    for failure in failures_of(plan):
        found = try_failure(plan, periodic, failure)
        assert found is not None
        assert found.spilled >= 0.0
        assert 0.0 <= found.tank_left <= 1.0 + 1e-6


def test_a_fish_tank_keeps_what_it_promises() -> None:
    """An overflow's crest, a pump's inlet, a drowned return: the lowest of them; and nothing that
    was tried leaves less."""
    for name, height in (("split-flow", 0.84), ("stacked-pair", 0.06), ("raft-line", 0.86)):
        resilience = assess_dynamic(assess(_plan(name))).resilience
        (promise,) = resilience.promises
        assert promise.height == pytest.approx(height, abs=0.05)
        assert promise.seen >= promise.share - 0.01


def test_raising_the_pump_keeps_half_the_tank() -> None:
    """The remedy of U9, tried on the simulation itself: with the bed's drain shut the tank is left
    at the pump's inlet."""
    document = _document("stacked-pair")
    document["pumps"][0]["inlet_height"] = 0.43
    document["runs"][1]["valve"] = {"kind": "ball", "angle": 90.0}
    found = simulate(plan_from_data(document), 6.0)
    assert found.level("T1").min() == pytest.approx(0.43, abs=0.01)


# Weather, float valves and transfers.


def test_evaporation_lowers_the_sump_by_what_dries_off() -> None:
    """Five millimetres a day off a covered raft and an open tank: by hand."""
    document = _document("constant-flood")
    plan = plan_from_data(document)
    dry = simulate(plan, 24.0)
    weather = Weather(evaporation=0.005 / 86400.0)
    wet = simulate(plan, 24.0, Doings(weather=weather))
    surface = 0.25 * np.pi * plan.vessel("T1").shape.diameter ** 2  # type: ignore[union-attr]
    lost = (dry.level("T1")[-1] - wet.level("T1")[-1]) * surface
    assert lost == pytest.approx(0.005 * surface, rel=0.02)
    assert wet.supplied == pytest.approx(-0.005 * surface, rel=1e-3)


def test_a_float_valve_makes_up_for_it_and_a_transfer_takes_its_litres() -> None:
    """The level stays where the valve shuts; forty litres a day leave at eight."""
    document = _document("constant-flood")
    document["top_ups"] = [
        {"id": "V1", "name": "Float valve", "stands_in": "T1", "level": 0.59, "flow": 1e-4}
    ]
    document["transfers"] = [
        {
            "id": "W1",
            "name": "To the garden",
            "source": "T1",
            "volume": 0.04,
            "flow": 1e-4,
            "at": 28800.0,
        }
    ]
    plan = plan_from_data(document)
    found = simulate(plan, 30.0, Doings(weather=Weather(0.005 / 86400.0)))
    level = found.level("T1")
    assert level[found.times > 3600.0].max() <= 0.60
    before, after = level[int(28790 / 10)], level[int((28800 + 400) / 10)]
    assert before - after > 0.01
    assert level[-1] == pytest.approx(0.59, abs=0.012)
    assert found.lost < 1e-9


STORMS = st.builds(
    Rain, begins=st.floats(60.0, 3000.0), lasts=st.floats(60.0, 3000.0), depth=st.floats(0.0, 0.2)
)


@settings(max_examples=15)
@given(
    storm=STORMS,
    cut=st.floats(100.0, 5000.0),
    dark=st.floats(10.0, 4000.0),
    name=st.sampled_from(["stacked-pair", "twin-sumps", "cascade-float-lift", "two-pump-timed"]),
    stuck=st.booleans(),
)
def test_water_is_kept_under_any_schedule(
    storm: Rain, cut: float, dark: float, name: str, stuck: bool
) -> None:
    """What there was, what fell and what ran over: 1e-9 of all of it; and never a level under a
    floor."""
    plan = _plan(name)
    broken = frozenset(s.id for s in plan.siphons) if stuck else frozenset[str]()
    doings = Doings(
        PowerCut(cut, dark),
        Weather(0.01 / 86400.0, storm),
        never_starts=broken if dark > 1000.0 else frozenset(),
        never_breaks=broken if dark <= 1000.0 else frozenset(),
    )
    found = simulate(plan, 2.0, doings, every=60.0)
    assert found.lost < 1e-9
    for vessel in plan.vessels:
        assert found.level(vessel.id).min() >= vessel.floor_height - 1e-6


@settings(max_examples=10)
@given(st.floats(0.20, 0.30), st.floats(0.005, 0.04))
def test_raising_the_crest_never_lowers_the_top_level(rim: float, more: float) -> None:
    """Of a siphon bed, followed through two hours."""
    document = _document("stacked-pair")
    tops = []
    for height in (rim, rim + more):
        document["siphons"][0]["rim_height"] = height
        tops.append(simulate(plan_from_data(document), 2.0).level("B1").max())
    assert tops[1] >= tops[0] - 1e-6


@settings(max_examples=8)
@given(st.floats(100.0, 6000.0), st.floats(600.0, 7000.0))
def test_a_vented_overflow_never_drains_its_tank_below_the_crest(
    begins: float, lasts: float
) -> None:
    """Whatever the power does."""
    plan = _plan("split-flow")
    found = simulate(plan, 3.0, Doings(PowerCut(begins, lasts)), every=30.0)
    crest = plan.vessel("T1").floor_height + plan.part("O1").crest_height
    assert found.level("T1").min() >= crest - 1e-6


# What the trade says (common practice).


def test_fifteen_minutes_in_the_hour_fill_a_deep_bed_in_about_ten() -> None:
    """V9: and it drains slowly through small holes before the next start."""
    plan = _plan("two-pump-timed")
    found = simulate(plan, 4.0)
    bed, pipe = plan.vessel("B1"), plan.part("O3")
    level = found.level("B1") - bed.floor_height
    on, off = found.times_of("pump_on", "P2")[-1], found.times_of("pump_off", "P2")[-1]
    begun = on if on < off else found.times_of("pump_on", "P2")[-2]
    filled = found.times[(found.times > begun) & (level >= pipe.rim_height)][0] - begun
    assert 300.0 < filled < 900.0
    drained = found.times[(found.times > off) & (level < pipe.hole_height + 0.03)]
    assert drained[0] - off > 600.0


def test_a_longer_tail_strengthens_a_siphon() -> None:
    """V13: 12 to 24 inches below the bed widen the window upwards."""
    stops = []
    for drop in (0.305, 0.61):
        document = _document("stacked-pair")
        port = document["vessels"][0]["ports"][0]["height"]
        document["vessels"][1]["floor_height"] = port + drop
        window = assess(plan_from_data(document)).evaluation.beds[0].cycle.window
        stops.append(window.stop.value)
    assert stops[1] > 1.2 * stops[0]


@pytest.mark.parametrize(("rim", "height", "media"), [(0.279, 0.356, 0.305), (0.15, 0.20, 0.175)])
def test_usual_standpipes_keep_the_top_dry(rim: float, height: float, media: float) -> None:
    """V12: 11 in in 12 in of media of a 14 in bed; 15 cm in a 20 cm bed: neither is told off for
    its dry top, its freeboard or its rim."""
    document = _document("stacked-pair")
    document["siphons"][0]["rim_height"] = rim
    document["vessels"][1]["shape"]["height"] = height
    document["vessels"][1]["freeboard"] = 0.03
    document["vessels"][1]["media"]["top"] = media
    found = assess(plan_from_data(document))
    assert not {"B3", "U6", "U0"} & {f.rule.id for f in found.findings}


def test_a_siphon_that_outruns_the_pump_draws_a_closed_tank_down_until_it_is_vented() -> None:
    """V18: with the lift closed its tank falls while the pump runs; an open tee stops it."""
    lows = []
    for vented in (False, True):
        document = _document("faults/accidental-siphon")
        document["outlets"][0]["vented"] = vented
        plan = plan_from_data(document)
        crest = plan.vessel("T1").floor_height + plan.part("O1").crest_height
        lows.append(simulate(plan, 6.0).level("T1").min() - crest)
    assert lows[0] < -0.02
    assert lows[1] >= -1e-6


def test_joined_sumps_make_room_together() -> None:
    """What twin sumps must hold is held against both: the claims of one alone would not fit."""
    plan = _plan("twin-sumps")
    now = balance(plan, water_at(plan.site.water_temperature))
    periodic = find_periodic_state(plan)
    (sump,) = sump_capacity_of(now, periodic, try_power_cut(plan, periodic, {"S1"}))
    both = sum(storage_of(plan, plan.vessel(v)).volume_at(sump.most) for v in ("S1", "S2"))
    assert sump.holds == pytest.approx(both, rel=0.25)
    assert sump.holds > storage_of(plan, plan.vessel("S1")).volume_at(sump.most)
    assert sump.spare > 0.0
    tops = [c.top for c in sump.claims]
    assert tops == sorted(tops)
    assert tops[-1] < sump.most
