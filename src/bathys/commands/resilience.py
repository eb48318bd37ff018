"""``bathys resilience``: power cuts, failures, what the sump must hold."""

from typing import Any

from bathys.commands.tables import table
from bathys.pipeline import DynamicAssessment
from bathys.plan import Plan
from bathys.scenarios.power_cut import PowerCutTrial
from bathys.scenarios.sump_capacity import SumpCapacity
from bathys.units import System, fill_sentence, show
from bathys.wording.failures import (
    CLAIMS,
    broken_words,
    consequence_words,
    failure_words,
    moment_words,
    promise_words,
)

__all__ = ["as_data", "as_text"]


def _cycles(dynamic: DynamicAssessment, units: System) -> list[str]:
    rows = []
    for row in dynamic.resilience.periodic.cycles:
        spread = ""
        if row.shortest is not None:
            spread = f"{show(row.shortest, 'time', units)} to {show(row.longest, 'time', units)}"
        rows.append(
            (
                row.siphon,
                show(row.period, "time", units),
                spread,
                show(row.fill_time, "time", units),
                show(row.drain_time, "time", units),
                show(row.exchanged, "volume", units),
            )
        )
    head = ("", "cycle", "between", "fills in", "drains in", "moves")
    return [*table(head, rows, 1), ""] if rows else []


def _sump(plan: Plan, sump: SumpCapacity, units: System) -> list[str]:
    name = plan.vessel(sump.vessel).name
    rows = [
        (
            CLAIMS[c.kind],
            show(max(c.volume, c.bound or 0.0), "volume", units),
            "the most of all" if c is sump.governing else "",
        )
        for c in sump.claims
    ]
    marks = (
        ("lowest safe", sump.lowest_safe),
        ("first start", sump.startup_low),
        ("usual low water", sump.normal_low),
        ("usual high water", sump.normal_high),
        ("power off", sump.power_off),
        ("highest", sump.most),
    )
    word = "to spare" if sump.spare >= 0.0 else "missing"
    return [
        f"What {name} must hold",
        *table(("", "at the most", ""), rows, 1),
        f"  in all {show(sump.least, 'volume', units)}; it holds "
        f"{show(sump.holds, 'volume', units)}: {show(abs(sump.spare), 'volume', units)} {word}",
        "  marks over its floor: " + ", ".join(f"{w} {show(z, 'length', units)}" for w, z in marks),
        "",
    ]


def _trial(plan: Plan, trial: PowerCutTrial, units: System) -> list[str]:
    rows = [
        (
            plan.vessel(v.vessel).name,
            *(
                show(z - plan.vessel(v.vessel).floor_height, "length", units)
                for z in (v.before, v.final)
            ),
            show(v.share_left, "percent", units),
            show(v.spilled, "volume", units) if v.spilled > 0.0 else "",
        )
        for v in trial.vessels
    ]
    lines = [
        f"Power cut {moment_words(plan, trial)}",
        *table(("", "depth", "ends at", "of its water", "over its rim"), rows, 1),
    ]
    for line in trial.siphoned:
        way = "back through the pump" if line.backwards else "on by itself"
        lines.append(
            f"  {plan.part(line.run).name} runs {way}: {show(line.volume, 'volume', units)}"
        )
    back = trial.restart
    air = ", ".join(plan.part(p).name for p in back.air)
    lines.append(f"  all water is still after {show(trial.quiet_after, 'time', units)}")
    lines.append(
        f"  power back: {f'{air} runs dry' if air else 'no pump runs dry'}"
        + (
            f"; all as before after {show(back.normal_after, 'time', units)}"
            if back.normal_after is not None
            else ""
        )
    )
    return [*lines, ""]


