"""The one place that turns a stored revision into an engine plan, and a plan into a revision."""

from collections import deque
from threading import Lock

from cachetools import LRUCache

from bathys.pipeline import Assessment, assess, assess_moved
from bathys.plan import Plan, only_places_differ, plan_from_data, to_file
from bathys_web.plans.models import Revision

__all__ = [
    "assessment_of",
    "assessment_of_plan",
    "document_of",
    "keep_plan",
    "plan_of",
]

_MOST_KEPT = 48


def document_of(plan: Plan) -> dict[str, object]:
    """The plan as the database keeps it.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to object
        Data for JSON
    """
    return to_file(plan)


_plans: LRUCache[str, Plan] = LRUCache(_MOST_KEPT)
_lock = Lock()


def plan_of(revision: Revision) -> Plan:
    """The plan of a stored revision. The last few read are kept: one page asks for one often, and
    plans never change.

    Parameters
    ----------
    revision : Revision
        The revision

    Returns
    -------
    Plan
        The plan
    """
    with _lock:
        found = _plans.get(revision.content_hash)
    if found is None:
        found = plan_from_data(revision.document)
        keep_plan(revision.content_hash, found)
    return found


def keep_plan(name: str, plan: Plan) -> None:
    """Keep a plan that is at hand under its content's name, so that it need not be read again.

    Parameters
    ----------
    name : str
        Its name
    plan : Plan
        The plan
    """
    with _lock:
        _plans[name] = plan


_assessments: LRUCache[Plan, Assessment] = LRUCache(_MOST_KEPT)
_latest: deque[Assessment] = deque(maxlen=6)
"""Those kept last, among which one may be of a plan that differs in places alone."""


def assessment_of_plan(plan: Plan) -> Assessment:
    """The assessment of a plan, kept: the engine is deterministic and plans are frozen, so every
    web process may keep its own. After a move on the ground the water is not worked out again.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    Assessment
        The assessment

    Raises
    ------
    NotSolved
        As the engine
    """
    with _lock:
        found = _assessments.get(plan)
        near = [] if found else list(_latest)
    if found is None:
        same = next((a for a in near if only_places_differ(a.evaluation.plan, plan)), None)
        found = assess(plan) if same is None else assess_moved(same, plan)
        with _lock:
            _assessments[plan] = found
            _latest.append(found)
    return found


def assessment_of(revision: Revision) -> Assessment:
    """The assessment of a stored revision.

    Parameters
    ----------
    revision : Revision
        The revision

    Returns
    -------
    Assessment
        The assessment
    """
    return assessment_of_plan(plan_of(revision))
