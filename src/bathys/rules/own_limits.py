"""Limits that the builder set: rule L1."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation
from bathys.evaluation.reserve import reserve_of
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Rule, rule

__all__: list[str] = []

_HAIR = 1e-9


def _told(
    data: Rule,
    part: object,
    what: str,
    quantity: str,
    now: float,
    least: float | None,
    most: float | None,
) -> Iterator[Finding]:
    """A figure against the builder's own limits of it."""
    for limit, is_least in ((least, True), (most, False)):
        if limit is None or (now >= limit - _HAIR if is_least else now <= limit + _HAIR):
            continue
        yield Finding(
            data,
            "below_own" if is_least else "above_own",
            "warning",
            part.id,  # type: ignore[attr-defined]
            f"{what} {named(part)} is {{now:{quantity}}}; your own limit is "  # type: ignore[arg-type]
            f"{'at least' if is_least else 'at most'} {{limit:{quantity}}}.",
            "Change the plan, or the limit.",
            {"now": now, "limit": limit},
        )


@rule(
    Rule(
        "L1",
        "Your own limits",
        "A limit that you set for a part is held against it as a rule of the trade is.",
        "set by the builder",
    )
)
def _own(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        vessel, own = result.vessel, result.vessel.own
        turnover = result.turnover
        yield from _told(
            data,
            vessel,
            "The turnover of",
            "per_hour",
            turnover,
            own.least_turnover,
            own.most_turnover,
        )
        if turnover > 0.0:
            yield from _told(
                data,
                vessel,
                "The time that water stays in",
                "time",
                1.0 / turnover,
                own.least_hold,
                None,
            )
        low, high = (z - vessel.floor_height for z in (result.levels.low, result.levels.high))
        yield from _told(data, vessel, "The lowest level of", "length", low, own.lowest, None)
        yield from _told(data, vessel, "The highest level of", "length", high, None, own.highest)
        kept = reserve_of(evaluation, vessel.id) if own.least_days is not None else None
        if kept is not None and kept.days is not None:
            yield from _told(
                data,
                vessel,
                "In days without a hand, the reserve of",
                "ratio",
                kept.days,
                own.least_days,
                None,
            )
    for flow in evaluation.runs.values():
        own_run = flow.run.own
        if flow.flow:
            yield from _told(
                data,
                flow.run,
                "The velocity in",
                "speed",
                flow.velocity,
                own_run.slowest,
                own_run.fastest,
            )
    for duty in evaluation.duties.values():
        reserve = 1.0 - duty.label_share
        yield from _told(
            data,
            duty.pump,
            "The unused share of",
            "percent",
            reserve,
            duty.pump.own.least_reserve,
            None,
        )
