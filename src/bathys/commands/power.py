"""``bathys power``: air, watts, heat and the hottest day."""

from dataclasses import asdict
from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.quality.air import air_flows
from bathys.quality.heat import heat_of
from bathys.quality.hot_day import hot_day
from bathys.quality.power import circuits_of, power_of
from bathys.units import System, show

__all__ = ["as_data", "as_text"]


def as_text(found: Evaluation, units: System) -> str:
    """What is plugged in and costs, what stones get, and how warm or cold the water comes to.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    plan, rows = found.plan, power_of(found)
    currency = plan.site.currency
    lines = table(
        ("Draws power", "Watts", "A day", "Energy a day", "Cost a year"),
        [
            (
                plan.names[c.id],
                show(c.watts, "power", units),
                f"{c.hours:.3g} h",
                show(c.energy, "energy", units),
                f"{c.cost:.3g} {currency}",
            )
            for c in rows
        ],
    )
    for circuit in circuits_of(rows) if any(c.circuit for c in rows) else ():
        energy = show(circuit.energy, "energy", units)
        lines.append(f"{circuit.name or 'All the rest'}: {energy} a day on its meter")
    flows = air_flows(found)
    if flows:
        told = [(plan.names[id_], show(q, "flow", units)) for id_, q in flows.items()]
        lines += ["", *table(("Air stone", "Gets"), told)]
    heat = heat_of(found)
    if heat.wanted > 1.0:
        watts, warm = show(heat.heater, "power", units), plan.site.water_temperature
        lines += ["", f"A heater of {watts} holds {show(warm, 'temperature', units)}."]
    day = hot_day(found)
    if day is not None:
        hottest = show(day.hottest, "temperature", units)
        lines += ["", f"On the hottest day the water comes to {hottest}."]
        lines += [f"  {m.name}: {show(m.hottest, 'temperature', units)}" for m in day.measures]
    return "\n".join(lines)


def as_data(found: Evaluation) -> dict[str, Any]:
    """The same as JSON data: watts, hours and kilowatt-hours a day, money a year, air in m³/s,
    temperatures in °C.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to object
        JSON data
    """
    rows, day = power_of(found), hot_day(found)
    return {
        "consumers": [asdict(c) for c in rows],
        "circuits": [asdict(c) for c in circuits_of(rows)],
        "air": air_flows(found),
        "heat": asdict(heat_of(found)),
        "hottest_day": asdict(day) if day is not None else None,
    }
