"""Whole parts added, duplicated, taken away, connected and moved."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import (
    ADDABLE,
    EditRefused,
    add_part,
    apply_edits,
    connect,
    duplicate_part,
    move_along,
    raise_part,
    remove_part,
)
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from tests.conftest import EXAMPLE
from tests.plan_files import unlike_parts

FOLDER = EXAMPLE.parent
NAMES = sorted(p.stem for p in FOLDER.glob("*.json"))


def _plan(name: str = "stacked-pair") -> Plan:
    return load_plan((FOLDER / f"{name}.json").read_bytes())


def _parts(plan: Plan) -> list[str]:
    return [p.id for _, parts in plan.lists() for p in parts]


@pytest.mark.parametrize("kind", ADDABLE)
def test_what_is_added_is_there_and_the_plan_can_be_worked_out(kind: str) -> None:
    """In a vessel, for what stands in one."""
    plan = _plan()
    edits, new = add_part(plan, kind, "B1" if kind not in ("pump", "float_valve") else "T1")
    after = apply_edits(plan, edits)
    assert set(_parts(after)) == {*_parts(plan), new}
    assess(after)


@pytest.mark.parametrize("name", NAMES)
def test_taking_any_part_away_leaves_a_plan(name: str) -> None:
    """With nothing of it hanging in the air; it is gone with what cannot stand without it."""
    plan = _plan(name)
    for id_ in unlike_parts(plan):
        after = apply_edits(plan, remove_part(plan, id_))
        assert id_ not in _parts(after)
        assess(after)


@pytest.mark.parametrize("name", NAMES)
def test_every_vessel_can_be_duplicated(name: str) -> None:
    """With what stands in it, under names of their own, beside it."""
    plan = _plan(name)
    for vessel in plan.vessels:
        edits, new = duplicate_part(plan, vessel.id)
        after = apply_edits(plan, edits)
        assert after.vessel(new).shape == vessel.shape
        inside = [
            p for p in (*plan.siphons, *plan.outlets, *plan.pumps) if p.stands_in == vessel.id
        ]
        copies = [p for p in (*after.siphons, *after.outlets, *after.pumps) if p.stands_in == new]
        assert len(copies) == len(inside)
        assess(after)


@pytest.mark.parametrize("name", ["stacked-pair", "split-flow", "linked-beds", "two-pump-timed"])
def test_a_duplicated_bed_comes_with_its_pipes(name: str) -> None:
    """It gets water from the pump that feeds the first, holds a level, and gives it back; what
    was there keeps its ids."""
    plan = _plan(name)
    bed = next(v.id for v in plan.vessels if v.job == "grow_bed" or v.media is not None)
    edits, new = duplicate_part(plan, bed)
    after = apply_edits(plan, edits)
    assert set(_parts(plan)) < set(_parts(after))
    found = assess(after).evaluation
    one, two = found.vessels[bed], found.vessels[new]
    before = assess(plan).evaluation.vessels[bed]
    assert two.inflow > 0.2 * before.inflow
    assert one.inflow + two.inflow > 0.8 * before.inflow
    assert len([r for r in after.runs if r.target == new]) == len(
        [r for r in plan.runs if r.target == bed]
    )
    assert not any(f.rule.id == "U0" for f in assess(after).findings if f.place == new)


def test_a_bed_built_up_by_hand_gets_its_water_and_gives_it_back() -> None:
    """A raft, a standpipe in it, a tee in the riser's place: laid run by run until it balances."""
    plan = _plan()
    edits, raft = add_part(plan, "raft")
    plan = apply_edits(plan, edits)
    plan = apply_edits(plan, raise_part(plan, raft, 0.5))
    edits, pipe = add_part(plan, "standpipe", raft)
    plan = apply_edits(plan, edits)
    edits, pump = add_part(plan, "pump", "T1")
    plan = apply_edits(plan, edits)
    for start, end in ((pump, raft), (pipe, "T1")):
        edits, _ = connect(plan, start, end)
        plan = apply_edits(plan, edits)
    found = assess(plan).evaluation
    assert found.vessels[raft].inflow > 1e-5
    assert abs(found.vessels["T1"].gain) < 1e-6


def test_what_cannot_be_is_refused_with_a_sentence() -> None:
    """A second run from a pump, a run into a pump, the last vessel, a raised run."""
    plan = _plan()
    with pytest.raises(EditRefused, match="already"):
        connect(plan, "P1", "B1")
    with pytest.raises(EditRefused, match="No run can end"):
        connect(plan, "T1", "P1")
    with pytest.raises(EditRefused, match="one part to another"):
        connect(plan, "T1", "T1")
    with pytest.raises(EditRefused, match="raise that"):
        raise_part(plan, "P1", 0.1)
    with pytest.raises(EditRefused, match="any more"):
        remove_part(plan, "Z9")
    with pytest.raises(EditRefused, match="which vessel"):
        add_part(plan, "pump")
    alone = apply_edits(plan, remove_part(plan, "B1"))
    with pytest.raises(EditRefused, match="last vessel"):
        remove_part(alone, "T1")


@settings(max_examples=25)
@given(st.floats(-0.3, 0.3), st.floats(-1.0, 1.0))
def test_raising_and_lowering_undo_each_other(up: float, along: float) -> None:
    """To a micron."""
    plan = _plan("split-flow")
    there = apply_edits(plan, [*raise_part(plan, "B1", up), *move_along(plan, "B1", along)])
    back = apply_edits(there, [*raise_part(there, "B1", -up), *move_along(there, "B1", -along)])
    assert back.vessel("B1").floor_height == pytest.approx(plan.vessel("B1").floor_height, abs=2e-6)
