"""``bathys size settler``: containers that would do as one."""

from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel
from bathys.quality.settler_options import Order, settler_options
from bathys.units import System, show

__all__ = ["as_data", "as_text"]


def as_text(found: Evaluation, vessel: Vessel, units: System, order: Order) -> str:
    """Containers that would do in a settler's place.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    vessel : Vessel
        The settler
    units : System
        The reader's units
    order : Order
        What counts first among those that do

    Returns
    -------
    str
        Lines for a terminal
    """
    options = settler_options(found, vessel, order=order)
    rows = [
        (
            o.container.name,
            o.settler.CHOICE,
            f"{show(o.caught, 'percent', units)} ({show(o.low, 'percent', units)} to "
            f"{show(o.high, 'percent', units)})",
            show(o.rate, "slow_speed", units),
            show(o.retention, "time", units),
            "alone" if o.does else f"{o.needed} in parallel" if o.needed else "no",
        )
        for o in options
    ]
    flow = show(found.vessels[vessel.id].inflow, "flow", units)
    heads = ("Container", "Built as", "Catches", "Rises at", "Stays", "Does")
    return "\n".join([f"{flow} through {vessel.name}", "", *table(heads, rows)])


def as_data(found: Evaluation, vessel: Vessel, order: Order) -> dict[str, Any]:
    """The same as JSON data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    vessel : Vessel
        The settler
    order : Order
        What counts first among those that do

    Returns
    -------
    dict of str to object
        JSON data
    """
    return {
        "vessel": vessel.id,
        "flow": found.vessels[vessel.id].inflow,
        "options": [
            {
                "container": o.container.key,
                "shape": o.container.shape,
                "settler": o.settler.model_dump(mode="json"),
                "caught": {"value": o.caught, "low": o.low, "high": o.high},
                "overflow_rate": o.rate,
                "retention": o.retention,
                "outlet_speed": o.outlet_speed,
                "needed_in_parallel": o.needed,
            }
            for o in settler_options(found, vessel, order=order)
        ],
    }
