"""Parts added with their pipes, and vessels made of containers."""

import math
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import (
    ADDABLE,
    EditRefused,
    add_joined,
    apply_edits,
    duplicate_part,
    joins_for,
    remove_part,
    set_value,
    use_container,
)
from bathys.kinds import model_named
from bathys.parts.containers import containers
from bathys.parts.jobs import JOBS
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from bathys.sizing import add_with_pipes

EXAMPLES = Path(__file__).resolve().parents[2] / "examples"
NAMES = sorted(p.stem for p in EXAMPLES.glob("*.json"))


def _example(name: str) -> Plan:
    return load_plan((EXAMPLES / f"{name}.json").read_bytes())


def _is_fed_by_a_run(plan: Plan) -> bool:
    """Whether a new bed is fed by a branch of a run; else from a hole in a vessel."""
    return joins_for(plan, "grow_bed").feed in {r.id for r in plan.runs}


def _added(plan: Plan, kind: str, stands_in: str = "") -> tuple[Plan, str]:
    """A plan with one part more, joined as is usual."""
    usual = joins_for(plan, kind, stands_in)
    edits, new = add_with_pipes(plan, kind, stands_in, usual.feed, usual.drain)
    return apply_edits(plan, edits), new


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("job", [job for job in JOBS if JOBS[job].wants_flow])
def test_a_vessel_added_as_usual_is_fed_and_drained(name: str, job: str) -> None:
    """It can be worked out, water comes in, and there is a way out of it; the old parts stay."""
    before = _example(name)
    plan, new = _added(before, job)
    found = assess(plan)
    inside = {new, *(w.id for w in plan.ways_out if w.stands_in == new)}
    assert [r for r in plan.runs if r.target == new]
    assert [r for r in plan.runs if r.source in inside]
    assert (len(inside) == 2) == JOBS[job].floods
    assert set(before.names) < set(plan.names)
    assert found.evaluation.plan is plan


def test_a_second_bed_of_the_first_plan_needs_no_more() -> None:
    """No problem is found, and each of the two beds gets water enough to start its siphon."""
    plan, new = _added(_example("stacked-pair"), "grow_bed")
    found = assess(plan)
    assert new == "B2"
    assert plan.vessel(new).name == "Grow bed B2"
    assert [f.rule.id for f in found.findings if f.severity == "fault"] == []
    assert all(bed.cycle.period for bed in found.evaluation.beds)


@pytest.mark.parametrize("name", [n for n in NAMES if _is_fed_by_a_run(_example(n))])
def test_a_new_branch_leaves_the_old_outlets_half_of_their_water(name: str) -> None:
    """Unless even a valve nearly shut takes more, as of a pump with little to spare."""
    before = _example(name)
    plan, new = _added(before, "grow_bed")
    branch = next(r for r in plan.runs if r.target == new)
    assert branch.valve is not None
    old, now = (assess(p).evaluation.balance.flows for p in (before, plan))
    kept = min(now[r] / f for r, f in old.items() if f > 0.0)
    assert kept >= 0.5 or branch.valve.turned == 70.0
    assert now[branch.id] > 0.0


@pytest.mark.parametrize("name", NAMES)
def test_every_choice_that_is_offered_can_be_taken(name: str) -> None:
    """Each feed with the usual drain, and each drain with the usual feed."""
    plan = _example(name)
    for kind, (_, needs_vessel, _) in ADDABLE.items():
        stands_in = plan.vessels[0].id if needs_vessel else ""
        usual = joins_for(plan, kind, stands_in)
        choices = [(f, usual.drain) for f in usual.feeds]
        choices += [(usual.feed, d) for d in usual.drains]
        for feed, drain in choices:
            edits, new = add_joined(plan, kind, stands_in, feed, drain)
            after = apply_edits(plan, edits)
            assert new in after.names, (kind, feed, drain)
            held = {new, *(w.id for w in after.ways_out if w.stands_in == new)}
            assert not drain or [r for r in after.runs if r.source in held], (kind, feed, drain)


