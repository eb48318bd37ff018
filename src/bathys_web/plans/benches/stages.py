"""The stages bench: what is built now, what later, and what each comes to."""

from typing import Any

from bathys.drawing.stations import labels_of
from bathys.quality.reserve import reserve_of
from bathys.shelf import PriceList, money
from bathys.stages import StageResult, stage_results, stages_of
from bathys.units import System, fill_sentence, show
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]

_MOST_TOLD = 3


def _severities(row: StageResult) -> str:
    faults = sum(f.severity == "fault" for f in row.found.findings)
    warnings = sum(f.severity == "warning" for f in row.found.findings)
    told = [
        f"{count} {word}{'' if count == 1 else 's'}"
        for count, word in ((faults, "problem"), (warnings, "warning"))
        if count
    ]
    return " and ".join(told) or "none"


def _row(row: StageResult, prices: PriceList, units: System, before: float) -> dict[str, Any]:
    found = row.found.evaluation
    plan = found.plan
    labels = labels_of(plan)
    sumps = [
        f"{labels[v.id]} {show(r.levels.low - v.floor_height, 'length', units)} to "
        f"{show(r.levels.high - v.floor_height, 'length', units)}"
        for v in plan.vessels
        if v.use.takes_up
        for r in (found.vessels[v.id],)
    ]
    reserve = reserve_of(found)
    watts = sum(duty.power * duty.share for duty in found.duties.values())
    total = row.bought.total
    return {
        "number": row.number,
        "added": [plan.part(id_) for id_ in row.added],
        "flow": show(sum(d.flow for d in found.duties.values()), "flow", units),
        "watts": show(watts, "power", units),
        "sumps": "; ".join(sumps) or "–",
        "water": show(sum(v.rest_volume for v in found.vessels.values()), "volume", units),
        "feed": f"{reserve.feed:.3g} g" if reserve is not None else "–",
        "cost": money(total - before, prices.currency) if total else "–",
        "unpriced": len(row.bought.without_price),
        "told": _severities(row),
        "is_grave": any(f.severity == "fault" for f in row.found.findings),
        "words": [
            fill_sentence(f.sentence, f.figures, units, plan.names)
            for f in row.found.findings
            if f.severity != "note"
        ][:_MOST_TOLD],
    }


def _page(ask: BenchRequest) -> dict[str, Any]:
    prices = ask.context.prices
    rows, before = [], 0.0
    if len(stages_of(ask.plan)) > 1:
        for result in stage_results(ask.found, prices):
            rows.append(_row(result, prices, ask.units, before))
            before = result.bought.total
    labels = labels_of(ask.plan)
    return {
        "rows": rows,
        "vessels": [
            (v.id, f"{labels[v.id]} {v.name}")
            for v in sorted(ask.plan.vessels, key=lambda v: v.use.keeps_fish)
            if v.use.floods or v.use.has_rafts or v.use.keeps_fish
        ],
    }


BENCH = Bench("stages", "Stages", "What is built now, what later, and what could follow", _page)
