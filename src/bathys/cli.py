"""``bathys check plan.json``: a plan's figures and findings on the terminal.

Exit status: 0 sound, 1 findings, 2 bad input.
"""

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from bathys.network import NotSolved
from bathys.pipeline import Assessment, assess
from bathys.plan import BadPlan, Plan, load_plan, schema
from bathys.units import SYSTEMS, System, fill_sentence, show

__all__ = ["main"]

_SOUND, _FINDINGS, _BAD_INPUT = 0, 1, 2


def _arguments() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="bathys", description="Works out aquaponics layouts.")
    commands = parser.add_subparsers(dest="command", required=True)
    check = commands.add_parser("check", help="figures and findings of a plan")
    check.add_argument("plan", type=Path, help="a plan file")
    check.add_argument("--json", action="store_true", help="print JSON, in SI units")
    check.add_argument("--units", choices=SYSTEMS, help="instead of the plan's own")
    commands.add_parser("schema", help="JSON Schema of the plan file")
    return parser


def _table(assessment: Assessment, units: System) -> str:
    rows = [(f"{assessment.evaluation.plan.name}", "", "")]
    for figure in assessment.evaluation.figures:
        rows.append((
            figure.label, show(figure.value, figure.quantity, units),
            fill_sentence(figure.compare, figure.compare_with, units),
        ))  # fmt: skip
    wide = [max(len(row[i]) for row in rows) for i in (0, 1)]
    lines = [f"{a:<{wide[0]}}  {b:>{wide[1]}}  {c}".rstrip() for a, b, c in rows]
    for result in assessment.evaluation.loops:
        lines += ["", f"Where the head of {result.loop.pump.id} goes"]
        lines += [
            f"  {row.label:<26} {show(row.head, 'head', units):>9}" for row in result.duty.budget
        ]
    lines += ["", "Findings" if assessment.findings else "No findings."]
    for finding in assessment.findings:
        place = f"{finding.severity:<8} {finding.rule.id:<6} {finding.place:<4}"
        lines.append(f"  {place} {fill_sentence(finding.sentence, finding.figures, units)}")
        if finding.hint:
            lines.append(" " * 23 + fill_sentence(finding.hint, finding.figures, units))
    lines += ["", "Estimates for planning: test with water, and without fish, first."]
    return "\n".join(lines)


def _as_json(assessment: Assessment) -> str:
    figures = [
        {
            "key": f.key, "label": f.label, "value": f.value, "quantity": f.quantity,
            "equation": f.equation, "source": f.source, "kind": f.kind,
            "inputs": [{"label": i.label, "value": i.value, "quantity": i.quantity}
                       for i in f.inputs],
        }
        for f in assessment.evaluation.figures
    ]  # fmt: skip
    findings = [
        {
            "rule": f.rule.id, "severity": f.severity, "place": f.place, "figures": dict(f.figures),
            "sentence": fill_sentence(f.sentence, f.figures, "metric"),
            "hint": fill_sentence(f.hint, f.figures, "metric"),
        }
        for f in assessment.findings
    ]  # fmt: skip
    budgets = {
        r.loop.pump.id: [{"kind": b.kind, "label": b.label, "head": b.head} for b in r.duty.budget]
        for r in assessment.evaluation.loops
    }
    data = {
        "plan": assessment.evaluation.plan.name, "sound": assessment.is_sound,
        "figures": figures, "head_budgets": budgets, "findings": findings,
    }  # fmt: skip
    return json.dumps(data, indent=2, ensure_ascii=False, allow_nan=False)


def _load(path: Path) -> Plan:
    try:
        return load_plan(path.read_bytes())
    except OSError as error:
        print(f"{path}: {error.strerror}", file=sys.stderr)
    except BadPlan as bad:
        for fault in bad.faults:
            print(f"{path}: {fault.path}: {fault.sentence}", file=sys.stderr)
    raise SystemExit(_BAD_INPUT)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command.

    Parameters
    ----------
    arguments : sequence of str, optional
        Words after the command's name; those of the process if none

    Returns
    -------
    int
        Exit status
    """
    asked = _arguments().parse_args(arguments)
    if asked.command == "schema":
        print(json.dumps(schema(), indent=2))
        return _SOUND
    plan = _load(asked.plan)
    try:
        assessment = assess(plan)
    except NotSolved as error:
        print(f"{asked.plan}: {error}", file=sys.stderr)
        return _BAD_INPUT
    print(
        _as_json(assessment) if asked.json else _table(assessment, asked.units or plan.site.units)
    )
    return _SOUND if assessment.is_sound else _FINDINGS


if __name__ == "__main__":
    sys.exit(main())