def as_text(found: DynamicAssessment, units: System) -> str:
    """Cycles, sump, power cuts, failures and findings.

    Parameters
    ----------
    found : DynamicAssessment
        What a plan does through time
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    plan, resilience = found.assessment.evaluation.plan, found.resilience
    lines = [plan.name, "", *_cycles(found, units)]
    for sump in resilience.sumps:
        lines += _sump(plan, sump, units)
    for trial in resilience.trials:
        lines += _trial(plan, trial, units)
    lines += [promise_words(plan, p, units) for p in resilience.promises]
    lines += [""] if resilience.promises else []
    rows = [
        (failure_words(plan, w), consequence_words(plan, w, units)) for w in resilience.outcomes
    ]
    if resilience.broken:
        lines += [broken_words(plan, resilience.broken), ""]
    if rows:
        lines += ["If something fails"]
        lines += [f"  {what}\n    {then}" for what, then in rows]
        lines.append(f"  {resilience.harmless} more do no harm within half a day")
        if resilience.alike:
            lines.append(f"  {resilience.alike} were left out: others of parts alike were tried")
        lines.append("")
    for finding in found.findings:
        said = fill_sentence(finding.sentence, finding.figures, units, plan.names)
        lines.append(f"{finding.severity:<8} {finding.rule.id:<4} {said}")
        hint = fill_sentence(finding.hint, finding.figures, units, plan.names)
        if hint:
            lines.append(f"{'':<13} {hint}")
    return "\n".join(lines).rstrip()


def as_data(found: DynamicAssessment) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : DynamicAssessment
        What a plan does through time

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    resilience, plan = found.resilience, found.assessment.evaluation.plan
    return {
        "plan": plan.name,
        "is_steady": resilience.periodic.is_steady,
        "siphons": [
            {
                "id": c.siphon,
                "starts": c.starts,
                "cycle": c.period,
                "shortest": c.shortest,
                "longest": c.longest,
                "fill_time": c.fill_time,
                "drain_time": c.drain_time,
                "exchanged": c.exchanged,
            }
            for c in resilience.periodic.cycles
        ],
        "sumps": [
            {
                "vessel": s.vessel,
                "holds": s.holds,
                "least": s.least,
                "governing": s.governing.kind,
                "claims": {c.kind: {"volume": c.volume, "bound": c.bound} for c in s.claims},
                "marks": {
                    "lowest_safe": s.lowest_safe,
                    "first_start": s.startup_low,
                    "usual_low": s.normal_low,
                    "usual_high": s.normal_high,
                    "power_off": s.power_off,
                    "highest": s.most,
                },
            }
            for s in resilience.sumps
        ],
        "power_cuts": [
            {
                "moment": d.moment,
                "siphon": d.siphon,
                "time": d.time,
                "spilled": d.spilled,
                "quiet_after": d.quiet_after,
                "still_to_come": d.still_to_come,
                "vessels": [
                    {
                        "id": v.vessel,
                        "before": v.before,
                        "final": v.final,
                        "share_left": v.share_left,
                        "spilled": v.spilled,
                    }
                    for v in d.vessels
                ],
                "siphoned": [
                    {"run": s.run, "volume": s.volume, "backwards": s.backwards} for s in d.siphoned
                ],
                "restart": {"air": list(d.restart.air), "normal_after": d.restart.normal_after},
            }
            for d in resilience.trials
        ],
        "broken": [{"what": what, "place": place} for what, place in resilience.broken],
        "promises": [
            {
                "vessel": p.vessel,
                "height": p.height,
                "volume": p.volume,
                "share": p.share,
                "seen": p.seen,
            }
            for p in resilience.promises
        ],
        "failures": [
            {
                "kind": w.failure.kind,
                "place": w.failure.place,
                "spills_in": w.spills_in,
                "spills_after": w.spills_after,
                "spilled": w.spilled,
                "half_in": w.half_in,
                "half_after": w.half_after,
                "tank_left": w.tank_left,
                "air_in": w.air_in,
                "air_after": w.air_after,
                "starved": list(w.starved),
            }
            for w in resilience.outcomes
        ],
        "findings": [
            {
                "rule": f.rule.id,
                "severity": f.severity,
                "place": f.place,
                "sentence": fill_sentence(f.sentence, f.figures, "metric", plan.names),
            }
            for f in found.findings
        ],
    }
