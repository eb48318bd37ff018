"""What is computed of plans by workers: followed through time, played, remedies tried."""

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import Any

from django.http import QueryDict

from bathys.design import (
    AIMS,
    Answer,
    AtHand,
    DesignBrief,
    DesignRefused,
    LayoutTried,
    brief_from_data,
    compare_layouts,
    design,
    reasons_of,
    tradeoffs,
)
from bathys.documents import StandingProblem
from bathys.network import NotSolved
from bathys.parts.containers import Container
from bathys.parts.pumps import CatalogPump
from bathys.pipeline import DynamicAssessment, assess_dynamic, dynamic_remedies_of
from bathys.plan import Plan, physics_hash, to_file
from bathys.refit import NothingMeasured, Reading, lasting_of, odds_of, refit
from bathys.shelf import PriceList
from bathys.simulation import NotSimulated
from bathys_web.computing.kinds import IsWanted, computation
from bathys_web.plans.actions import clear_demos, refresh_headlines
from bathys_web.plans.actions.note_dynamic_verdict import note_dynamic_verdict
from bathys_web.plans.as_built import as_built_data
from bathys_web.plans.benches.hours import ScenarioForm, follow_form, play_form, takes_long
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.offers import LISTS
from bathys_web.plans.offers.findings import remedy_rows
from bathys_web.plans.paper import Stamp, pdf_of
from bathys_web.plans.season_report import report_pdf_of
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["clear_demos", "refresh_headlines"]  # registered by being imported

_MANY_TO_FIT = 3  # siphons from which on a fit takes more than a few seconds
_MANY_BEDS = 8  # siphon beds from which on a resilience run takes more than a few seconds


@computation("resilience", lambda plan, words: len(plan.siphons) >= _MANY_BEDS)
def _resilience(
    plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted
) -> DynamicAssessment | str:
    """A plan followed through time, with power cuts and failures; or why it is not."""
    try:
        found = assess_dynamic(assessment_of_plan(plan), is_wanted=lambda: is_wanted(0.0))
    except (NotSimulated, NotSolved) as error:
        return f"This plan is not followed through time: {error}"
    note_dynamic_verdict(physics_hash(plan), Counter(f.severity for f in found.findings))
    return found


