"""What was not worked out is said, never passed over."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation
from bathys.rules.registry import Finding, Rule, rule

__all__: list[str] = []


@rule(Rule("scope", "Not worked out", "A missing figure is better than a wrong one.", "derived"))
def _omitted(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for omission in evaluation.omissions:
        yield Finding(data, "left_out", "warning", omission.place, omission.sentence)
    if not evaluation.plan.pumps:
        first = evaluation.plan.vessels[0].id
        yield Finding(data, "no_pump", "warning", first, "This plan has no pump yet.")
