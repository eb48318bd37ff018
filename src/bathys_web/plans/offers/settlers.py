"""Containers that would do as a settler."""

from collections.abc import Iterator
from typing import Any

from django.http import QueryDict

from bathys.build import made_of
from bathys.edits import Edit, EditRefused
from bathys.parts.containers import Container, containers
from bathys.parts.practice import SETTLER_RATE, SETTLER_RETENTION
from bathys.pipeline import Assessment
from bathys.plan.vessel import Vessel
from bathys.quality import solids_of
from bathys.quality.settler_options import (
    OWN,
    Order,
    SettlerOption,
    pair_edits,
    pair_reached,
    settler_edits,
    settler_options,
)
from bathys.shelf import PriceList, container_item, money
from bathys.units import System, show
from bathys_web.plans.measured import Measured
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import Seal, seal_for

__all__ = ["settlers_list"]

_MOST, _MOST_MISSES, _TWO = 10, 5, 2
_ORDERS: dict[Order, str] = {
    "catch": "what catches most",
    "height": "the lowest",
    "price": "the cheapest, by your prices",
    "size": "the smallest, often the cheapest",
}
_YOURS = "yours"
_ROUND = 1.1284  # diameter of a circle over the side of a square of its area


def settlers_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What each container would do in a settler's place.

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
    order: Order = next((o for o in _ORDERS if o == asked.get("order")), "catch")
    seal, groups, own = seal_for(found.evaluation.plan), [], Measured.of(asked.dict(), units)
    more = list(context.containers)
    if own.shape is not None:
        more.insert(0, Container(_YOURS, "", "Your container", own.shape, own.litres))
    for settler in solids_of(found.evaluation).settlers:
        prices = _prices(settler.vessel, context)
        options = settler_options(found.evaluation, settler.vessel, more, order, prices)
        fits = [o for o in options if o.does]
        # The vessel as it stands is of interest even far down the list.
        shown = [o for o in fits if o.container.key == _YOURS]
        shown += [o for o in fits if o.container.key != _YOURS][:_MOST]
        shown += [o for o in fits if o.container.key == OWN and o not in shown]
        misses = sorted(
            (o for o in options if not o.does and o.needed is not None),
            key=lambda o: o.container.key != _YOURS,
        )
        pairs = [p for p in _pairs(found, settler.vessel, misses, units, seal) if p is not None]
        groups.append(
            {
                "vessel": settler.vessel,
                "flow": show(settler.flow, "flow", units),
                "rows": [
                    _row(found, settler.vessel, o, context.prices, units, seal) for o in shown
                ],
                "unpriced": order == "price" and all(o.price is None for o in shown),
                "pairs": pairs,
                "unfit": own.shape is not None
                and not any(o.container.key == _YOURS and o.needed for o in options),
                "count": len(fits),
                "total": len(options),
                "misses": [
                    f"{_called(o)} ({o.settler.CHOICE}): {o.needed} of them would do, each "
                    "with its share of the flow"
                    for o in misses[:_MOST_MISSES]
                    if o.needed != _TWO
                ],
                "across": show(
                    min((o.area for o in options), default=0.0) ** 0.5 * _ROUND, "length", units
                ),
            }
        )
    return {
        "groups": groups,
        "own": own,
        "orders": _ORDERS.items(),
        "order": order,
        "most_rate": show(SETTLER_RATE, "slow_speed", units),
        "least": show(SETTLER_RETENTION, "time", units),
    }


def _pairs(
    found: Assessment, vessel: Vessel, misses: list[SettlerOption], units: System, seal: Seal
) -> Iterator[dict[str, Any] | None]:
    """A second one beside the present one, and two of each container of which two would do; each
    with the share that really comes to both."""
    plan = found.evaluation.plan
    tries: list[tuple[str, list[Edit]]] = [("As it stands, and a second one", [])]
    tries += [
        (f"Two of “{_called(o)}”, {o.settler.CHOICE}", settler_edits(plan, vessel.id, o))
        for o in misses[:_MOST_MISSES]
        if o.needed == _TWO
    ]
    for name, first in tries:
        try:
            edits, second = pair_edits(plan, vessel.id, first)
            reached = pair_reached(plan, (vessel.id, second), edits)
        except EditRefused:
            continue
        if reached is None:
            continue
        yield {
            "name": name,
            "shares": " and ".join(show(s, "percent", units) for s in reached.shares),
            "rate": show(reached.rate, "slow_speed", units),
            "stays": show(reached.retention, "time", units),
            "caught": show(reached.caught, "percent", units),
            "does": reached.does,
            "offer": seal(edits, f"{vessel.name}: {name}"),
        }


def _prices(vessel: Vessel, context: OfferContext) -> dict[str, float]:
    """Of a container by its key. What is at hand costs nothing more: a container that was measured
    or is owned."""
    known = context.prices
    told = {_YOURS: 0.0, **{c.key: 0.0 for c in context.containers}}
    for container in containers():
        key = container_item(container).key
        price = 0.0 if known.owned(key) >= 1.0 else known.of(key)
        if price is not None:
            told[container.key] = price
    made = made_of(vessel.shape)
    if made is not None and made.key in told:
        told[OWN] = told[made.key]
    return told


def _price_words(option: SettlerOption, known: PriceList) -> str:
    if option.price is None:
        return "no price"
    return "at hand" if option.price <= 0.0 else money(option.price, known.currency)


def _called(option: SettlerOption) -> str:
    """What a container is called in a sentence."""
    return "the present vessel" if option.container.key == OWN else option.container.name


def _row(
    found: Assessment,
    vessel: Vessel,
    option: SettlerOption,
    prices: PriceList,
    units: System,
    seal: Seal,
) -> dict[str, Any]:
    rows = option.settler.hole_rows
    words = f"{vessel.name}: {option.container.name}, {option.settler.CHOICE}"
    return {
        "name": option.container.name,
        "kind": option.settler.CHOICE,
        "rate": show(option.rate, "slow_speed", units),
        "stays": show(option.retention, "time", units),
        "caught": show(option.caught, "percent", units),
        "low": show(option.low, "percent", units),
        "high": show(option.high, "percent", units),
        "holes": f"{sum(r.count for r in rows)} × {show(rows[0].diameter, 'length', units)}",
        "price": _price_words(option, prices),
        "tall": show(float(option.container.shape.get("height", 0.0)), "length", units),
        "offer": seal(settler_edits(found.evaluation.plan, vessel.id, option), words),
    }
