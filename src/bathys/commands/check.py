"""``bathys check``: figures and findings."""

from typing import Any

from bathys.commands.tables import table
from bathys.figures import Figure, drivers_of
from bathys.pipeline import Assessment, Remedy, remedies_of
from bathys.plan import Plan
from bathys.rules import Finding
from bathys.units import System, fill_sentence, show
from bathys.wording.remedies import remedy_words

__all__ = ["as_data", "as_text"]


def as_text(assessment: Assessment, units: System) -> str:
    """Figures, head budgets and findings for a terminal.

    Parameters
    ----------
    assessment : Assessment
        Numbers and findings of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    found = assessment.evaluation
    lines = [found.plan.name]
    rows = [
        (
            f.label,
            show(f.value, f.quantity, units),
            fill_sentence(f.compare, f.compare_with, units, found.plan.names),
        )
        for f in assessment.headlines
    ]
    wide = [max(len(row[i]) for row in rows) if rows else 0 for i in (0, 1)]
    lines += [f"{a:<{wide[0]}}  {b:>{wide[1]}}  {c}".rstrip() for a, b, c in rows]
    for delivery in found.deliveries:
        lines += ["", f"Head losses of {delivery.pump} on the way to {delivery.vessel}"]
        lines += [
            f"  {row.label:<26} {row.place:<4} {show(row.head, 'head', units):>9}"
            for row in delivery.budget
        ]
    lines += ["", *run_table(assessment, units)]
    lines += ["", "Findings" if assessment.findings else "No findings."]
    for finding in assessment.findings:
        lines += _finding_lines(assessment, finding, units)
    lines += ["", "Estimates for planning: test with water, and without fish, first."]
    return "\n".join(lines)


def _finding_lines(assessment: Assessment, finding: Finding, units: System) -> list[str]:
    place = f"{finding.severity:<8} {finding.rule.id:<6} {finding.place:<4}"
    plan = assessment.evaluation.plan
    said, hint = (
        fill_sentence(s, finding.figures, units, plan.names)
        for s in (finding.sentence, finding.hint)
    )
    lines = [f"  {place} {said}"]
    if hint:
        lines.append(" " * 23 + hint)
    for remedy in remedies_of(assessment, finding):
        lines.append(" " * 23 + f"→ {remedy_words(remedy, plan, units)}")
    return lines


def run_table(assessment: Assessment, units: System) -> list[str]:
    """Every run in a line."""
    rows = []
    for result in assessment.evaluation.runs.values():
        gravity = result.gravity
        full = "" if gravity is None else show(gravity.fill, "percent", units)
        over = "" if gravity is None else show(max(gravity.head_over, 0.0), "length", units)
        rows.append(
            (
                result.run.id,
                result.run.name,
                show(result.flow, "flow", units),
                show(result.velocity, "speed", units),
                result.regime,
                show(abs(result.loss), "length", units),
                full,
                over,
            )
        )
    head = ("", "run", "flow", "velocity", "regime", "head lost", "full", "over crest")
    return table(head, rows, left=2)


def _figure_data(figure: Figure) -> dict[str, Any]:
    return {
        "key": figure.key,
        "label": figure.label,
        "value": figure.value,
        "quantity": figure.quantity,
        "equation": figure.equation,
        "source": figure.source,
        "kind": figure.kind,
        "inputs": [
            {"label": i.label, "value": i.value, "quantity": i.quantity} for i in figure.inputs
        ],
        "drivers": [
            {
                "label": fill_sentence(d.label, d.figures, "metric", {}),
                "effect_of_one_percent": d.effect,
            }
            for d in drivers_of(figure)
        ],
    }


def _remedy_data(remedy: Remedy, plan: Plan) -> dict[str, Any]:
    return {
        "words": remedy_words(remedy, plan, "metric"),
        "mends": remedy.cures,
        "edits": [{"path": e.path, "value": e.value} for e in remedy.offer.edits],
    }


def as_data(assessment: Assessment) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    assessment : Assessment
        Numbers and findings of a plan

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    found = assessment.evaluation
    findings = [
        {
            "id": f.id,
            "rule": f.rule.id,
            "severity": f.severity,
            "place": f.place,
            "school": f.rule.school,
            "kind": f.rule.kind,
            "figures": dict(f.figures),
            "sentence": fill_sentence(f.sentence, f.figures, "metric", found.plan.names),
            "hint": fill_sentence(f.hint, f.figures, "metric", found.plan.names),
            "remedies": [_remedy_data(r, found.plan) for r in remedies_of(assessment, f)],
        }
        for f in assessment.findings
    ]
    budgets = [
        {
            "pump": d.pump,
            "run": d.run,
            "vessel": d.vessel,
            "flow": d.flow,
            "rows": [
                {"kind": b.kind, "label": b.label, "place": b.place, "head": b.head}
                for b in d.budget
            ],
        }
        for d in found.deliveries
    ]
    return {
        "plan": found.plan.name,
        "sound": assessment.is_sound,
        "figures": [_figure_data(f) for f in assessment.figures],
        "head_budgets": budgets,
        "findings": findings,
    }
