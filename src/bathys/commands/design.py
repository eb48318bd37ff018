"""``bathys design``: from a brief to a sized plan."""

import json
from pathlib import Path
from typing import Any

from bathys.design import (
    AIMS,
    Answer,
    BadBrief,
    DesignBrief,
    DesignRefused,
    brief_from_data,
    design,
    reasons_of,
)
from bathys.plan import dump_plan, to_file
from bathys.plan.loading import Fault
from bathys.units import System, fill_sentence, show

__all__ = ["as_data", "as_text", "brief_schema", "load_brief", "refusal_text", "run"]

_SOUND, _FINDINGS, _BAD_INPUT = 0, 1, 2


def run(
    path: Path, output: Path | None, is_json: bool, units: System | None
) -> tuple[int, list[str], list[str]]:
    """Size a brief file.

    Parameters
    ----------
    path : Path
        The brief
    output : Path or None
        Where the first plan goes
    is_json : bool
        Whether to tell all of it as JSON
    units : System or None
        The reader's units; those of the brief if none

    Returns
    -------
    (int, list of str, list of str)
        Exit status, what is told, and what is wrong
    """
    try:
        told = load_brief(path)
    except BadBrief as bad:
        return _BAD_INPUT, [], [f"{path}: {f.path}: {f.sentence}" for f in bad.faults]
    except OSError as error:
        return _BAD_INPUT, [], [f"{path}: {error.strerror}"]
    try:
        answers = design(told)
        if output is not None:
            output.write_text(dump_plan(answers[0].assessment.evaluation.plan), encoding="utf-8")
    except DesignRefused as refused:
        return _FINDINGS, [], [refusal_text(refused, units or told.units)]
    except OSError as error:
        return _BAD_INPUT, [], [f"{error.filename}: {error.strerror}"]
    if is_json:
        text = json.dumps(as_data(told, answers), indent=2, ensure_ascii=False, allow_nan=False)
    else:
        text = as_text(told, answers, units or told.units)
    return _SOUND, [text], []


def load_brief(path: Path) -> DesignBrief:
    """Read a brief.

    Parameters
    ----------
    path : Path
        A JSON file

    Returns
    -------
    DesignBrief
        The brief

    Raises
    ------
    BadBrief
        If it is none
    OSError
        If it cannot be read
    """
    try:
        return brief_from_data(json.loads(path.read_bytes()))
    except (UnicodeDecodeError, json.JSONDecodeError) as error:
        raise BadBrief((Fault("", f"It is no JSON: {error}"),)) from None


def brief_schema() -> dict[str, Any]:
    """JSON Schema of a brief file.

    Returns
    -------
    dict of str to object
        The schema
    """
    return DesignBrief.model_json_schema()


def as_text(brief: DesignBrief, answers: tuple[Answer, ...], units: System) -> str:
    """Answers with their reasons.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    answers : tuple of Answer
        The answers to it
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    lines = list[str]()
    for answer in answers:
        plan = answer.assessment.evaluation.plan
        aims = ", ".join(AIMS[aim] for aim in answer.aims)
        lines += [f"{aims}: {show(answer.watts, 'power', units)}", ""]
        for reason in reasons_of(brief, answer):
            words = fill_sentence(reason.sentence, reason.figures, units, plan.names)
            lines.append(f"  {reason.what[:1].upper()}{reason.what[1:]}: {words}")
        for finding in (*answer.assessment.findings, *answer.later):
            if finding.severity != "note":
                words = fill_sentence(finding.sentence, finding.figures, units, plan.names)
                lines.append(f"  {finding.severity}: {words}")
        lines.append("")
    return "\n".join(lines).rstrip()


def as_data(brief: DesignBrief, answers: tuple[Answer, ...]) -> dict[str, Any]:
    """The same as JSON data, each with its plan, in SI units.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    answers : tuple of Answer
        The answers to it

    Returns
    -------
    dict of str to object
        JSON data
    """
    return {
        "brief": brief.model_dump(mode="json"),
        "answers": [
            {
                "aims": list(answer.aims),
                "watts": answer.watts,
                "reasons": [
                    {"part": r.part, "what": r.what, "sentence": r.sentence, "figures": r.figures}
                    for r in reasons_of(brief, answer)
                ],
                "plan": to_file(answer.assessment.evaluation.plan),
            }
            for answer in answers
        ],
    }


def refusal_text(refused: DesignRefused, units: System) -> str:
    """Why a brief cannot be met, and what frees it.

    Parameters
    ----------
    refused : DesignRefused
        Why
    units : System
        The reader's units

    Returns
    -------
    str
        A line or two
    """
    words = f"{refused.wish}: {fill_sentence(refused.sentence, refused.figures, units, {})}"
    if not refused.frees:
        return words
    return f"{words}\nThis frees it: {json.dumps(refused.frees)}"
