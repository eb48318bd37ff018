"""What else could be built in: valve settings, pumps, bores, and what gains most."""

from typing import Any

from django.http import QueryDict

from bathys.edits import Edit
from bathys.network import NotSolved
from bathys.parts.pumps import sample_pumps
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.plan.pipes import Run
from bathys.sizing import (
    BASIS,
    MODES,
    BoreOption,
    Gain,
    balance_valves,
    bore_options,
    gains,
    modes_for,
    pump_edits,
    search_pumps,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import seal_for

__all__ = ["bores_list", "gains_list", "pumps_list", "valves_list"]


def _gain_words(gain: Gain, plan: Plan, units: System) -> str:
    words = fill_sentence(gain.label, gain.figures, units, plan.names)
    return words[:1].upper() + words[1:]


def gains_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Which single change gains most flow, for each pump.

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
    now = found.evaluation.balance
    groups, seal = [], seal_for(now.plan)
    for duty in found.evaluation.duties.values():
        rows = [
            {
                "label": _gain_words(g, now.plan, units),
                "gain": show(g.gain, "flow", units),
                "flow": show(g.flow, "flow", units),
                "offer": seal(g.edits, _gain_words(g, now.plan, units)),
            }
            for g in gains(now, duty.pump.id)[:6]
        ]
        groups.append({"pump": duty.pump, "rows": rows, "flow": show(duty.flow, "flow", units)})
    return {"groups": groups}


def valves_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Valve settings for the wanted flows, in every way they can be met.

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
    plan, now = found.evaluation.plan, found.evaluation.balance
    modes, seal = [], seal_for(plan)
    for mode in modes_for(now):
        settings, words = balance_valves(now, mode), MODES[mode]
        rows = [
            {
                "run": plan.part(r.run),
                "wanted": show(r.wanted, "flow", units),
                "flow": show(r.flow, "flow", units),
                "angle": show(r.angle, "angle", units),
                "has_valve": r.has_valve,
            }
            for r in settings.rows
        ]
        modes.append(
            {
                "mode": mode,
                "words": words,
                "rows": rows,
                "offer": seal(settings.edits, f"valves set for the wanted flows ({mode})"),
                "refusal": fill_sentence(
                    settings.refusal, settings.figures or {}, units, plan.names
                ),
                "dial": show(settings.dial, "percent", units) if settings.dial else "",
                "burnt": "" if settings.note else show(settings.burnt, "power", units),
                "note": fill_sentence(settings.note, settings.figures or {}, units, plan.names),
            }
        )
    return {"modes": modes}


def pumps_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """Pumps that would do in each pump's place.

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
    plan, groups = found.evaluation.plan, []
    seal = seal_for(plan)
    for pump in plan.pumps:
        try:
            search = search_pumps(found.evaluation.balance, pump, (*context.pumps, *sample_pumps()))
        except NotSolved as error:
            groups.append({"pump": pump, "refusal": f"Nothing to size for: {error}."})
            continue
        rows = [
            {
                "name": c.pump.name,
                "own": c.pump.is_own,
                "power": show(c.pump.power, "power", units),
                "spare": show(c.spare, "head", units),
                "energy": show(c.energy_year, "energy", units),
                "cost": f"{show(c.cost_year, 'price', units)} {plan.site.currency}",
                "offer": seal(pump_edits(pump, c.pump), f"{pump.name} replaced by {c.pump.name}"),
            }
            for c in search.fitting
        ]
        near = search.nearest
        cures = [
            fill_sentence(c, {"less": search.missing_head}, units, plan.names) for c in search.cures
        ]
        groups.append(
            {
                "pump": pump,
                "rows": rows,
                "count": search.count,
                "flow": show(search.demand.flow, "flow", units),
                "head": show(search.demand.head, "head", units),
                "neediest": plan.part(search.demand.neediest).name,
                "basis": BASIS[search.demand.basis],
                "near": near
                and {
                    "name": near.pump.name,
                    "cures": cures,
                    "short": show(search.missing_head, "head", units),
                },
            }
        )
    return {"groups": groups, "total": len(sample_pumps()) + len(context.pumps)}


def _other_bore(run: Run, option: BoreOption) -> Edit:
    return Edit(f"runs.{run.id}.bore", option.size.as_data)


def bores_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What each bore would do in a run.

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
    run = found.evaluation.plan.part(asked.get("run", ""))
    if not isinstance(run, Run):
        return {"run": None, "rows": []}
    seal = seal_for(found.evaluation.plan)
    gravity = found.evaluation.runs[run.id].gravity
    slope = gravity.slope if gravity is not None else 0.0
    rows = [
        {
            "nominal": o.size.nominal,
            "bore": show(o.size.bore, "length", units),
            "flow": show(o.flow, "flow", units),
            "velocity": show(o.velocity, "speed", units),
            "loss": show(abs(o.loss), "length", units),
            "half": show(o.half_flow, "flow", units),
            "is_now": o.is_now,
            "is_advised": o.is_advised,
            "offer": seal([_other_bore(run, o)], f"{run.name} in {o.size.nominal}"),
        }
        for o in bore_options(found.evaluation.balance, run, slope)
    ]
    return {"run": run, "rows": rows, "is_drain": gravity is not None}
