"""A part sized anew, or all that is not locked."""

import random
from typing import Any

import pytest

from bathys.design import ALL, resized
from bathys.edits import Edit, apply_edits
from bathys.pipeline import Assessment, assess
from bathys.plan import Plan, load_plan
from tests.conftest import EXAMPLE

PLANS = sorted(EXAMPLE.parent.glob("*.json")) + sorted(EXAMPLE.parent.glob("faults/*.json"))[::3]


def _worst(found: Assessment) -> tuple[int, int]:
    return found.counts["fault"], found.counts["warning"]


def _parts(plan: Plan) -> list[str]:
    return [part.id for _, group in plan.lists() for part in group]


@pytest.mark.parametrize("path", PLANS, ids=lambda p: p.stem)
def test_sizing_never_worsens_a_plan_and_touches_nothing_locked(path: Any) -> None:
    """Of three parts drawn, and of all at once with those locked: no more problems than before, by
    an assessment of its own; what is locked is as it was; sized twice it is the same."""
    plan = load_plan(path.read_bytes())
    before = assess(plan)
    drawn = random.Random(path.stem).sample(_parts(plan), 3)
    for id_ in drawn:
        done = resized(before, id_)
        if done is not None:
            assert _worst(assess(apply_edits(plan, done.edits))) <= _worst(before)
        assert resized(before, id_, locked=[id_]) is None
    done = resized(before, ALL, locked=drawn)
    if done is not None:
        after = apply_edits(plan, done.edits)
        assert after == done.assessment.evaluation.plan
        assert _worst(assess(after)) <= _worst(before)
        assert [after.part(id_) for id_ in drawn] == [plan.part(id_) for id_ in drawn]


def test_each_kind_of_part_is_sized_for_what_it_does() -> None:
    """A pump far too large is replaced by one that draws less; a narrow riser gets wider; a siphon
    that never starts is built so that it does; a settler that is too fast gets larger."""
    pair = load_plan(EXAMPLE.read_bytes())
    large = {"kind": "label", "max_flow": 0.003, "max_head": 8.0, "exponent": 2.0}
    over = assess(apply_edits(pair, [Edit("pumps.P1.curve", large), Edit("pumps.P1.power", 300.0)]))
    pump = resized(over, "P1")
    assert pump is not None
    assert pump.assessment.evaluation.plan.pumps[0].power < 50.0
    narrow = {"kind": "standard", "standard": "ASTM D1785 Schedule 40", "nominal": "1/2 in"}
    choked = assess(apply_edits(pair, [Edit("runs.R1.bore", narrow)]))
    wider = resized(choked, "R1")
    assert wider is not None
    assert wider.assessment.evaluation.plan.runs[0].bore.inside > 0.02
    for name, part, rule in (("trickling-siphon", "S1", "B1"), ("fast-settler", "C1", "D2")):
        bad = assess(load_plan((EXAMPLE.parent / "faults" / f"{name}.json").read_bytes()))
        good = resized(bad, part)
        assert good is not None, name
        assert good.assessment.counts["fault"] <= bad.counts["fault"]
        gone = {f.rule.id for f in bad.findings} - {f.rule.id for f in good.assessment.findings}
        assert rule in gone or good.assessment.counts["fault"] < bad.counts["fault"], gone
