"""How the water is started: rule N18."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.quality.starting import few_fish, ready_after
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_DAY = 86400.0
_LONGEST = 90.0  # days that a start is followed


@rule(
    Rule(
        "N18",
        "Fish come when the water is ready",
        "Before bacteria have grown, ammonia and nitrite harm fish.",
        "common practice",
    )
)
def _too_soon(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    brief = evaluation.plan.brief
    tank = next((v for v in evaluation.plan.vessels if v.use.keeps_fish), None)
    if brief.stocked_after is None or tank is None:
        return
    told = brief.stocked_after / _DAY
    ready, soonest, latest = (d if d is not None else _LONGEST for d in ready_after(evaluation))
    few = few_fish(evaluation)
    if told >= latest or few is None or few.share >= 1.0:
        return
    wait = min(math.ceil(latest), 365)
    yield Finding(
        data,
        "fish_come_too_soon",
        "warning" if told < soonest and brief.start != "with_fish" else "note",
        tank.id,
        "Fish are to come after {told:interval}; started without fish, the water is ready after "
        "about {ready:count} days, between {soonest:count} and {latest:count}.",
        "Media of a running system or warmer water shorten this. With {few:mass} of fish, fed "
        "{feed:dose} a day, it may begin at once: exchange a fifth of the water a day, and test.",
        {
            "told": brief.stocked_after,
            "ready": ready,
            "soonest": soonest,
            "latest": latest,
            "few": few.mass,
            "feed": 0.001 * few.feed,
        },
        (
            Offer(
                "let fish come after {wait:count} days",
                (Edit("brief.stocked_after", wait * _DAY),),
                "",
                {"wait": float(wait)},
            ),
        ),
    )
