"""Filters on runs: what they cost, what they hold, how they clog, and what that leads to."""

import math
from itertools import pairwise
from pathlib import Path
from typing import Any

import fluids
import pytest
import wntr
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import Edit, add_part, apply_edits, switch_kind
from bathys.evaluation import Evaluation, evaluate
from bathys.kinds import kind_of, models_of
from bathys.network.lines import Line, Piece
from bathys.parts.practice import PRACTICES
from bathys.physics import GRAVITY
from bathys.physics.porous import (
    bed_resistance,
    fibre_resistance,
    head_through,
    screen_resistance,
)
from bathys.physics.water import water_at
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.quality import solids_of
from bathys.quality.beds import bed_solids
from bathys.quality.filters import due_of, filter_results
from bathys.quality.mineralising import mineralised
from bathys.quality.over_time import HORIZON, over_time
from bathys.scenarios.failures import Failure, failures_of
from bathys.simulation.valve_clocks import simulate
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

KINDS = models_of("filters")
COURT = EXAMPLE.parent / "practice/swirl-court.json"
ON_A_DRAIN, ON_A_RISER = "R4", "R1"


def _bare() -> Plan:
    """The rafts behind a swirl settler, their brushes taken out."""
    plan = load_plan(COURT.read_bytes())
    return apply_edits(plan, [Edit(f"runs.{ON_A_DRAIN}.filter", None)])


def _court(kind: str, run: str = ON_A_DRAIN, **values: Any) -> Plan:
    """The rafts behind a swirl settler, with a filter before them."""
    plan = switch_kind(_bare(), f"runs.{run}.filter", kind).plan
    return apply_edits(plan, [Edit(f"runs.{run}.filter.{f}", v) for f, v in values.items()])


def _depth(found: Evaluation, vessel: str) -> float:
    return found.vessels[vessel].levels.high - found.plan.vessel(vessel).floor_height


# What it costs


@pytest.mark.parametrize("void", [0.85, 0.93, 0.97])
def test_creeping_through_fibres_agrees_with_another_law(void: float) -> None:
    """Kuwabara 1959 (memory), for an even array of fibres, is up to twice as strict as Davies'
    law for real pads: 16 α μ v L / (d² Ku)."""
    solid, fibre, area, depth, viscosity = 1.0 - void, 5e-5, 0.06, 0.15, 1e-6
    ku = -0.5 * math.log(solid) - 0.75 + solid - 0.25 * solid**2
    theirs = 16.0 * solid / ku * viscosity * depth / (GRAVITY * fibre**2 * area)
    ours = fibre_resistance(area, depth, void, fibre, viscosity)
    assert 0.5 * theirs < ours < 1.1 * theirs


@given(st.floats(1e-5, 2e-3), st.floats(0.3, 0.6), st.floats(2e-3, 2e-2))
def test_a_bed_of_pieces_follows_ergun(flow: float, void: float, piece: float) -> None:
    """Ergun 1952, as the library ``fluids`` has it."""
    area, depth, water = 0.25, 0.3, water_at(20.0)
    linear, squared = bed_resistance(area, depth, void, piece, water.kinematic_viscosity)
    theirs = fluids.Ergun(
        dp=piece, voidage=void, vs=flow / area, rho=water.density,
        mu=water.kinematic_viscosity * water.density, L=depth,
    )  # fmt: skip
    head = flow * (linear + flow * squared)
    assert head == pytest.approx(theirs / (water.density * GRAVITY), rel=1e-3)


@pytest.mark.parametrize("share", [0.3, 0.4, 0.5, 0.6])
def test_a_screen_loses_about_what_tables_say(share: float) -> None:
    """Blevins' round-edged wire screens, as the library ``fluids`` has them, on the same area; the
    two tables differ by up to half."""
    area, flow = 0.01, 2e-3
    _, squared = screen_resistance(area, 0.005, share, 1e-6)
    ours = squared * flow**2
    theirs = fluids.round_edge_screen(share, Re=5000.0) * (flow / area) ** 2 / (2.0 * GRAVITY)
    assert ours == pytest.approx(theirs, rel=0.5)


