"""What a plan does through time, in words and rows for the page."""

from typing import Any

from django.http import QueryDict

from bathys.commands.rehearse import (
    CLAIMS,
    consequence_words,
    mishap_words,
    moment_words,
    promise_words,
)
from bathys.pipeline import Assessment, Rehearsed
from bathys.plan import Plan
from bathys.rules import Finding
from bathys.simulation.claims import SumpClaims
from bathys.simulation.drill import PowerDrill
from bathys.units import System, fill_sentence, show
from bathys_web.plans.charts import draw_sump
from bathys_web.plans.storing import rehearsed_of_plan

__all__ = ["finding_words", "rehearsal_list"]


def finding_words(finding: Finding, units: System) -> dict[str, Any]:
    """A finding as the page shows it."""
    return {
        "rule": finding.rule.id, "severity": finding.severity, "place": finding.place,
        "sentence": fill_sentence(finding.sentence, finding.figures, units),
        "hint": fill_sentence(finding.hint, finding.figures, units), "why": finding.rule.why,
        "kind": finding.rule.kind, "has_offers": bool(finding.list_offers()),
    }  # fmt: skip


def rehearsal_list(
    found: Assessment, asked: QueryDict, units: System, own: object
) -> dict[str, Any]:
    """Cycles, sumps, power cuts and mishaps of a plan."""
    plan = found.evaluation.plan
    late = rehearsed_of_plan(plan)
    if isinstance(late, str):
        return {"refusal": late}
    rehearsal = late.rehearsal
    return {
        "cycles": _cycles(plan, late, units),
        "is_steady": rehearsal.settling.is_steady,
        "hours": f"{rehearsal.settling.through.times[-1] / 3600.0:.0f} h",
        "sumps": [_sump(plan, s, units) for s in rehearsal.claims],
        "drills": [_drill(plan, d, units) for d in rehearsal.drills],
        "mishaps": [
            {"what": mishap_words(plan, w), "then": consequence_words(plan, w, units),
             "is_grave": bool(w.half_in), "place": w.mishap.place}
            for w in rehearsal.what_ifs
        ],
        "harmless": rehearsal.harmless,
        "promises": [promise_words(plan, p, units) for p in rehearsal.promises],
    }  # fmt: skip


def _cycles(plan: Plan, late: Rehearsed, units: System) -> list[dict[str, Any]]:
    return [
        {
            "name": plan.part(c.siphon).name, "period": show(c.period, "time", units),
            "least": show(c.shortest, "time", units), "most": show(c.longest, "time", units),
            "fills": show(c.fill_time, "time", units), "drains": show(c.drain_time, "time", units),
            "wet": show(c.wet_share, "percent", units), "moves": show(c.exchanged, "volume", units),
            "starts": c.starts,
        }
        for c in late.rehearsal.settling.cycles
    ]  # fmt: skip


def _sump(plan: Plan, sump: SumpClaims, units: System) -> dict[str, Any]:
    rows = [
        {"name": CLAIMS[c.kind], "kind": c.kind, "is_most": c is sump.governing,
         "seen": show(c.volume, "volume", units),
         "most": show(max(c.volume, c.bound or 0.0), "volume", units)}
        for c in sump.claims
    ]  # fmt: skip
    return {
        "name": plan.vessel(sump.vessel).name, "rows": rows,
        "least": show(sump.least, "volume", units), "holds": show(sump.holds, "volume", units),
        "spare": show(abs(sump.spare), "volume", units), "fits": sump.spare >= 0.0,
        "vortex": show(sump.vortex_cover, "length", units),
        "picture": draw_sump(plan.vessel(sump.vessel), sump, units),
    }  # fmt: skip


def _drill(plan: Plan, drill: PowerDrill, units: System) -> dict[str, Any]:
    vessels = []
    for row in drill.vessels:
        vessel = plan.vessel(row.vessel)
        vessels.append({
            "name": vessel.name, "is_tank": vessel.job == "fish_tank",
            "before": show(row.before - vessel.floor_height, "length", units),
            "final": show(row.final - vessel.floor_height, "length", units),
            "left": show(row.share_left, "percent", units),
            "holds": show(row.volume_final, "volume", units),
            "spilled": show(row.spilled, "volume", units) if row.spilled > 1e-6 else "",
        })  # fmt: skip
    back = drill.restart
    return {
        "when": moment_words(plan, drill), "vessels": vessels,
        "siphoned": [
            {"name": plan.part(s.run).name, "backwards": s.backwards,
             "volume": show(s.volume, "volume", units)} for s in drill.siphoned
        ],
        "quiet": show(drill.quiet_after, "time", units),
        "air": [plan.part(p).name for p in back.air],
        "normal": show(back.normal_after, "time", units) if back.normal_after is not None else "",
    }  # fmt: skip
