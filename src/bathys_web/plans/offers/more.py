"""How many more of a vessel today's pump, sump and filters would carry."""

from typing import Any

from django.http import QueryDict

from bathys.edits import EditRefused
from bathys.pipeline import Assessment
from bathys.stages import more_of
from bathys.units import System, fill_sentence
from bathys_web.plans.offer_context import OfferContext

__all__ = ["more_list"]


def more_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """So many more, and what stops the next.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for: the ``vessel``
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
    vessel = asked.get("vessel", "")
    if all(v.id != vessel for v in plan.vessels):
        return {"error": "Choose a vessel of this plan."}
    name = plan.names[vessel]
    try:
        more = more_of(found, vessel)
    except EditRefused as refused:
        return {"error": str(refused), "name": name}
    names = more.plan.names if more.plan is not None else {}
    return {
        "name": name,
        "count": more.count,
        "is_open": more.count == more.tried and not more.stops,
        "stops": [fill_sentence(f.sentence, f.figures, units, names) for f in more.stops[:3]],
    }
