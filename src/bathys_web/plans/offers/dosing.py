"""What to weigh for a wanted change of the water."""

from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.quality.dosing import SUBSTANCES, dose_of, loops_to_dose, spoons_of
from bathys.units import System, UnreadableQuantity, read, show
from bathys_web.plans.offer_context import OfferContext

__all__ = ["dosing_list"]

_MOST = 5000.0  # [g/m³]
_LEAST_SPOON, _MOST_SPOON = 1e-4, 1.0  # [kg]
_LONGEST = 40


def dosing_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Masses for a usual change of each substance, or for a change that was typed.

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
    loops = loops_to_dose(found.evaluation)
    names, loop = found.evaluation.plan.names, asked.get("loop", "")
    whole = sum(v.volume for v in found.evaluation.vessels.values())
    volume = loops[loop][1] if loop in loops else whole
    weighs, spoon, spoon_error = asked.get("spoon", "").strip()[:_LONGEST], None, ""
    if weighs:
        try:
            spoon = read(weighs, "mass", units)
        except UnreadableQuantity as wrong:
            spoon_error = str(wrong)
        else:
            if not _LEAST_SPOON <= spoon <= _MOST_SPOON:
                spoon, spoon_error = None, "It must be between 0.1 g and 1 kg."
    chosen = asked.get("substance", "")
    typed = asked.get("change", "").strip()[:_LONGEST]
    error, change = "", None
    if typed:
        try:
            change = read(typed, "dissolved", units)
        except UnreadableQuantity as wrong:
            error = str(wrong)
        else:
            if not 0.0 < change <= _MOST:
                error, change = f"It must be more than 0 and at most {_MOST:,.0f} mg/L.", None
    rows = [
        {
            "key": key,
            "name": s.name,
            "changes": s.changes,
            "step": show(s.step, "dissolved", units),
            "dose": show(dose_of(s, s.step, volume), "dose", units),
            "caution": s.caution,
        }
        for key, s in SUBSTANCES.items()
    ]
    told = None
    if change is not None and chosen in SUBSTANCES:
        substance = SUBSTANCES[chosen]
        told = {
            "name": substance.name,
            "changes": substance.changes,
            "change": show(change, "dissolved", units),
            "dose": show(dose_of(substance, change, volume), "dose", units),
            "caution": substance.caution,
            "spoons": f"{spoons_of(dose_of(substance, change, volume), spoon):g}" if spoon else "",
        }
    return {
        "loops": [
            {
                "key": closer,
                "name": ", ".join(names[m] for m in members),
                "water": show(litres, "volume", units),
            }
            for closer, (members, litres) in loops.items()
        ]
        if len(loops) > 1
        else [],
        "loop": loop,
        "whole": show(whole, "volume", units),
        "spoon": weighs,
        "spoon_error": spoon_error,
        "rows": rows,
        "water": show(volume, "volume", units),
        "chosen": chosen,
        "typed": typed,
        "error": error,
        "told": told,
    }