def test_a_pump_leads_to_what_was_chosen() -> None:
    plan, new = _added(_example("stacked-pair"), "pump", "T1")
    (run,) = [r for r in plan.runs if r.source == new]
    assert run.target == "B1"
    assert joins_for(plan, "tee").drains == ()
    assert joins_for(plan, "no such kind").feeds == ()
    assert joins_for(plan, "bell", "nowhere").drains == ()


def test_a_vessel_with_no_room_for_a_part_offers_no_joins() -> None:
    """Too shallow for a pump: nothing is offered, and nothing breaks."""
    plan = set_value(_example("stacked-pair"), "vessels.B1.media", None).plan
    plan = apply_edits(plan, remove_part(plan, "S1"))
    plan = set_value(plan, "vessels.B1.freeboard", 0.0).plan
    shallow = set_value(plan, "vessels.B1.shape.height", 0.04).plan
    assert joins_for(shallow, "pump", "B1").drains == ()
    assert joins_for(plan, "pump", "B1").drains != ()


def test_what_cannot_be_joined_is_refused() -> None:
    plan = _example("stacked-pair")
    for kind, stands_in, feed, drain in (
        ("grow_bed", "", "X9", "T1"),
        ("grow_bed", "", "R1", "P1"),
        ("no such kind", "", "R1", "T1"),
        ("pump", "", "", "B1"),
    ):
        with pytest.raises(EditRefused):
            add_joined(plan, kind, stands_in, feed, drain)


def test_edits_are_applied_twice_alike() -> None:
    """A part that edits add is not changed by the edits after it."""
    plan = _example("stacked-pair")
    edits, _ = duplicate_part(plan, "B1")
    assert apply_edits(plan, edits) == apply_edits(plan, edits)


def test_containers_hold_what_they_are_listed_with() -> None:
    """To a hundredth; baths are measured and listed with nothing."""
    for one in containers():
        shell = model_named("shells", one.shape["kind"])
        if one.litres:
            assert 1000.0 * shell(**one.shape).capacity == pytest.approx(one.litres, rel=0.02)
        else:
            assert one.shape["kind"] == "measured"
    keys = [one.key for one in containers()]
    assert len(keys) == len(set(keys)) >= 25


def test_the_drum_is_that_of_the_standard() -> None:
    """ISO 15750-1 (from memory): 571.5 mm inside, 216.5 L to the brim with an open head."""
    drum = next(c for c in containers() if c.key == "drum-200")
    assert drum.shape["diameter"] == 0.5715
    held = math.pi / 4.0 * 0.5715**2 * drum.shape["height"]
    assert held == pytest.approx(0.2165, rel=0.01)


@settings(max_examples=60)
@given(st.sampled_from(NAMES), st.integers(0, 40), st.sampled_from([c.key for c in containers()]))
def test_any_vessel_can_be_any_container(name: str, which: int, key: str) -> None:
    """What stands in it fits, what ends over its rim still does, and it can be worked out; what
    is too wide for it is refused in a sentence."""
    plan = _example(name)
    vessel = plan.vessels[which % len(plan.vessels)]
    try:
        after = apply_edits(plan, use_container(plan, vessel.id, key))
    except EditRefused as refused:
        assert "narrower than a pipe" in str(refused)
        return
    now = after.vessel(vessel.id)
    for old, new in zip(vessel.ports, now.ports, strict=True):
        assert (old.height > vessel.shape.height) == (new.height > now.shape.height)
    if now.shape.height >= vessel.shape.height:
        kept = [p.height for p in vessel.ports if p.height <= vessel.shape.height]
        assert kept == [p.height for p in now.ports if p.height <= now.shape.height]
    assess(after)


def test_no_such_container_is_refused() -> None:
    plan = _example("stacked-pair")
    for vessel, key in (("T1", "no-such"), ("R1", "drum-200"), ("Z9", "drum-200")):
        with pytest.raises(EditRefused):
            use_container(plan, vessel, key)
