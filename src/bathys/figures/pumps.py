"""Figures of pumps."""

from collections.abc import Iterator

from bathys.evaluation.duty import Duty
from bathys.evaluation.result import Evaluation
from bathys.figures import formulas as by
from bathys.figures.figure import Figure, Input
from bathys.plan.naming import within_sentence

__all__ = ["power_figure", "pump_details", "pump_flow", "pump_head"]


def pump_flow(found: Evaluation, duty: Duty, headline: bool) -> Figure:
    """What a pump moves.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    duty : Duty
        What the pump does
    headline : bool
        Whether it stands at the head of the page

    Returns
    -------
    Figure
        What it moves
    """
    pump = duty.pump
    told = "{share:percent} of " + pump.curve.TOLD
    if duty.flow_high - duty.flow_low > 0.002 * duty.flow_high:
        told += "; {low:flow} to {high:flow} as its water falls and rises"
    if pump.switch is not None:
        told += "; it runs {time:percent} of the time"
    lifts = [d.lift for d in duty.deliveries if d.flow > 0.0] or [0.0]
    name = f"Flow of {within_sentence(pump.name)}" if len(found.duties) > 1 else "Pumped flow"
    return by.PUMP_FLOW.of(
        f"{pump.id}.flow",
        pump.id,
        (
            Input("greatest lift", max(lifts), "head"),
            Input("head it makes", duty.head, "head"),
            Input("lost on the way there", duty.head - max(lifts), "head"),
        ),
        told,
        {
            "share": duty.label_share,
            "label": duty.label_flow,
            "low": duty.flow_low,
            "high": duty.flow_high,
            "time": duty.share,
        },
        value=duty.flow,
        headline=headline,
        label=name,
    )


def pump_head(found: Evaluation, duty: Duty) -> Figure:
    """What a pump lifts and loses.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    duty : Duty
        What the pump does

    Returns
    -------
    Figure
        What it pumps against
    """
    return by.PUMP_HEAD.of(
        f"{duty.pump.id}.head",
        duty.pump.id,
        (Input("flow", duty.flow, "flow"),),
        "it stops at {top:head}",
        {"top": duty.shut_off_head},
        value=duty.head,
    )


def power_figure(found: Evaluation, duty: Duty, headline: bool) -> Figure:
    """What a pump draws, and what that costs.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    duty : Duty
        What the pump does
    headline : bool
        Whether it stands at the head of the page

    Returns
    -------
    Figure
        What it draws
    """
    site = found.plan.site
    alone = "Pump’s power" if found.plan.air_pumps or found.plan.appliances else "Power"
    name = f"Power of {within_sentence(duty.pump.name)}" if len(found.duties) > 1 else alone
    return by.ENERGY.of(
        f"{duty.pump.id}.power",
        duty.pump.id,
        (
            Input("watts drawn", duty.power, "power"),
            Input("head", duty.head, "head"),
            Input("share of the time", duty.share, "percent"),
        ),
        "{energy:energy} and {cost:price} {currency:words} a year; {share:percent} of it "
        "leaves in the water",
        {
            "energy": duty.energy_year,
            "cost": duty.cost_year,
            "share": duty.efficiency,
            "currency": site.currency,
        },
        value=duty.power,
        headline=headline,
        label=name,
    )


def pump_details(duty: Duty) -> Iterator[Figure]:
    """What the pump bench tells besides.

    Parameters
    ----------
    duty : Duty
        What the pump does

    Yields
    ------
    Figure
        One figure after the other
    """
    pump, id_, name = duty.pump, duty.pump.id, duty.pump.name
    speed = pump.speed * pump.wear
    top = Input("lift at no flow, new and at full speed", duty.shut_off_head / speed**2, "head")
    yield by.SHUT_OFF.of(
        f"{id_}.top",
        id_,
        (
            top,
            Input("speed by its dial", pump.speed, "percent"),
            Input("what wear has left", pump.wear, "percent"),
        ),
        label=f"{name} lifts nothing over",
    )
    yield by.LABEL_SHARE.of(
        f"{id_}.label_share",
        id_,
        (Input("flow", duty.flow, "flow"), Input("flow at no lift", duty.label_flow, "flow")),
    )
    drawn = Input("watts drawn", duty.power, "power")
    yield by.EFFICIENCY.of(
        f"{id_}.efficiency", id_, (Input("watts in the water", duty.useful_power, "power"), drawn)
    )
    burnt = Input("share of its head that valves burn", duty.valve_power / duty.power, "percent")
    yield by.VALVE_POWER.of(f"{id_}.valve_power", id_, (drawn, burnt))
    yield by.RUNS.of(
        f"{id_}.runs",
        id_,
        (
            Input("flow while it runs", duty.flow, "flow"),
            Input("flow with rests counted", duty.mean_flow, "flow"),
        ),
        value=duty.share,
    )
