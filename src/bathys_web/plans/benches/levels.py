"""The levels bench: falls as steps, what the sump must hold, power cuts, and what may fail."""

from typing import Any

from bathys.drawing.stations import numbers_of
from bathys.evaluation import Fall, falls_of
from bathys.evaluation.levelling import Levelling, levelling_of
from bathys.plan import Plan
from bathys.scenarios.power_cut import PowerCutTrial
from bathys.scenarios.sump_capacity import SumpCapacity
from bathys.units import System, own_system, show
from bathys.wording.failures import (
    CLAIMS,
    broken_words,
    consequence_words,
    failure_words,
    moment_words,
    promise_words,
)
from bathys_web.plans.benches.bench import Bench, BenchRequest
from bathys_web.plans.benches.level_diagram import draw_stairs
from bathys_web.plans.benches.sump import draw_sump
from bathys_web.plans.dynamic import resilience_of

__all__ = ["BENCH"]

_WHOLE = 0.1  # a smaller share is told with a tenth of a per cent


def _fall_rows(plan: Plan, falls: tuple[Fall, ...], units: System) -> list[dict[str, Any]]:
    def name(id_: str) -> str:
        return str(plan.part(id_).name)

    return [
        {
            "run": f.run.run,
            "from": name(f.start),
            "to": name(f.end),
            "is_lift": f.is_lift,
            "fall": show(abs(f.fall), "length", units),
            "flow": show(f.run.flow, "flow", units),
            "could": "" if f.run.gravity is None else show(f.run.gravity.capacity, "flow", units),
            "is_short": f.spare_flow is not None and f.spare_flow < 0.0,
        }
        for f in falls
    ]


def _levelled(plan: Plan, row: Levelling, units: System) -> dict[str, Any]:
    return {
        "vessel": plan.vessel(row.vessel),
        "apart": show(row.apart, "length", units),
        "tilt": show(row.tilt * row.apart, "length", units),
        "slope": f"{1000.0 * row.tilt:.2g} mm a metre"
        if own_system(units, "length") == "metric"
        else f"{12.0 * row.tilt:.2g} in a foot",
        "outlets": [
            {
                "run": plan.part(o.run),
                "flow": show(o.flow, "flow", units),
                "share": show(o.share, "percent", units),
                "answers": show(0.001 * o.answers, "percent", units)
                if 0.001 * o.answers >= _WHOLE
                else f"{0.1 * o.answers:.1f}%",
            }
            for o in row.outlets
        ],
    }


def _page(ask: BenchRequest) -> dict[str, Any]:
    """Falls, sumps, power cuts and failures of a plan."""
    found, units, plan = ask.found.evaluation, ask.units, ask.plan
    falls, numbers = falls_of(found), numbers_of(plan)
    rows = sorted(_fall_rows(plan, falls, units), key=lambda r: numbers[r["run"].id])
    page: dict[str, Any] = {
        "stairs": draw_stairs(found, falls, units),
        "falls": rows,
        "levelling": [_levelled(plan, row, units) for row in levelling_of(found)],
    }
    answer = resilience_of(ask.context, plan)
    if not answer.is_done:
        return {**page, "answer": answer}
    resilience = answer.result.resilience
    return {
        **page,
        "answer": answer,
        "sumps": [_sump(plan, s, units) for s in resilience.sumps],
        "trials": [_trial(plan, d, i, units) for i, d in enumerate(resilience.trials)],
        "failures": [
            {
                "what": failure_words(plan, w),
                "then": consequence_words(plan, w, units),
                "is_grave": bool(w.half_in),
                "place": w.failure.place,
            }
            for w in resilience.outcomes
        ],
        "broken": broken_words(plan, resilience.broken),
        "harmless": resilience.harmless,
        "alike": resilience.alike,
        "promises": [promise_words(plan, p, units) for p in resilience.promises],
    }


def _sump(plan: Plan, sump: SumpCapacity, units: System) -> dict[str, Any]:
    rows = [
        {
            "name": CLAIMS[c.kind],
            "key": f"{sump.vessel}.claim.{c.kind}",
            "is_most": c is sump.governing,
            "seen": show(c.volume, "volume", units),
            "most": show(c.most, "volume", units),
        }
        for c in sump.claims
    ]
    return {
        "name": " and ".join(plan.vessel(v).name for v in (sump.vessel, *sump.twins)),
        "rows": rows,
        "id": sump.vessel,
        "least": show(sump.least, "volume", units),
        "holds": show(sump.holds, "volume", units),
        "spare": show(abs(sump.spare), "volume", units),
        "fits": sump.spare >= 0.0,
        "vortex": show(sump.vortex_cover, "length", units),
        "picture": draw_sump(plan.vessel(sump.vessel), sump, units),
    }


def _trial(plan: Plan, trial: PowerCutTrial, number: int, units: System) -> dict[str, Any]:
    vessels = []
    for row in trial.vessels:
        vessel = plan.vessel(row.vessel)
        vessels.append(
            {
                "name": vessel.name,
                "key": f"{row.vessel}.cut{number}",
                "before": show(row.before - vessel.floor_height, "length", units),
                "final": show(row.final - vessel.floor_height, "length", units),
                "left": show(row.share_left, "percent", units),
                "holds": show(row.volume_final, "volume", units),
                "spilled": show(row.spilled, "volume", units) if row.spilled > 1e-6 else "",
            }
        )
    back = trial.restart
    return {
        "when": moment_words(plan, trial),
        "index": number,
        "vessels": vessels,
        "siphoned": [
            {
                "name": plan.part(s.run).name,
                "backwards": s.backwards,
                "volume": show(s.volume, "volume", units),
            }
            for s in trial.siphoned
        ],
        "quiet": show(trial.quiet_after, "time", units),
        "air": [plan.part(p).name for p in back.air],
        "normal": show(back.normal_after, "time", units) if back.normal_after is not None else "",
    }


BENCH = Bench(
    "levels",
    "Levels and power cuts",
    "Water levels, and what a power cut does",
    _page,
)
