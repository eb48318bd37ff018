"""Filters, meshes, purges, and solids that beds and rafts come to hold: rules D11 to D18."""

from collections.abc import Iterator
from typing import Any

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.rounding import mark_below, whole_days
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.quality import solids_of
from bathys.quality.filters import FilterResult, due_of
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_DAY = 86400.0
_WHY = {
    "past": "then water goes past it",
    "high": "then the water before it stands at its freeboard",
    "full": "then it can hold little more",
}


def _filter_named(run: Run) -> str:
    """A filter by what it is and where, in the middle of a sentence."""
    assert run.filter is not None  # noqa: S101 - only asked of runs with one
    return f"the filter of {named(run)} ({run.filter.CHOICE})"


def _filters(evaluation: Evaluation) -> Iterator[tuple[FilterResult, Any]]:
    """Every filter, with when it is due."""
    solids = solids_of(evaluation)
    viscosity = evaluation.water.kinematic_viscosity
    for result in solids.filters:
        yield result, due_of(result, solids.held(result.run.id), viscosity)


@rule(
    Rule(
        "D11",
        "A filter is cleaned in time",
        "What it holds shuts it; before that it is taken out and cleaned.",
        "derived",
        "what fills it is assumed; fibre under load takes 5 to 7 days (common practice)",
        limits={"least": 3.0 * _DAY},
    )
)
def _cleaned(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, due in _filters(evaluation):
        if due.days is None:
            continue
        time = due.days * _DAY
        every = result.filter.clean_every
        wanted = whole_days(0.75 * due.days) * _DAY
        figures = {"time": time, "wanted": wanted, **data.limits}
        path = f"runs.{result.run.id}.filter.clean_every"
        remedy = (
            "Clean it every {wanted:time}, or let less reach it: a settler before it, or a larger "
            "filter."
        )
        if every is not None and every > time:
            yield Finding(
                data,
                "cleaned_too_late",
                "warning",
                result.run.id,
                f"It is cleaned every {{every:time}}, and {_filter_named(result.run)} is full "
                f"after {{time:time}}: {_WHY[due.why]}.",
                remedy,
                {"every": every, **figures},
                (
                    Offer(
                        "clean it every {wanted:time}",
                        (Edit(path, wanted),),
                        "",
                        {"wanted": wanted},
                    ),
                )
                if wanted < time
                else (),
            )
        elif time < data.limits["least"]:
            yield Finding(
                data,
                "clogs_soon",
                "note",
                result.run.id,
                f"At its load, {_filter_named(result.run)} is full after {{time:time}}: "
                f"{_WHY[due.why]}.",
                remedy,
                figures,
            )


@rule(
    Rule(
        "D12",
        "Water has a way past a filter",
        "A filter that shuts must not shut the way of the water.",
        "common practice",
    )
)
def _way_past(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for result, _ in _filters(evaluation):
        highest = result.head + result.room
        if not result.rises_in or 0.0 < result.filter.past_head <= highest:
            continue
        others = [
            r
            for r in plan.runs
            if plan.owner_of(r.start) == result.rises_in
            and r.id != result.run.id
            and r.id not in evaluation.balance.layout.pressure
            and r.filter is None
        ]
        if others:
            continue
        vessel = plan.vessel(result.rises_in)
        head = mark_below(0.6 * highest)
        path = f"runs.{result.run.id}.filter.past_head"
        yield Finding(
            data,
            "no_way_past",
            "warning",
            result.run.id,
            f"Once {_filter_named(result.run)} is full, {named(vessel)} runs over: "
            + (
                "water gets past it only {past:length} higher."
                if result.filter.past_head > 0.0
                else "no water gets past it."
            ),
            "Give it a hole or an open top {head:length} over the water behind it, where it shows.",
            {"head": head, "past": result.filter.past_head},
            (Offer("let water past it at {head:length}", (Edit(path, head),), "", {"head": head}),)
            if head > 0.0
            else (),
        )