@given(
    st.floats(1e-6, 5e-3),
    st.floats(0.0, 1e4),
    st.floats(0.0, 1e7),
    st.one_of(st.just(math.inf), st.floats(0.01, 0.5)),
)
def test_head_rises_with_flow_without_a_step(
    flow: float, linear: float, squared: float, most: float
) -> None:
    """Also where water begins to go past; and it is odd."""
    head, slope = head_through(flow, linear, squared, most)
    more, _ = head_through(1.001 * flow, linear, squared, most)
    assert 0.0 <= head <= more
    assert more - head <= 1.01 * 0.001 * flow * max(linear + 2.1 * flow * squared, slope) + 1e-12
    assert head_through(-flow, linear, squared, most) == (-head, slope)


@pytest.mark.parametrize("model", KINDS, ids=kind_of)
def test_a_canister_line_flows_as_epanet_says(model: Any, tmp_path: Path) -> None:
    """EPANET through ``wntr``: a general-purpose valve with the filter's law as its curve, in a
    pipe between two levels, half a per cent."""
    viscosity, length, bore, drop = 1.022e-6, 6.0, 0.026, 0.9
    made = model.model_validate({"kind": kind_of(model), **model.usual(bore), "past_head": 0.0})
    linear, squared = made.loaded_to(0.6).resistance(viscosity)
    line = Line(
        [
            Piece("filter", "filter", bore, linear=linear, squared=squared),
            Piece("friction", "pipe", bore, length=length, roughness=1.5e-6),
        ],
        viscosity,
    )
    ours = float(line.flow(drop)[0])
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.headloss, net.options.hydraulic.accuracy = "D-W", 1e-8
    net.options.hydraulic.viscosity = 1.0
    net.options.hydraulic.inpfile_units = "LPS"
    net.options.time.duration = 0
    flows = [ours * s for s in (0.0, 0.5, 0.8, 0.9, 0.95, 1.0, 1.05, 1.1, 1.3)]
    net.add_curve("law", "HEADLOSS", [(q, q * (linear + q * squared)) for q in flows])
    net.add_reservoir("up", base_head=drop)
    net.add_reservoir("down", base_head=0.0)
    net.add_junction("behind", base_demand=0.0, elevation=-1.0)
    net.add_pipe("pipe", "behind", "down", length, bore, 1.5e-6, 0.0)
    net.add_valve("filter", "up", "behind", bore, "GPV", 0.0, "law")
    found = wntr.sim.EpanetSimulator(net).run_sim(file_prefix=str(tmp_path / "run"))
    assert ours == pytest.approx(float(found.link["flowrate"]["pipe"].iloc[0]), rel=5e-3)


# Where it stands


@pytest.mark.parametrize("model", KINDS, ids=kind_of)
def test_every_kind_stands_on_a_drain_and_on_a_riser(model: Any) -> None:
    """Loaded it holds up the water before it by its own law, or takes its head from the pump."""
    clean = evaluate(_bare())
    for run in (ON_A_DRAIN, ON_A_RISER):
        plan = _court(kind_of(model), run, loaded=0.6)
        found = evaluate(plan)
        part, flow = plan.part(run).filter, found.runs[run].flow
        linear, squared = part.resistance(found.water.kinematic_viscosity)
        head = flow * (linear + flow * squared)
        if run == ON_A_RISER:
            assert 0.5 < flow / clean.runs[run].flow <= 1.0
            lost = next(h for p, h in found.runs[run].losses if p.kind == "filter")
            assert lost == pytest.approx(head_through(flow, linear, squared, part.most_head)[0])
        elif part.STANDS == "before" and head < part.most_head:
            rise = _depth(found, "N1") - _depth(clean, "N1")
            assert rise == pytest.approx(head, abs=2e-4)  # the flow is a little less now
            assert found.runs[run].gravity is not None


def test_the_simulation_stands_where_the_balance_does() -> None:
    """A loaded filter on a drain, after six hours: the same levels within a tenth of a mm."""
    plan = _court("matting", loaded=0.5)
    found, through = evaluate(plan), simulate(plan, 6.0)
    for vessel in ("T1", "C1", "N1", "G1"):
        last = float(through.level(vessel)[-1]) - plan.vessel(vessel).floor_height
        assert last == pytest.approx(_depth(found, vessel), abs=1e-4), vessel


