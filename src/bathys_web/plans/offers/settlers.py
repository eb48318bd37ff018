"""Containers that would do as a settler."""

from typing import Any

from django.http import QueryDict

from bathys.parts.practice import SETTLER_RATE, SETTLER_RETENTION
from bathys.pipeline import Assessment
from bathys.plan.vessel import Vessel
from bathys.quality import solids_of
from bathys.quality.settler_options import (
    OWN,
    SettlerOption,
    settler_edits,
    settler_options,
)
from bathys.units import System, show
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import Seal, seal_for

__all__ = ["settlers_list"]

_MOST, _MOST_MISSES = 10, 5
_ROUND = 1.1284  # diameter of a circle over the side of a square of its area


def settlers_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What each container would do in a settler's place.

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
    seal, groups = seal_for(found.evaluation.plan), []
    for settler in solids_of(found.evaluation).settlers:
        options = settler_options(found.evaluation, settler.vessel)
        fits = [o for o in options if o.does]
        # The vessel as it stands is of interest even far down the list.
        shown = fits[:_MOST] + [o for o in fits[_MOST:] if o.container.key == OWN]
        misses = [o for o in options if not o.does and o.needed is not None]
        groups.append(
            {
                "vessel": settler.vessel,
                "flow": show(settler.flow, "flow", units),
                "rows": [_row(found, settler.vessel, o, units, seal) for o in shown],
                "count": len(fits),
                "total": len(options),
                "misses": [
                    f"{o.container.name} ({o.settler.CHOICE}): {o.needed} of them would do, each "
                    "with its share of the flow"
                    for o in misses[:_MOST_MISSES]
                ],
                "across": show(
                    min((o.area for o in options), default=0.0) ** 0.5 * _ROUND, "length", units
                ),
            }
        )
    return {
        "groups": groups,
        "most_rate": show(SETTLER_RATE, "slow_speed", units),
        "least": show(SETTLER_RETENTION, "time", units),
    }


def _row(
    found: Assessment, vessel: Vessel, option: SettlerOption, units: System, seal: Seal
) -> dict[str, Any]:
    rows = option.settler.hole_rows
    words = f"{vessel.name}: {option.container.name}, {option.settler.CHOICE}"
    return {
        "name": option.container.name,
        "kind": option.settler.CHOICE,
        "rate": show(option.rate, "slow_speed", units),
        "stays": show(option.retention, "time", units),
        "caught": show(option.caught, "percent", units),
        "low": show(option.low, "percent", units),
        "high": show(option.high, "percent", units),
        "holes": f"{sum(r.count for r in rows)} × {show(rows[0].diameter, 'length', units)}",
        "tall": show(float(option.container.shape.get("height", 0.0)), "length", units),
        "offer": seal(settler_edits(found.evaluation.plan, vessel.id, option), words),
    }
