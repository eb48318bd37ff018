"""``bathys size settler``: containers that would do as one."""

from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.parts.containers import containers
from bathys.plan.vessel import Vessel
from bathys.quality.settler_options import Order, settler_options
from bathys.shelf import PriceList, container_item, money
from bathys.units import System, show

__all__ = ["as_data", "as_text"]


def as_text(
    found: Evaluation, vessel: Vessel, units: System, order: Order, prices: PriceList
) -> str:
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
    prices : PriceList
        What containers cost

    Returns
    -------
    str
        Lines for a terminal
    """
    options = settler_options(found, vessel, order=order, prices=_of_containers(prices))
    rows = [
        (
            o.container.name,
            o.settler.CHOICE,
            f"{show(o.caught, 'percent', units)} ({show(o.low, 'percent', units)} to "
            f"{show(o.high, 'percent', units)})",
            show(o.rate, "slow_speed", units),
            show(o.retention, "time", units),
            "alone" if o.does else f"{o.needed} in parallel" if o.needed else "no",
            money(o.price, prices.currency) if o.price is not None else "-",
        )
        for o in options
    ]
    flow = show(found.vessels[vessel.id].inflow, "flow", units)
    heads = ("Container", "Built as", "Catches", "Rises at", "Stays", "Does", "Price")
    return "\n".join([f"{flow} through {vessel.name}", "", *table(heads, rows)])


def _of_containers(prices: PriceList) -> dict[str, float]:
    told = ((c.key, prices.of(container_item(c).key)) for c in containers())
    return {key: price for key, price in told if price is not None}


def as_data(found: Evaluation, vessel: Vessel, order: Order, prices: PriceList) -> dict[str, Any]:
    """The same as JSON data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    vessel : Vessel
        The settler
    order : Order
        What counts first among those that do
    prices : PriceList
        What containers cost

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
                "price": o.price,
            }
            for o in settler_options(found, vessel, order=order, prices=_of_containers(prices))
        ],
    }
