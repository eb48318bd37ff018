"""What else could be built in: valve settings, pumps, bores, and what gains most."""

from typing import Any

from django.http import QueryDict

from bathys.edits import (
    Edit,
    EditRefused,
)
from bathys.network import NotSolved
from bathys.parts.pumps import sample_pumps
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.sizing import (
    BASIS,
    MODES,
    Gain,
    balance_valves,
    bore_options,
    gains,
    modes_for,
    pump_edits,
    search_pumps,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.desk import Desk
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offers.kinds import GONE
from bathys_web.plans.storing import assessment_of_plan

__all__ = [
    "bores_list", "gains_list", "pumps_list", "take_bore", "take_gain", "take_pump", "take_valves",
    "valves_list",
]  # fmt: skip


def _gain_words(gain: Gain, plan: Plan, units: System) -> str:
    words = fill_sentence(gain.label, gain.figures, units, plan.names)
    return words[:1].upper() + words[1:]


def gains_list(found: Assessment, asked: QueryDict, units: System, desk: Desk) -> dict[str, Any]:
    """Which single change gains most flow, for each pump."""
    now = found.evaluation.balance
    groups = []
    for duty in found.evaluation.duties.values():
        rows = [
            {"index": i, "label": _gain_words(g, now.plan, units),
             "gain": show(g.gain, "flow", units), "flow": show(g.flow, "flow", units)}
            for i, g in enumerate(gains(now, duty.pump.id)[:6])
        ]  # fmt: skip
        groups.append({"pump": duty.pump, "rows": rows, "flow": show(duty.flow, "flow", units)})
    return {"groups": groups}


def take_gain(plan: Plan, posted: QueryDict, units: System, desk: Desk) -> Offered:
    now = assessment_of_plan(plan).evaluation.balance
    pump, index = posted.get("pump", ""), whole_number(posted.get("index"))
    if pump in now.pump_flows:
        found = gains(now, pump)
        if 0 <= index < len(found):
            one = found[index]
            return one.edits, fill_sentence(one.label, one.figures, units, plan.names)
    raise EditRefused(GONE)


def valves_list(found: Assessment, asked: QueryDict, units: System, desk: Desk) -> dict[str, Any]:
    """Valve settings for the wanted flows, in every way they can be met."""
    plan, now = found.evaluation.plan, found.evaluation.balance
    modes = []
    for mode in modes_for(now):
        settings, words = balance_valves(now, mode), MODES[mode]
        rows = [
            {"run": plan.part(r.run), "wanted": show(r.wanted, "flow", units),
             "flow": show(r.flow, "flow", units), "angle": show(r.angle, "angle", units),
             "has_valve": r.has_valve}
            for r in settings.rows
        ]  # fmt: skip
        modes.append({
            "mode": mode, "words": words, "rows": rows,
            "refusal": fill_sentence(settings.refusal, settings.figures or {}, units, plan.names),
            "dial": show(settings.dial, "percent", units) if settings.dial else "",
            "burnt": "" if settings.note else show(settings.burnt, "power", units),
            "note": fill_sentence(settings.note, settings.figures or {}, units, plan.names),
        })  # fmt: skip
    return {"modes": modes}


def take_valves(plan: Plan, posted: QueryDict, units: System, desk: Desk) -> Offered:
    mode = next((m for m in MODES if m == posted.get("mode")), None)
    if mode is None:
        raise EditRefused(GONE)
    settings = balance_valves(assessment_of_plan(plan).evaluation.balance, mode)
    if settings.refusal:
        raise EditRefused(
            fill_sentence(settings.refusal, settings.figures or {}, units, plan.names)
        )
    return settings.edits, f"valves set for the wanted flows ({mode})"


def pumps_list(found: Assessment, asked: QueryDict, units: System, desk: Desk) -> dict[str, Any]:
    """Pumps that would do in each pump's place."""
    plan, groups = found.evaluation.plan, []
    for pump in plan.pumps:
        try:
            search = search_pumps(found.evaluation.balance, pump, (*desk.pumps, *sample_pumps()))
        except NotSolved as error:
            groups.append({"pump": pump, "refusal": f"Nothing to size for: {error}."})
            continue
        rows = [
            {"name": c.pump.name, "own": c.pump.is_own, "power": show(c.pump.power, "power", units),
             "spare": show(c.spare, "head", units), "energy": show(c.energy_year, "energy", units),
             "cost": f"{show(c.cost_year, 'price', units)} {plan.site.currency}"}
            for c in search.fitting
        ]  # fmt: skip
        near = search.nearest
        cures = [
            fill_sentence(c, {"less": search.missing_head}, units, plan.names) for c in search.cures
        ]
        groups.append({
            "pump": pump, "rows": rows, "count": search.count,
            "flow": show(search.demand.flow, "flow", units),
            "head": show(search.demand.head, "head", units),
            "neediest": plan.part(search.demand.neediest).name,
            "basis": BASIS[search.demand.basis],
            "near": near and {"name": near.pump.name, "cures": cures,
                              "short": show(search.missing_head, "head", units)},
        })  # fmt: skip
    return {"groups": groups, "total": len(sample_pumps()) + len(desk.pumps)}


def take_pump(plan: Plan, posted: QueryDict, units: System, desk: Desk) -> Offered:
    pump = plan.part(posted.get("pump", ""))
    chosen = next((p for p in (*desk.pumps, *sample_pumps()) if p.name == posted.get("name")), None)
    if not isinstance(pump, Pump) or chosen is None:
        raise EditRefused(GONE)
    return pump_edits(pump, chosen), f"{pump.name} replaced by {chosen.name}"


def bores_list(found: Assessment, asked: QueryDict, units: System, desk: Desk) -> dict[str, Any]:
    """What each bore would do in a run."""
    run = found.evaluation.plan.part(asked.get("run", ""))
    if not isinstance(run, Run):
        return {"run": None, "rows": []}
    gravity = found.evaluation.runs[run.id].gravity
    slope = gravity.slope if gravity is not None else 0.0
    rows = [
        {"nominal": o.nominal, "bore": show(o.bore, "length", units),
         "flow": show(o.flow, "flow", units), "velocity": show(o.velocity, "speed", units),
         "loss": show(abs(o.loss), "length", units), "half": show(o.half_flow, "flow", units),
         "is_now": o.is_now, "is_advised": o.is_advised}
        for o in bore_options(found.evaluation.balance, run, slope)
    ]  # fmt: skip
    return {"run": run, "rows": rows, "is_drain": gravity is not None}


def take_bore(plan: Plan, posted: QueryDict, units: System, desk: Desk) -> Offered:
    run = plan.part(posted.get("run", ""))
    if not isinstance(run, Run):
        raise EditRefused(GONE)
    now = assessment_of_plan(plan).evaluation.balance
    option = next((o for o in bore_options(now, run) if o.nominal == posted.get("nominal")), None)
    if option is None:
        raise EditRefused(GONE)
    value = {"kind": "standard", "standard": option.standard, "nominal": option.nominal}
    return [Edit(f"runs.{run.id}.bore", value)], f"{run.name} in {option.nominal}"
