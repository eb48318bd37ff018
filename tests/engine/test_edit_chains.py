"""Whatever is done to a plan, one thing after the other, a plan is what is left, or a sentence."""

from collections.abc import Callable, Sequence
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import (
    ADDABLE,
    SWITCHES,
    Edit,
    EditRefused,
    add_part,
    apply_edits,
    connect,
    duplicate_part,
    lead_elsewhere,
    move_along,
    raise_part,
    remove_part,
    switch_kind,
)
from bathys.network import NotSolved
from bathys.pipeline import assess
from bathys.plan import GROUPS, Plan, dump_plan, load_plan
from tests.conftest import EXAMPLE

NAMES = ("stacked-pair", "split-flow", "linked-beds", "two-pump-timed", "bench-top", "raft-line")


def _ids(plan: Plan) -> list[str]:
    return [p.id for g in GROUPS for p in getattr(plan, g)]


def _pick(data: st.DataObject, rows: Sequence[Any]) -> Any:
    return data.draw(st.sampled_from(list(rows)))


def _add(plan: Plan, data: st.DataObject) -> Plan:
    return apply_edits(plan, add_part(plan, _pick(data, ADDABLE), _pick(data, plan.vessels).id)[0])


def _remove(plan: Plan, data: st.DataObject) -> Plan:
    return apply_edits(plan, remove_part(plan, _pick(data, _ids(plan))))


def _duplicate(plan: Plan, data: st.DataObject) -> Plan:
    return apply_edits(plan, duplicate_part(plan, _pick(data, _ids(plan)))[0])


def _connect(plan: Plan, data: st.DataObject) -> Plan:
    return apply_edits(plan, connect(plan, _pick(data, _ids(plan)), _pick(data, _ids(plan)))[0])


def _raise(plan: Plan, data: st.DataObject) -> Plan:
    by = data.draw(st.floats(-0.5, 0.5))
    return apply_edits(plan, raise_part(plan, _pick(data, _ids(plan)), by))


def _move(plan: Plan, data: st.DataObject) -> Plan:
    by = data.draw(st.floats(-1.0, 1.0))
    return apply_edits(plan, move_along(plan, _pick(data, _ids(plan)), by))


def _lead(plan: Plan, data: st.DataObject) -> Plan:
    if not plan.runs:
        return plan
    end: Any = _pick(data, ("from", "to"))
    edits = lead_elsewhere(plan, _pick(data, plan.runs).id, end, _pick(data, _ids(plan)))
    return apply_edits(plan, edits)


def _switch(plan: Plan, data: st.DataObject) -> Plan:
    field = _pick(data, SWITCHES)
    if field in GROUPS:
        paths = [f"{field}.{p.id}" for p in getattr(plan, field)]
    else:
        paths = [
            f"{g}.{p.id}.{field}"
            for g in GROUPS
            for p in getattr(plan, g)
            if field in type(p).model_fields
        ]
    if not paths:
        return plan
    return switch_kind(plan, _pick(data, paths), _pick(data, SWITCHES[field])).plan


EDITS: dict[str, Callable[[Plan, st.DataObject], Plan]] = {
    "add": _add,
    "remove": _remove,
    "duplicate": _duplicate,
    "connect": _connect,
    "raise": _raise,
    "move": _move,
    "lead": _lead,
    "switch": _switch,
}


def _hangs_together(plan: Plan) -> None:
    """Nothing points at what is not there, nothing shares an id, no hole serves two ends alike."""
    ids = _ids(plan)
    assert len(set(ids)) == len(ids)
    holes = {f"{v.id}.{p.name}" for v in plan.vessels for p in v.ports}
    endings = {f"{p.id}.out" for p in (*plan.pumps, *plan.outlets)} | {
        f"{s.id}.tail" for s in plan.siphons
    }
    junctions = {j.id for j in plan.junctions}
    for run in plan.runs:
        assert run.start in holes | endings | junctions
        assert run.end in holes | junctions
    for part in (*plan.pumps, *plan.siphons, *plan.outlets, *plan.top_ups):
        assert part.stands_in in {v.id for v in plan.vessels}
    for junction in plan.junctions:
        assert junction.straight in {None, *(r.id for r in plan.runs)}


@settings(max_examples=60)
@given(data=st.data(), name=st.sampled_from(NAMES), count=st.integers(1, 7))
def test_any_chain_of_edits_leaves_a_plan(data: st.DataObject, name: str, count: int) -> None:
    """It hangs together, goes through a file unchanged, and is worked out or said not to be; no
    figure of it is NaN. What is refused is told in a sentence and changes nothing."""
    plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
    for _ in range(count):
        edit = _pick(data, EDITS)
        try:
            plan = EDITS[edit](plan, data)
        except EditRefused as refused:
            assert str(refused)[0].isupper() or str(refused)[0] in "“", str(refused)
            assert str(refused)[-1] in ".)", str(refused)
        _hangs_together(plan)
    assert load_plan(dump_plan(plan)) == plan
    try:
        found = assess(plan)
    except NotSolved:
        return  # said in so many words, never a figure
    for figure in (*found.figures, *found.details):
        assert figure.value is None or figure.value == figure.value, figure.key


@settings(max_examples=30)
@given(data=st.data(), name=st.sampled_from(NAMES))
def test_a_part_put_in_and_taken_away_leaves_the_plan_as_it_was(
    data: st.DataObject, name: str
) -> None:
    """With the run that was laid to it, and the holes that were made for that."""
    plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
    edits, new = add_part(plan, _pick(data, ("fish_tank", "grow_bed", "raft", "settler", "sump")))
    more = apply_edits(plan, edits)
    edits, run = connect(more, new, _pick(data, plan.vessels).id)
    more = apply_edits(more, edits)
    assert more.part(run) is not None
    back = apply_edits(more, remove_part(more, new))
    assert back == plan


def test_edits_of_one_change_are_checked_once_at_their_end() -> None:
    """What would not hold together on the way may do so in the end; if it does not, nothing is
    done."""
    plan = load_plan(EXAMPLE.read_bytes())
    bed = plan.vessel("B1")
    tall = bed.shape.height
    taller = (Edit("vessels.B1.media.top", tall + 0.1), Edit("vessels.B1.shape.height", tall + 0.2))
    assert apply_edits(plan, taller).vessel("B1").shape.height == pytest.approx(tall + 0.2)
    with pytest.raises(EditRefused):
        apply_edits(plan, taller[:1])
