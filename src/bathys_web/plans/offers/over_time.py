"""How a plan fares between cleanings."""

from typing import Any

from django.http import QueryDict

from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.quality.over_time import HORIZON, Happening, OverTime, over_time
from bathys.units import System, show
from bathys.wording.over_time import happening_words
from bathys_web.plans.benches.plots import Curve, Plot, Spot
from bathys_web.plans.offer_context import OfferContext

__all__ = ["over_time_list"]

_DAY = 86400.0
_SEEN = 0.005  # a level that moves less is left out [m]
_LOOKS = ("deep", "mark", "good", "clay", "plum", "olive", "sky")


def over_time_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Loads, levels and flows from all clean to the first harm.

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
    course = over_time(plan)
    harm = course.harm
    return {
        "rows": [
            {
                "day": show(h.day * _DAY, "interval", units) if h.day > 0.0 else "at once",
                "words": happening_words(plan, h),
                "is_harm": h.is_harm,
            }
            for h in course.happenings
        ],
        "harm": happening_words(plan, harm) if harm is not None else "",
        "harm_after": show(harm.day * _DAY, "interval", units) if harm is not None else "",
        "horizon": f"{HORIZON:.0f} days",
        "plots": [p.as_json(units) for p in _plots(plan, course, harm)],
        "has_filters": any(r.filter is not None for r in plan.runs),
    }


def _plots(plan: Plan, course: OverTime, harm: Happening | None) -> list[Plot]:
    days = [m.day * _DAY for m in course.moments]
    if len(days) < 2:
        return []
    first, last = course.moments[0], course.moments[-1]
    loads = [
        Curve(f"filter of {plan.part(id_).name}", days, [m.loads[id_] for m in course.moments])
        for id_ in first.loads
    ]
    loads += [
        Curve(
            f"sludge of {plan.part(id_).name}, of its mark",
            days,
            [m.sludge[id_] for m in course.moments],
            is_dashed=True,
        )
        for id_ in first.sludge
        if all(id_ in m.sludge for m in course.moments)
    ]
    kept = [Curve("solids held, of those made", days, [m.held for m in course.moments])]
    kept += [
        Curve(f"flow through {plan.part(id_).name}", days, [m.flows[id_] for m in course.moments])
        for id_ in first.flows
    ]
    levels = [
        Curve(
            plan.part(id_).name, days, [m.levels[id_] - first.levels[id_] for m in course.moments]
        )
        for id_ in first.levels
        if max(abs(m.levels[id_] - first.levels[id_]) for m in course.moments) > _SEEN
    ]
    across = ("since all was clean", "interval")
    plots = []
    if loads:
        plots.append(
            Plot("How full filters and settlers are", across, ("full", "percent"), _dyed(loads))
        )
    if levels:
        spots: tuple[Spot, ...] = ()
        if harm is not None and harm.kind == "spills":
            rise = last.levels[harm.place] - first.levels[harm.place]
            spots = (Spot(harm.day * _DAY, rise, "runs over"),)
        plots.append(
            Plot("How much water rises", across, ("rise", "length"), _dyed(levels), spots=spots)
        )
    plots.append(
        Plot("What passes and what is held", across, ("of the beginning", "percent"), _dyed(kept))
    )
    return plots


def _dyed(curves: list[Curve]) -> tuple[Curve, ...]:
    """Curves each in a colour of its own, the later ones drawn when asked for."""
    return tuple(
        Curve(c.label, c.xs, c.ys, _LOOKS[n % len(_LOOKS)], c.is_dashed, n >= len(_LOOKS))
        for n, c in enumerate(curves)
    )
