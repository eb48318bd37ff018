"""From a drawn plan to a sound one: settlers' insides, pump, valves, and what rules still find."""

from collections.abc import Sequence

from bathys.design.brief import DesignBrief
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused
from bathys.edits import Edit, EditRefused, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.network import NotSolved
from bathys.parts.practice import PUMP_RESERVE
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.pipeline import Assessment, assess, remedies_of
from bathys.plan import Plan
from bathys.plan.pumps import Pump
from bathys.plan.stock import AirSource
from bathys.quality.air_settings import air_settings
from bathys.quality.settler_options import settler_edits, settler_options
from bathys.rules import Finding
from bathys.sizing import balance_valves, modes_for, pump_edits, search_pumps

__all__ = ["finished", "judged", "with_air_valves"]

_MOST_REPAIRS = 12
_GRAVE = {"fault": 0, "warning": 1}
_RESERVES = {"power": PUMP_RESERVE, "cost": PUMP_RESERVE, "margin": 0.3}


def finished(
    plan: Plan, choice: Choice, brief: DesignBrief, pumps: Sequence[CatalogPump] = ()
) -> Plan:
    """A drawn plan with its settlers' insides, its pump and its valves.

    Parameters
    ----------
    plan : Plan
        As drawn
    choice : Choice
        What is chosen
    brief : DesignBrief
        The brief
    pumps : sequence of CatalogPump
        The builder's own, beside the samples

    Returns
    -------
    Plan
        The plan

    Raises
    ------
    DesignRefused
        If no pump does, or the wanted flows cannot be led there
    NotSolved
        If a balance does not settle
    """
    plan = _with_insides(plan)
    catalogue, owned = (*pumps, *sample_pumps()), _owned(brief, pumps)
    refused: DesignRefused | None = None
    for pump in [p for p in plan.pumps if isinstance(p, Pump)]:
        if owned is not None:
            try:
                plan, owned = _with_owned(plan, pump, owned), None
                continue
            except DesignRefused as error:
                refused = refused or error
        plan = _with_pump(plan, pump, choice, catalogue)
    if owned is not None and refused is not None:
        raise refused
    return _with_air_valves(_with_valves(plan))


def _with_insides(plan: Plan) -> Plan:
    """Each settler built inside as catches most in the container it is made of."""
    found = evaluate(plan)
    for vessel in plan.vessels:
        if vessel.job == "settler" and vessel.carriers is None:
            options = settler_options(found, vessel)
            as_it_stands = [o for o in options if o.container.key == "own" and o.does]
            built = next(
                iter(as_it_stands or [o for o in options if o.container.key == "own"]), None
            )
            if built is not None:
                plan = apply_edits(plan, settler_edits(plan, vessel.id, built))
    return plan


def _owned(brief: DesignBrief, pumps: Sequence[CatalogPump]) -> CatalogPump | None:
    """The pump that the brief asks for."""
    if not brief.own_pump:
        return None
    found = next((p for p in (*pumps, *sample_pumps()) if p.name == brief.own_pump), None)
    if found is None:
        sentence = "There is no pump {pump:words} under Parts."
        raise DesignRefused("own_pump", sentence, {"pump": brief.own_pump}, {"own_pump": ""})
    return found


def _with_owned(plan: Plan, pump: Pump, owned: CatalogPump) -> Plan:
    """With a pump that is at hand."""
    found = search_pumps(evaluate(plan).balance, pump, [owned])
    if found.fitting:
        return apply_edits(plan, pump_edits(pump, owned))
    asked = found.demand
    raise DesignRefused(
        "own_pump",
        "{pump:words} gives {head:head} at {flow:flow}, and {asked:head} are asked, with a reserve "
        "in pipes of a season’s age. Take another, or let less water go round.",
        {
            "pump": owned.name,
            "head": max(owned.head_at(asked.flow), 0.0),
            "flow": asked.flow,
            "asked": asked.head,
        },
        {"own_pump": ""},
    )


def _with_pump(plan: Plan, pump: Pump, choice: Choice, pumps: Sequence[CatalogPump]) -> Plan:
    found = search_pumps(evaluate(plan).balance, pump, pumps, _RESERVES[choice.aim])
    if not found.fitting:
        asked = found.demand
        raise DesignRefused(
            "pump",
            "No pump of the catalogue gives {flow:flow} at {head:head}. Split it over two plans, "
            "lower the fish tank, or add a stronger pump under Parts.",
            {"flow": asked.flow, "head": asked.head},
        )
    fitting = list(found.fitting)
    if choice.aim == "cost":
        fitting.sort(key=lambda row: (row.pump.max_flow * row.pump.max_head, row.cost_year))
    return apply_edits(plan, pump_edits(pump, fitting[0].pump))


def _with_valves(plan: Plan) -> Plan:
    balance = evaluate(plan).balance
    settings = balance_valves(balance, "exact")
    if settings.refusal:
        settings = balance_valves(balance, "proportional")
    if settings.refusal:
        raise DesignRefused("pump", settings.refusal, settings.figures)
    plan = apply_edits(plan, settings.edits)
    balance = evaluate(plan).balance
    if "header" not in modes_for(balance):
        return plan
    shared = balance_valves(balance, "header")
    if shared.refusal:
        raise DesignRefused("beds", shared.refusal, shared.figures)
    return apply_edits(plan, shared.edits)


def _with_air_valves(plan: Plan) -> Plan:
    """Air shared out as its stones ask: shallow ones would take it all."""
    found = evaluate(plan)
    edits = [e for pump in plan.air_pumps for e in with_air_valves(found, pump)]
    return apply_edits(plan, edits) if edits else plan


def with_air_valves(found: Evaluation, pump: AirSource) -> list[Edit]:
    """Valves of an air pump's stones set so that each gets what it asks.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    pump : AirSource
        One of its air pumps

    Returns
    -------
    list of Edit
        The edits
    """
    return [
        Edit(f"air.{row.aerator.id}.valve_open", round(row.opening, 3))
        for row in air_settings(found, pump)
    ]


def judged(plan: Plan) -> Assessment:
    """A plan with what rules still find taken away by their own remedies, so far as these raise
    nothing else.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    Assessment
        Of the plan as mended

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    found = assess(plan)
    for _ in range(_MOST_REPAIRS):
        better = _mended(found)
        if better is None:
            break
        found = better
    return found


def _mended(found: Assessment) -> Assessment | None:
    for finding in sorted(_open(found), key=lambda f: _GRAVE[f.severity]):
        for remedy in remedies_of(found, finding):
            if remedy.cures and not remedy.raised:
                try:
                    return assess(apply_edits(found.evaluation.plan, remedy.offer.edits))
                except (EditRefused, NotSolved):
                    continue
    return None


def _open(found: Assessment) -> list[Finding]:
    return [f for f in found.findings if f.severity in _GRAVE]
