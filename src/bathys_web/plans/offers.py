"""Changes the engine can work out for a plan, by name: what each would do, and how to make it.

A new kind of offer is one function here and one line of ``OFFERS``.
"""

from collections.abc import Callable, Sequence
from typing import Any

from django.http import QueryDict

from bathys.commands.check import remedy_words
from bathys.edits import (
    ADDABLE,
    Edit,
    EditRefused,
    add_part,
    connect,
    duplicate_part,
    move_along,
    raise_part,
    remove_part,
)
from bathys.network import NotSolved
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.pipeline import Assessment, late_remedies_of, remedies_of
from bathys.plan import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.rules import Finding
from bathys.sizing import (
    MODES,
    balance_valves,
    bore_options,
    gains,
    pump_edits,
    search_pumps,
)
from bathys.units import System, fill_sentence, own_system, show
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.benches.siphon import take_siphon
from bathys_web.plans.storing import assessment_of_plan, rehearsed_of_plan

__all__ = ["LISTS", "OFFERS", "bores_list", "gains_list", "pumps_list", "remedies_list",
           "valves_list"]  # fmt: skip

_GONE = "That offer no longer stands; here is the plan as it is."
Own = Sequence[CatalogPump]


def remedies_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
    """Remedies of one finding, each with its effect."""
    rows = []
    for finding in found.findings:
        if (finding.rule.id, finding.place) == (asked.get("rule"), asked.get("place")):
            for remedy in remedies_of(found, finding):
                at = finding.list_offers().index(remedy.offer)
                rows.append({"index": at, "words": remedy_words(remedy, units)})
            break
    return {"rows": rows, "rule": asked.get("rule"), "place": asked.get("place")}


def _offered(findings: Sequence[Finding], posted: QueryDict, units: System) -> Offered:
    """The offer that was picked of one of these findings."""
    for finding in findings:
        if (finding.rule.id, finding.place) == (posted.get("rule"), posted.get("place")):
            index, known = _whole(posted.get("index")), finding.list_offers()
            if 0 <= index < len(known):
                offer = known[index]
                return offer.edits, fill_sentence(offer.label, offer.figures, units)
    raise EditRefused(_GONE)


