"""What is computed of plans by workers: followed through time, played, remedies tried."""

from collections import Counter
from collections.abc import Mapping
from typing import Any

from django.http import QueryDict

from bathys.network import NotSolved
from bathys.parts.pumps import CatalogPump
from bathys.pipeline import Rehearsed, late_remedies_of, rehearse_plan
from bathys.plan import Plan, physics_hash
from bathys.simulation import NotSimulated
from bathys_web.computing.kinds import IsWanted, computation
from bathys_web.plans.actions import refresh_headlines
from bathys_web.plans.actions.note_followed import note_followed
from bathys_web.plans.benches.hours import Wish, follow_wish, is_long_wish, play_wish
from bathys_web.plans.desk import Desk
from bathys_web.plans.offers import LISTS
from bathys_web.plans.offers.findings import remedy_rows
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["refresh_headlines"]  # registered by being imported

_MANY_BEDS = 8  # siphon beds from which on a rehearsal takes more than a few seconds


@computation("rehearsal", lambda plan, words: len(plan.siphons) >= _MANY_BEDS)
def _rehearsal(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> Rehearsed | str:
    """A plan followed through time, its plug pulled, its parts let fail; or why it is not."""
    try:
        found = rehearse_plan(assessment_of_plan(plan), is_wanted=lambda: is_wanted(0.0))
    except (NotSimulated, NotSolved) as error:
        return f"This plan is not followed through time: {error}"
    note_followed(physics_hash(plan), Counter(f.severity for f in found.findings))
    return found


@computation("hours", is_long_wish)
def _hours(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    return follow_wish(plan, Wish.of_words(words["wish"]), words["units"], is_wanted)


@computation("play", is_long_wish)
def _play(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    return play_wish(plan, Wish.of_words(words["wish"]), words["units"], is_wanted)


@computation("late_remedies", lambda plan, words: len(plan.siphons) >= _MANY_BEDS)
def _late_remedies(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> list[Any]:
    """Remedies of one of the findings of time, each tried by following the plan again."""
    late = _rehearsal(plan, {}, is_wanted)
    for finding in late.findings if isinstance(late, Rehearsed) else ():
        if (finding.rule.id, finding.place) == (words["rule"], words["place"]):
            assert isinstance(late, Rehearsed)  # noqa: S101 - it has findings
            return remedy_rows(late_remedies_of(late, finding), plan, words["units"])
    return []


@computation("offers")
def _offers(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> dict[str, Any]:
    """A list of offers that takes a search through a large plan."""
    asked = QueryDict(mutable=True)
    for field, values in words["asked"].items():
        asked.setlist(field, values)
    desk = Desk("", tuple(CatalogPump(**p) for p in words["pumps"]))
    return LISTS[words["kind"]](assessment_of_plan(plan), asked, words["units"], desk)
