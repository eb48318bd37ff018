"""Containers that would do as a settler."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Self

from django.http import QueryDict

from bathys.edits import Edit, EditRefused
from bathys.kinds import model_named
from bathys.parts.containers import Container
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
from bathys.units import System, UnreadableQuantity, read, show
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import Seal, seal_for

__all__ = ["settlers_list"]

_MOST, _MOST_MISSES, _TWO = 10, 5, 2
_LEAST, _WIDEST = 0.1, 5.0  # of a container of the builder's own [m]
_LONGEST = 40
_ORDERS: dict[Order, str] = {
    "catch": "what catches most",
    "height": "the lowest",
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
    seal, groups, own = seal_for(found.evaluation.plan), [], _Own.of(asked, units)
    for settler in solids_of(found.evaluation).settlers:
        options = settler_options(found.evaluation, settler.vessel, own.containers, order)
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
                "rows": [_row(found, settler.vessel, o, units, seal) for o in shown],
                "pairs": pairs,
                "unfit": bool(own.containers)
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


@dataclass(frozen=True)
class _Own:
    """A container of the builder's own, as it was typed: round, or with a width a box."""

    typed: dict[str, str]
    errors: dict[str, str]
    containers: tuple[Container, ...]

    @classmethod
    def of(cls, asked: QueryDict, units: System) -> Self:
        typed = {f: asked.get(f, "").strip()[:_LONGEST] for f in ("across", "width", "tall")}
        sizes, errors = dict[str, float](), dict[str, str]()
        if not any(typed.values()):
            return cls(typed, errors, ())
        for field, text in typed.items():
            if field == "width" and not text:
                continue
            try:
                sizes[field] = read(text, "length", units)
            except UnreadableQuantity as error:
                errors[field] = str(error)
                continue
            if not _LEAST <= sizes[field] <= _WIDEST:
                errors[field] = (
                    f"It must be between {show(_LEAST, 'length', units)} and "
                    f"{show(_WIDEST, 'length', units)}."
                )
        if errors:
            return cls(typed, errors, ())
        shape: dict[str, Any]
        if "width" in sizes:
            shape = {
                "kind": "box",
                "length": sizes["across"],
                "width": sizes["width"],
                "height": sizes["tall"],
            }
        else:
            shape = {"kind": "cylinder", "diameter": sizes["across"], "height": sizes["tall"]}
        shell = model_named("shells", shape["kind"]).model_validate_json(json.dumps(shape))
        litres = 1000.0 * float(shell.capacity)
        return cls(typed, errors, (Container(_YOURS, "", "Your container", shape, litres),))


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


def _called(option: SettlerOption) -> str:
    """What a container is called in a sentence."""
    return "the present vessel" if option.container.key == OWN else option.container.name


def _row(
    found: Assessment, vessel: Vessel, option: SettlerOption, units: System, seal: Seal
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
        "tall": show(float(option.container.shape.get("height", 0.0)), "length", units),
        "offer": seal(settler_edits(found.evaluation.plan, vessel.id, option), words),
    }
