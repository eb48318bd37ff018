"""A plan built in stages: each is a plan of its own, and what it would carry besides."""

from pathlib import Path

import pytest

from bathys.edits import Edit, EditRefused, apply_edits, duplicate_part
from bathys.pipeline import assess
from bathys.plan import Plan, dump_plan, load_plan, physics_hash
from bathys.shelf import PriceList
from bathys.stages import more_of, plan_at_stage, stage_results, stages_of
from tests.conftest import EXAMPLE

LAYOUTS = sorted(EXAMPLE.parent.glob("*.json"))


def _staged(**stages: int) -> Plan:
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    return apply_edits(plan, [Edit(f"vessels.{v}.stage", n) for v, n in stages.items()])


def test_a_later_bed_is_not_there_yet_nor_are_its_pipes() -> None:
    """Nothing of it hangs in the air; the whole is the last stage, and no figure comes of the
    numbers themselves."""
    plan = _staged(B2=2, G1=3)
    assert stages_of(plan) == (1, 2, 3)
    assert physics_hash(plan) == physics_hash(_staged())
    assert load_plan(dump_plan(plan)) == plan
    first = plan_at_stage(plan, 1)
    assert {v.id for v in plan.vessels} - {v.id for v in first.vessels} == {"B2", "G1"}
    assert all(first.runs_from(j.id) and first.runs_to(j.id) for j in first.junctions)
    ends = {first.owner_of(place) or place for r in first.runs for place in (r.start, r.end)}
    assert not ends & {"B2", "G1"}
    assert plan_at_stage(plan, 3) == plan
    with pytest.raises(EditRefused, match="last vessel"):
        plan_at_stage(_staged(T1=2, C1=2, F1=2, S1=2, B1=2, B2=2, G1=2), 1)


def test_each_stage_has_its_own_flows_and_what_is_bought_adds_up() -> None:
    """Water, and what is bought, grow from stage to stage; the last is the whole."""
    whole = assess(_staged(B2=2, G1=3))
    rows = stage_results(whole, PriceList.empty())
    assert [r.number for r in rows] == [1, 2, 3]
    assert [r.added for r in rows[1:]] == [("B2",), ("G1",)]
    assert rows[-1].found is whole
    water = [sum(v.volume for v in r.found.evaluation.vessels.values()) for r in rows]
    assert water == sorted(water)
    assert water[0] < water[-1]
    bought = [sum(line.needed for line in r.bought.lines) for r in rows]
    assert bought == sorted(bought)
    assert len({round(r.found.evaluation.duties["P1"].flow, 9) for r in rows}) == 3


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_as_many_more_as_are_told_bring_nothing_new(path: Path) -> None:
    """By duplicating them one by one: so many bring no new problem or warning, one more does."""
    whole = assess(load_plan(path.read_bytes()))
    plan = whole.evaluation.plan
    bed = next((v.id for v in plan.vessels if v.use.floods or v.use.has_rafts), None)
    if bed is None:
        return
    more = more_of(whole, bed, most=2)
    known = {(f.rule.id, f.message) for f in whole.findings if f.severity != "note"}

    def new() -> set[tuple[str, str]]:
        told = {(f.rule.id, f.message) for f in assess(plan).findings if f.severity != "note"}
        return told - known

    for _ in range(more.count):
        plan = apply_edits(plan, duplicate_part(plan, bed)[0])
        assert not new()
    if more.stops:
        plan = apply_edits(plan, duplicate_part(plan, bed)[0])
        assert {(f.rule.id, f.message) for f in more.stops} <= new()