def _remedy(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    return _offered(assessment_of_plan(plan).findings, posted, units)


def _finding_words(finding: Finding, units: System) -> dict[str, Any]:
    """A finding as the page shows it."""
    return {
        "rule": finding.rule.id, "severity": finding.severity, "place": finding.place,
        "sentence": fill_sentence(finding.sentence, finding.figures, units),
        "hint": fill_sentence(finding.hint, finding.figures, units), "why": finding.rule.why,
        "kind": finding.rule.kind, "has_offers": bool(finding.list_offers()),
    }  # fmt: skip


def late_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
    """Findings on what the plan does through time and when things fail."""
    late = rehearsed_of_plan(found.evaluation.plan)
    if isinstance(late, str):
        return {"refusal": late, "findings": []}
    grave = [f.severity for f in (*found.findings, *late.findings) if f.severity != "note"]
    counts = [(word, grave.count(word)) for word in ("fault", "warning")]
    said = [f"{n} {word}{'s' * (n > 1)}" for word, n in counts if n]
    return {
        "findings": [_finding_words(f, units) for f in late.findings],
        "grave": any(f.severity != "note" for f in late.findings),
        "worst": "fault" if "fault" in grave else "warning", "verdict": " and ".join(said),
    }  # fmt: skip


def late_remedies_list(
    found: Assessment, asked: QueryDict, units: System, own: Own
) -> dict[str, Any]:
    """Remedies of one of those findings, each tried by following the plan again."""
    late, rows = rehearsed_of_plan(found.evaluation.plan), []
    place = (asked.get("rule"), asked.get("place"))
    for finding in () if isinstance(late, str) else late.findings:
        if (finding.rule.id, finding.place) == place:
            for remedy in late_remedies_of(late, finding):
                at = finding.list_offers().index(remedy.offer)
                rows.append({"index": at, "words": remedy_words(remedy, units)})
            break
    return {"rows": rows, "rule": place[0], "place": place[1]}


def _late_remedy(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    late = rehearsed_of_plan(plan)
    return _offered(() if isinstance(late, str) else late.findings, posted, units)


def _whole(text: str | None) -> int:
    return int(text) if text and text.isdigit() and len(text) < 6 else -1


def gains_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
    """Which single change gains most flow, for each pump."""
    now = found.evaluation.balance
    groups = []
    for duty in found.evaluation.duties.values():
        rows = [
            {"index": i, "label": g.label[:1].upper() + g.label[1:],
             "gain": show(g.gain, "flow", units), "flow": show(g.flow, "flow", units)}
            for i, g in enumerate(gains(now, duty.pump.id)[:6])
        ]  # fmt: skip
        groups.append({"pump": duty.pump, "rows": rows, "flow": show(duty.flow, "flow", units)})
    return {"groups": groups}


def _gain(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    now = assessment_of_plan(plan).evaluation.balance
    pump, index = posted.get("pump", ""), _whole(posted.get("index"))
    if pump in now.pump_flows:
        found = gains(now, pump)
        if 0 <= index < len(found):
            return found[index].edits, found[index].label
    raise EditRefused(_GONE)


def valves_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
    """Valve settings for the wanted flows, in every way they can be met."""
    plan, now = found.evaluation.plan, found.evaluation.balance
    modes = []
    for mode, words in MODES.items():
        settings = balance_valves(now, mode)
        rows = [
            {"run": plan.part(r.run), "wanted": show(r.wanted, "flow", units),
             "flow": show(r.flow, "flow", units), "angle": show(r.angle, "angle", units),
             "has_valve": r.has_valve}
            for r in settings.rows
        ]  # fmt: skip
        modes.append({
            "mode": mode, "words": words, "rows": rows,
            "refusal": fill_sentence(settings.refusal, settings.figures or {}, units),
            "dial": show(settings.dial, "percent", units) if settings.dial else "",
            "burnt": show(settings.burnt, "power", units),
        })  # fmt: skip
    return {"modes": modes}


def _valves(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    mode = next((m for m in MODES if m == posted.get("mode")), None)
    if mode is None:
        raise EditRefused(_GONE)
    settings = balance_valves(assessment_of_plan(plan).evaluation.balance, mode)
    if settings.refusal:
        raise EditRefused(fill_sentence(settings.refusal, settings.figures or {}, units))
    return settings.edits, f"valves set for the wanted flows ({mode})"


def pumps_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
    """Pumps that would do in each pump's place."""
    plan, groups = found.evaluation.plan, []
    for pump in plan.pumps:
        try:
            search = search_pumps(found.evaluation.balance, pump, (*own, *sample_pumps()))
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
        groups.append({
            "pump": pump, "rows": rows, "count": search.count,
            "flow": show(search.demand.flow, "flow", units),
            "head": show(search.demand.head, "head", units),
            "neediest": plan.part(search.demand.neediest).name,
            "near": near and {"name": near.pump.name, "cures": search.cures,
                              "short": show(search.missing_head, "head", units)},
        })  # fmt: skip
    return {"groups": groups, "total": len(sample_pumps()) + len(own)}


def _pump(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    pump = plan.part(posted.get("pump", ""))
    chosen = next((p for p in (*own, *sample_pumps()) if p.name == posted.get("name")), None)
    if not isinstance(pump, Pump) or chosen is None:
        raise EditRefused(_GONE)
    return pump_edits(pump, chosen), f"{pump.name} replaced by {chosen.name}"


def bores_list(found: Assessment, asked: QueryDict, units: System, own: Own) -> dict[str, Any]:
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


def _bore(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    run = plan.part(posted.get("run", ""))
    if not isinstance(run, Run):
        raise EditRefused(_GONE)
    now = assessment_of_plan(plan).evaluation.balance
    option = next((o for o in bore_options(now, run) if o.nominal == posted.get("nominal")), None)
    if option is None:
        raise EditRefused(_GONE)
    value = {"kind": "standard", "standard": option.standard, "nominal": option.nominal}
    return [Edit(f"runs.{run.id}.bore", value)], f"{run.name} in {option.nominal}"


_STEPS = {"metric": 0.01, "us": 0.0127}
"""A step up or down, or to a side [m]."""
_MOST_STEPS = 500


def _change(plan: Plan, posted: QueryDict, units: System, own: Own) -> Offered:
    """Add, duplicate, take away, connect, raise or move a part."""
    verb, part = posted.get("verb", ""), posted.get("target", "")
    name = plan.part(part).name if plan.part(part) is not None else part
    if verb == "add":
        edits, new = add_part(plan, posted.get("kind", ""), part)
        return edits, f"{ADDABLE[posted.get('kind', '')][0]} {new} added"
    if verb == "duplicate":
        edits, new = duplicate_part(plan, part)
        return edits, f"{name} duplicated as {new}"
    if verb == "remove":
        return remove_part(plan, part), f"{name} taken away"
    if verb == "connect":
        edits, new = connect(plan, part, posted.get("end", ""))
        return edits, f"{new} laid from {name} to {plan.part(posted.get('end', '')).name}"
    if verb in ("raise", "move"):
        steps = _steps(posted.get("steps"))
        by = steps * _STEPS[own_system(units, "length")]
        far = show(abs(by), "length", units)
        if verb == "raise":
            return raise_part(plan, part, by), f"{name} {'raised' if by > 0 else 'lowered'} {far}"
        side = "right" if by > 0 else "left"
        return move_along(plan, part, 5.0 * by), f"{name} drawn further to the {side}"
    raise EditRefused(_GONE)


def _steps(text: str | None) -> int:
    try:
        steps = int(text or "")
    except ValueError:
        raise EditRefused(_GONE) from None
    if not 0 < abs(steps) <= _MOST_STEPS:
        raise EditRefused("That is further than anything is moved in one go.")
    return steps


List = Callable[[Assessment, QueryDict, System, Own], dict[str, Any]]
Take = Callable[[Plan, QueryDict, System, Own], Offered]

LISTS: dict[str, List] = {
    "remedies": remedies_list, "gains": gains_list, "valves": valves_list, "pumps": pumps_list,
    "bores": bores_list, "late": late_list, "late_remedies": late_remedies_list,
}  # fmt: skip
OFFERS: dict[str, Take] = {
    "remedies": _remedy, "gains": _gain, "valves": _valves, "pumps": _pump, "bores": _bore,
    "late_remedies": _late_remedy, "change": _change, "siphon": take_siphon,
}  # fmt: skip
