"""Remedies of findings, of the plan as it stands and of what time brings out."""

from collections import Counter
from collections.abc import Sequence
from statistics import fmean
from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment, DynamicAssessment, Remedy, remedies_of
from bathys.plan import Plan
from bathys.units import System, fill_sentence, show
from bathys.wording.remedies import remedy_words
from bathys_web.plans.dynamic import resilience_of
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import seal_for
from bathys_web.plans.shown_findings import shown_finding, worst_of

__all__ = ["dynamic_list", "dynamic_remedies_list", "remedies_list", "remedy_rows"]

_TOLD_APART = 0.01  # a cycle that comes out so much otherwise is told as it runs


def remedy_rows(remedies: Sequence[Remedy], plan: Plan, units: System) -> list[dict[str, Any]]:
    """Remedies as the page shows them.

    Parameters
    ----------
    remedies : sequence of Remedy
        The remedies
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    list of dict of str to object
        Rows of the template
    """
    seal, rows = seal_for(plan), []
    for remedy in remedies:
        label = fill_sentence(remedy.offer.label, remedy.offer.figures, units, plan.names)
        rows.append(
            {"offer": seal(remedy.offer.edits, label), "words": remedy_words(remedy, plan, units)}
        )
    return rows


def remedies_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Remedies of one finding, each with its effect.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    rows, plan = [], found.evaluation.plan
    for finding in found.findings:
        if (finding.rule.id, finding.place) == (asked.get("rule"), asked.get("place")):
            rows = remedy_rows(remedies_of(found, finding), plan, units)
            break
    return {"rows": rows, "rule": asked.get("rule"), "place": asked.get("place")}


def dynamic_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Findings on what the plan does through time and when things fail.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    plan = found.evaluation.plan
    answer = resilience_of(context, plan)
    if not answer.is_done:
        return {"answer": answer}
    dynamic: DynamicAssessment = answer.result
    counts = Counter(f.severity for f in dynamic.findings)
    return {
        "cycles": _cycles(found, dynamic, units),
        "findings": [shown_finding(f, plan, units) for f in dynamic.findings],
        "worst": worst_of(found.findings, dynamic.findings, plan=plan, units=units),
        "was_sound": found.is_sound,
        "grave": counts["fault"] + counts["warning"] > 0,
        "counts": counts,
    }


def _cycles(found: Assessment, dynamic: DynamicAssessment, units: System) -> list[dict[str, str]]:
    """Cycles at the head of the page that come out otherwise once the beds run together."""
    plan, cycles = found.evaluation.plan, dynamic.resilience.periodic.cycles
    together = {f"{plan.part(c.siphon).stands_in}.cycle": c.period for c in cycles if c.period}
    if together:
        together["beds.cycle"] = fmean(together.values())
    rows = []
    for figure in found.headlines:
        period = together.get(figure.key)
        even = figure.value
        if period and (even is None or abs(period / even - 1.0) > _TOLD_APART):
            rows.append(
                {
                    "key": figure.key,
                    "value": show(period, "time", units),
                    "even": show(even, "time", units) if even else "",
                }
            )
    return rows


def dynamic_remedies_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Remedies of one of those findings, each tried by following the plan again.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    words = {"rule": asked.get("rule"), "place": asked.get("place"), "units": units}
    answer = context.computed("dynamic_remedies", found.evaluation.plan, words)
    return {"answer": answer, "rows": answer.result, "rule": words["rule"], "place": words["place"]}
