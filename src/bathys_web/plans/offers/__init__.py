"""Changes the engine can work out for a plan, by name: what each would do, and how to make it.

A list of offers is one function and one line of ``LISTS``; each offer carries what it does.
"""

from dataclasses import asdict
from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.units import System
from bathys_web.plans.benches.siphon_variants import take_variant, variant_list
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.offers.air import air_list
from bathys_web.plans.offers.capacity import capacity_list, season_list, start_up_list
from bathys_web.plans.offers.cuts import cuts_list
from bathys_web.plans.offers.dosing import dosing_list
from bathys_web.plans.offers.findings import (
    dynamic_list,
    dynamic_remedies_list,
    remedies_list,
)
from bathys_web.plans.offers.kinds import List, Take
from bathys_web.plans.offers.more import more_list
from bathys_web.plans.offers.over_time import over_time_list
from bathys_web.plans.offers.pair import pair_list
from bathys_web.plans.offers.parts import change_part
from bathys_web.plans.offers.settlers import settlers_list
from bathys_web.plans.offers.shopping import shopping_offer_list
from bathys_web.plans.offers.sized import sized_list
from bathys_web.plans.offers.sizes import (
    bores_list,
    gains_list,
    pumps_list,
    valves_list,
)
from bathys_web.plans.sealed import take_sealed

__all__ = ["LISTS", "OFFERS", "list_offers"]

_FEW_RUNS = 60
_FEW_SIZED = 8  # runs up to which a plan is sized while one waits
_SEARCHES = (
    "gains",
    "more",
    "valves",
    "pumps",
    "bores",
    "settlers",
    "over_time",
    "capacity",
    "season",
    "pair",
    "sized",
)

LISTS: dict[str, List] = {
    "remedies": remedies_list,
    "gains": gains_list,
    "valves": valves_list,
    "pumps": pumps_list,
    "bores": bores_list,
    "settlers": settlers_list,
    "sized": sized_list,
    "over_time": over_time_list,
    "capacity": capacity_list,
    "start_up": start_up_list,
    "season": season_list,
    "pair": pair_list,
    "dosing": dosing_list,
    "cuts": cuts_list,
    "shopping": shopping_offer_list,
    "more": more_list,
    "air": air_list,
    "dynamic": dynamic_list,
    "dynamic_remedies": dynamic_remedies_list,
    "variant": variant_list,
}
OFFERS: dict[str, Take] = {
    "offer": take_sealed,
    "change": change_part,
    "variant": take_variant,
}


def list_offers(
    kind: str, found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What a list of offers shows; the searches of a large plan are left to the workers.

    Parameters
    ----------
    kind : str
        One of ``LISTS``
    found : Assessment
        The plan worked out
    asked : QueryDict
        What the page asked
    units : str
        The system shown
    context : OfferContext
        Who asks

    Returns
    -------
    dict
        The template's context; ``waits`` and the ``answer`` alone while it is worked out
    """
    plan = found.evaluation.plan
    if kind not in _SEARCHES or len(plan.runs) <= (_FEW_SIZED if kind == "sized" else _FEW_RUNS):
        return LISTS[kind](found, asked, units, context)
    fields = {f: values for f, values in asked.lists() if f != "part"}
    words = {
        "kind": kind,
        "asked": fields,
        "units": units,
        "pumps": [asdict(p) for p in context.pumps],
        "prices": context.prices.as_data,
        "containers": [asdict(c) for c in context.containers],
        "locked": list(context.locked),
    }
    answer = context.computed("offers", plan, words)
    return dict(answer.result) if answer.is_done else {"waits": True, "answer": answer}
