"""How far each air valve is to stand open."""

from typing import Any

from django.http import QueryDict

from bathys.edits import Edit
from bathys.pipeline import Assessment
from bathys.quality.air import air_flows
from bathys.quality.air_settings import air_settings
from bathys.units import System, show
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import seal_for

__all__ = ["air_list"]


def air_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Valve settings of every air pump's stones, for the air that each is told.

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
    plan, now = found.evaluation.plan, air_flows(found.evaluation)
    seal, groups = seal_for(plan), []
    for pump in plan.air_pumps:
        rows = air_settings(found.evaluation, pump)
        edits = [Edit(f"air.{row.aerator.id}.valve_open", round(row.opening, 3)) for row in rows]
        groups.append(
            {
                "pump": pump,
                "offer": seal(edits, f"Air valves of {pump.name}") if rows else "",
                "rows": [
                    {
                        "part": row.aerator,
                        "vessel": plan.names[row.aerator.stands_in],
                        "wanted": show(row.aerator.flow, "flow", units),
                        "now": show(now[row.aerator.id], "flow", units),
                        "opening": show(row.opening, "percent", units),
                        "gets": show(row.flow, "flow", units),
                        "lacks": row.flow < _NEARLY * row.aerator.flow,
                    }
                    for row in rows
                ],
            }
        )
    return {"groups": groups}


_NEARLY = 0.98