@pytest.mark.parametrize(
    ("run", "sentence"),
    [("R5", "a joint"), ("R3", "")],
)
def test_a_filter_before_a_run_needs_a_vessel_that_it_drains(run: str, sentence: str) -> None:
    """It is refused on a run from a tee, with a sentence, and taken on one from a vessel."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    begins_at_joint = next(r.id for r in plan.runs if plan.owner_of(r.start) is None)
    drains = next(r.id for r in plan.runs if plan.owner_of(r.start) is not None and r.id != "R1")
    if sentence:
        with pytest.raises(Exception, match=sentence):
            switch_kind(plan, f"runs.{begins_at_joint}.filter", "brush")
    else:
        assert switch_kind(plan, f"runs.{drains}.filter", "brush").plan.part(drains).filter


def test_no_filter_stands_before_a_siphon() -> None:
    plan = load_plan(EXAMPLE.read_bytes())
    tail = next(r for r in plan.runs if plan.group_of(r.source) == "siphons")
    with pytest.raises(Exception, match="neither starts nor stops"):
        switch_kind(plan, f"runs.{tail.id}.filter", "screen")


# What it holds


@settings(max_examples=25, deadline=None)
@given(st.sampled_from([kind_of(m) for m in KINDS]), st.floats(0.0, 0.9), st.floats(0.01, 2.0))
def test_solids_are_kept_whatever_the_filter(kind: str, load: float, feed: float) -> None:
    """What is made is held, leaves, or stays in the water; no filter holds more than is made."""
    plan = _court(kind, loaded=load)
    found = evaluate(apply_edits(plan, [Edit("brief.feed_a_day", feed)]))
    solids = solids_of(found)
    whole = sum(solids.ends.values()) + solids.leaves + solids.climbs
    assert whole == pytest.approx(solids.made, rel=1e-9)
    assert 0.0 <= solids.held(ON_A_DRAIN) <= solids.made


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(KINDS), st.floats(0.0, 0.9), st.floats(0.01, 1.0), st.floats(1e-5, 2e-3))
def test_a_fuller_filter_lets_less_through(
    model: Any, load: float, more: float, flow: float
) -> None:
    """And none holds a grain better for being coarser than its mesh, or less."""
    made = model.model_validate({"kind": kind_of(model), **model.usual(0.05), "past_head": 0.1})
    one, two = made.loaded_to(load), made.loaded_to(load + 0.05 * more)
    assert two.share_through(flow, 1e-6) <= one.share_through(flow, 1e-6) + 1e-12
    assert one.holds(made.cut) >= one.holds(0.99 * made.cut)


def test_what_a_filter_takes_does_not_reach_the_rafts() -> None:
    bare, socked = (solids_of(evaluate(p)) for p in (_bare(), _court("sock")))
    assert socked.held("G1") < 0.6 * bare.held("G1")
    assert socked.held(ON_A_DRAIN) > 0.5 * (bare.held("G1") - socked.held("G1"))


# How it clogs


def test_a_filter_is_due_when_its_law_says_so() -> None:
    """By hand: the head that matting may take is what it takes now and what the water may rise
    under its freeboard; the load at which it does, by the cube of the room left."""
    found = evaluate(_court("matting"))
    (result,), solids = filter_results(found), solids_of(found)
    held = solids.held(ON_A_DRAIN)
    due = due_of(result, held, found.water.kinematic_viscosity)
    load = 1.0 - (result.head / (result.head + result.room)) ** (1.0 / 3.0)
    assert due.why == "high"
    assert due.load == pytest.approx(load, rel=1e-6)
    assert due.days == pytest.approx(load * 0.12 * 0.05 * 0.93 * 20.0 * 1000.0 / held, rel=1e-6)


@pytest.mark.parametrize("kind", ["brush", "matting", "static_bed"])
def test_day_by_day_a_chamber_runs_over_a_little_after_it_is_due(kind: str) -> None:
    """After the freeboard comes the rim: later, but before the filter is quite full."""
    found = evaluate(_court(kind))
    (result,), solids = filter_results(found), solids_of(found)
    due = due_of(result, solids.held(ON_A_DRAIN), found.water.kinematic_viscosity)
    course = over_time(found.plan)
    harm = course.harm
    assert harm is not None
    assert (harm.kind, harm.place) == ("spills", "N1")
    assert due.days is not None
    assert due.days < harm.day < 1.25 * due.days
    for one, two in pairwise(course.moments):
        assert two.day > one.day
        assert two.loads[ON_A_DRAIN] >= one.loads[ON_A_DRAIN]
        assert two.levels["N1"] >= one.levels["N1"] - 1e-9


def test_day_by_day_a_way_past_saves_the_chamber_and_lets_solids_by() -> None:
    """With telltale holes nothing runs over in four months, but less is held; steps half as long
    move the day by little."""
    course = over_time(_court("fibre"))
    assert course.harm is None
    assert course.moments[-1].day == HORIZON
    assert course.moments[-1].held < course.moments[0].held - 0.1
    past = next(h for h in course.happenings if h.kind == "past")
    found = evaluate(_court("fibre"))
    (result,), solids = filter_results(found), solids_of(found)
    due = due_of(result, solids.held(ON_A_DRAIN), found.water.kinematic_viscosity)
    assert due.days is not None
    assert due.days <= past.day + 0.3


def test_sludge_that_is_let_out_never_stands_at_its_mark() -> None:
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    edits, id_ = add_part(plan, "purge", "C1")
    purged = apply_edits(plan, edits)
    assert purged.part(id_).every == 7.0 * 86400.0
    kinds = {h.kind for h in over_time(plan).happenings}
    assert "sludge" in kinds
    assert "sludge" not in {h.kind for h in over_time(purged).happenings}


def test_a_purge_is_counted_in_the_sump() -> None:
    """As every other water that leaves by the clock."""
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    edits, id_ = add_part(plan, "purge", "C1")
    purged = apply_edits(plan, edits)
    dynamic = assess_dynamic(assess(purged))
    claims = {c.kind: c.volume for s in dynamic.resilience.sumps for c in s.claims}
    assert claims["schedule"] == pytest.approx(purged.part(id_).volume, rel=1e-3)


def test_a_mineralising_drum_hands_back_water_and_nitrogen() -> None:
    """Just under half of it a week: water stays in it for 7/0.45 days, and of what is held 1 −
    1/(1 + 0.1 × days) breaks down (assumed rate, by hand)."""
    data = lists_of(EXAMPLE.parent / "small-settler.json")
    shape = {"kind": "cylinder", "diameter": 0.57, "height": 0.88}
    data["vessels"].append(
        {"id": "M1", "name": "Drum", "job": "drum", "shape": shape, "floor_height": 0.0,
         "water_depth": 0.7, "ports": []}
    )  # fmt: skip
    data.setdefault("transfers", []).append(
        {"kind": "mineraliser", "id": "Q1", "name": "Round", "stands_in": "M1", "source": "C1",
         "target": "S1"}
    )  # fmt: skip
    found = evaluate(plan_from_data(data))
    solids = solids_of(found)
    (row,) = mineralised(found, solids)
    held = math.pi / 4 * 0.57**2 * 0.7
    assert row.litres == pytest.approx(0.45 * held, rel=1e-6)
    assert row.days == pytest.approx(7.0 / 0.45, rel=1e-6)
    share = 0.1 * row.days / (1.0 + 0.1 * row.days)
    assert row.nitrogen == pytest.approx(7.0 * solids.held("C1") * 0.028 * share, rel=1e-6)
    out, back = (m for m in found.plan.moves if m.id == "Q1")
    assert (out.source, out.target, back.source, back.target) == ("M1", "S1", "C1", "M1")
    assert back.at == pytest.approx(out.at + out.lasts)


def test_worms_halve_what_a_bed_comes_to_hold() -> None:
    """0.02 a day without and 0.05 with them (assumed): 2.5 times less."""
    plan = load_plan(EXAMPLE.read_bytes())
    with_worms = apply_edits(plan, [Edit("brief.solids", "some_in")])
    (one,), (two,) = (bed_solids(e, solids_of(e)) for e in map(evaluate, (plan, with_worms)))
    assert one.level == pytest.approx(one.held / 0.02)
    assert one.level == pytest.approx(2.5 * two.level)
    assert set(PRACTICES["solids"].ways) == {"out", "some_in", "first_weeks"}


def test_half_blocked_is_a_failure_of_filters_and_of_small_holes() -> None:
    """A filter with half its face, an end with half its holes."""
    plan = _court("matting")
    assert Failure("half_blocked", ON_A_DRAIN) in set(failures_of(plan))
    sprayed = load_plan((EXAMPLE.parent / "practice/coopers-yard.json").read_bytes())
    assert "half_blocked" in {f.kind for f in failures_of(sprayed)}
    half = plan.part(ON_A_DRAIN).filter.half_blocked()
    assert half["face"] == pytest.approx(0.06)