@computation("hours", takes_long)
def _hours(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    return follow_form(plan, ScenarioForm.of_words(words["form"]), words["units"], is_wanted)


@computation("play", takes_long)
def _play(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    return play_form(plan, ScenarioForm.of_words(words["form"]), words["units"], is_wanted)


@computation("dynamic_remedies", lambda plan, words: len(plan.siphons) >= _MANY_BEDS)
def _dynamic_remedies(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> list[Any]:
    """Remedies of one of the findings of time, each tried by following the plan again."""
    dynamic = _resilience(plan, {}, is_wanted)
    for finding in dynamic.findings if isinstance(dynamic, DynamicAssessment) else ():
        if (finding.rule.id, finding.place) == (words["rule"], words["place"]):
            assert isinstance(dynamic, DynamicAssessment)  # noqa: S101 - it has findings
            return remedy_rows(dynamic_remedies_of(dynamic, finding), plan, words["units"])
    return []


@computation("season_pdf")
def _season_pdf(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> bytes:
    """The report of a season set on paper."""
    return report_pdf_of(assessment_of_plan(plan).evaluation, words)


@computation("build_pdf")
def _build_pdf(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> bytes:
    """A build sheet set on paper."""
    return pdf_of(
        assessment_of_plan(plan),
        words["units"],
        words["stock"],
        PriceList.from_data(words["prices"]),
        Stamp.from_data(words["stamp"]),
        words["paper"],
        [StandingProblem(**f) for f in words["faults"]],
    )


@computation("offers")
def _offers(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    """A list of offers that takes a search through a large plan."""
    asked = QueryDict(mutable=True)
    for field, values in words["asked"].items():
        asked.setlist(field, values)
    pumps = tuple(
        CatalogPump(**{**p, "points": tuple((q, h) for q, h in p["points"])})
        for p in words["pumps"]
    )
    prices = PriceList.from_data(words["prices"])
    containers = tuple(Container(**c) for c in words["containers"])
    context = OfferContext("", pumps, prices=prices, containers=containers, locked=words["locked"])
    return LISTS[words["kind"]](assessment_of_plan(plan), asked, words["units"], context)


@computation("refit", lambda plan, words: len(plan.siphons) >= _MANY_TO_FIT)
def _refit(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    """The plan fitted to what its log holds."""
    readings = [Reading(*row) for row in words["readings"]]
    try:
        fit = refit(plan, readings, words["days"], lambda: is_wanted(0.0))
    except (NothingMeasured, NotSolved) as error:
        return {"wrong": str(error)}
    odds = odds_of(fit, is_wanted=lambda: is_wanted(0.4))
    lasting = lasting_of(fit, words["days"], lambda: is_wanted(0.7))
    return as_built_data(fit, odds, lasting, words["days"])


@computation("design", lambda plan, words: words["asked"] != "aims")
def _design(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    """Plans for a brief; or every layout held against it; or all that may be chosen, tried."""
    brief = brief_from_data(words["brief"])
    pumps = tuple(
        CatalogPump(**{**p, "points": tuple((q, h) for q, h in p["points"])})
        for p in words["pumps"]
    )
    at_hand = AtHand(pumps, PriceList.from_data(words["prices"]))
    if words["asked"] == "layouts":

        def show_layouts(rows: Sequence[LayoutTried]) -> None:
            is_wanted.show({"layouts": [_layout(row, at_hand) for row in rows]})

        rows = compare_layouts(brief, at_hand, is_wanted, show_layouts)
        return {"layouts": [_layout(row, at_hand) for row in rows]}
    if words["asked"] == "tradeoffs":
        found = tradeoffs(brief, at_hand, is_wanted)
        return {
            "answers": [
                {**_answer(brief, row.answer, at_hand), "is_beaten": row.is_beaten} for row in found
            ]
        }

    def show(so_far: Sequence[Answer]) -> None:
        is_wanted.show(_answers(brief, so_far, at_hand))

    try:
        return _answers(brief, design(brief, at_hand, is_wanted, show), at_hand)
    except DesignRefused as refused:
        return {"refused": _refusal(refused)}


def _answers(brief: DesignBrief, answers: Sequence[Answer], at_hand: AtHand) -> dict[str, Any]:
    found = {aim for answer in answers for aim in answer.aims}
    return {
        "answers": [_answer(brief, answer, at_hand) for answer in answers],
        "missing": [aim for aim in AIMS if aim not in found],
    }


def _layout(row: LayoutTried, at_hand: AtHand) -> dict[str, Any]:
    return {
        "layout": row.layout.key,
        "refused": _refusal(row.refused) if row.refused is not None else None,
        "answer": _answer(row.brief, row.answer, at_hand) if row.answer is not None else None,
    }


def _refusal(refused: DesignRefused) -> dict[str, Any]:
    return {
        "wish": refused.wish,
        "sentence": refused.sentence,
        "figures": refused.figures,
        "frees": refused.frees,
    }


def _answer(brief: DesignBrief, answer: Answer, at_hand: AtHand) -> dict[str, Any]:
    found = (*answer.assessment.findings, *answer.later)
    return {
        "aims": list(answer.aims),
        "watts": answer.watts,
        "cost": answer.cost(brief, at_hand.prices),
        "spare": answer.spare(brief),
        "plan": to_file(answer.assessment.evaluation.plan),
        "warnings": [(f.sentence, dict(f.figures)) for f in found if f.severity == "warning"],
        "reasons": [
            {
                "part": r.part,
                "what": r.what,
                "sentence": r.sentence,
                "figures": dict(r.figures),
                "figure": r.figure,
            }
            for r in reasons_of(brief, answer)
        ],
    }
