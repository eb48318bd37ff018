"""What a rule puts forward is done, in every case that brings the rule out."""

from collections.abc import Callable
from typing import Any

import pytest

from bathys.edits import apply_edits
from bathys.pipeline import assess, remedies_of
from bathys.plan import dump_plan, load_plan, plan_from_data
from bathys.units import SYSTEMS, fill_sentence
from tests.engine.test_rules import CASES

Change = Callable[[dict[str, Any]], None]


@pytest.mark.counted
@pytest.mark.parametrize(
    ("rule", "place", "change"),
    [(c[0], c[2], c[3]) for c in CASES],
    ids=[f"{c[0]} {c[1]} {c[2]}" for c in CASES],
)
def test_each_remedy_of_a_rule_is_a_plan_that_does_what_is_said_of_it(
    document: dict[str, Any], rule: str, place: str, change: Change
) -> None:
    """Taken, it gives a plan that can be stored and read; what is said to cure is gone, what is
    not is still there; its words are whole in both systems of units."""
    change(document)
    found = assess(plan_from_data(document))
    for finding in found.findings:
        if (finding.rule.id, finding.place) != (rule, place):
            continue
        _tried.setdefault(rule, 0)
        for remedy in remedies_of(found, finding):
            _tried[rule] += 1
            after = apply_edits(found.evaluation.plan, remedy.offer.edits)
            assert load_plan(dump_plan(after).encode()) == after
            left = {(f.rule.id, f.place) for f in assess(after).findings}
            assert remedy.cures == ((rule, place) not in left), remedy.offer.label
            for units in SYSTEMS:
                words = fill_sentence(remedy.offer.label, remedy.offer.figures, units, after.names)
                assert "{" not in words
                assert words
            locked = {p for p in found.evaluation.plan.names if _is_locked(found, p)}
            assert not locked & {e.path.split(".")[1] for e in remedy.offer.edits if "." in e.path}


def _is_locked(found: Any, part: str) -> bool:
    return bool(getattr(found.evaluation.plan.part(part), "locked", False))


def test_many_rules_put_something_forward() -> None:
    """Or the test above holds nothing."""
    if len(_tried) < len({case[0] for case in CASES}):
        pytest.skip("only some of the cases were run")
    assert sum(map(bool, _tried.values())) >= len(_tried) // 3


_tried: dict[str, int] = {}
"""How many remedies were tried of each rule."""
