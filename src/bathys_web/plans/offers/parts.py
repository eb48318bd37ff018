"""What is done to a part by hand: added, duplicated, led, raised, moved, taken away."""

from django.http import QueryDict

from bathys.edits import (
    ADDABLE,
    Edit,
    EditRefused,
    connect,
    duplicate_part,
    move_along,
    raise_part,
    remove_part,
    use_container,
    use_own_part,
)
from bathys.edits.containers import use_shape
from bathys.parts.containers import container
from bathys.parts.practice import PRACTICES
from bathys.parts.pumps import sample_pumps
from bathys.plan import Plan
from bathys.plan.pumps import Pump
from bathys.sizing import add_with_pipes, pump_edits
from bathys.units import System, own_system, show
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.sealed import GONE

__all__ = ["change_part"]


_STEPS = {"metric": 0.01, "us": 0.0127}
"""A step up or down, or to a side [m]."""


_MOST_STEPS = 500


def change_part(plan: Plan, posted: QueryDict, units: System, context: OfferContext) -> Offered:
    """Add, duplicate, take away, connect, raise or move a part.

    Parameters
    ----------
    plan : Plan
        The plan
    posted : QueryDict
        What was posted
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    Offered
        The edits, and what the history says
    """
    verb, part = posted.get("verb", ""), posted.get("target", "")
    name = plan.part(part).name if plan.part(part) is not None else part
    if verb == "add":
        return _added(plan, posted, part)
    if verb == "container":
        key = posted.get("container", "")
        own = next((c for c in context.containers if c.key == key), None)
        if own is not None:
            return use_shape(plan, part, own.shape), f"{name}: {own.name}"
        edits = use_container(plan, part, key)
        found = container(key)
        return edits, f"{name}: {found.name if found else key}"
    if verb == "pump":
        return _replaced(plan, part, posted.get("pump", ""), context)
    if verb == "own":
        mine = next((o for o in context.own_parts if o.key == posted.get("own")), None)
        if mine is None:
            raise EditRefused("Choose one of your own parts that suits this one.")
        return use_own_part(plan, part, mine), f"{name}: {mine.name}"
    if verb == "duplicate":
        edits, new = duplicate_part(plan, part)
        return edits, f"{name} duplicated as {new}"
    if verb == "remove":
        return remove_part(plan, part), f"{name} deleted"
    if verb == "connect":
        edits, new = connect(plan, part, posted.get("end", ""))
        return edits, f"{new} connected from {name} to {plan.part(posted.get('end', '')).name}"
    if verb == "practice":
        return _chosen(plan, part, posted.get("way", ""))
    if verb in ("raise", "move"):
        steps = _steps(posted.get("steps"))
        by = steps * _STEPS[own_system(units, "length")]
        far = show(abs(by), "length", units)
        if verb == "raise":
            return raise_part(plan, part, by), f"{name} {'raised' if by > 0 else 'lowered'} {far}"
        side = "right" if by > 0 else "left"
        return move_along(plan, part, 5.0 * by), f"{name} moved to the {side}"
    raise EditRefused(GONE)


def _chosen(plan: Plan, practice: str, way: str) -> Offered:
    """One of the ways that builders do a thing in; the one that stands is taken back."""
    known = PRACTICES.get(practice)
    if known is None or way not in known.ways:
        raise EditRefused(GONE)
    stands = getattr(plan.brief, practice) == way
    words = f"{known.title}: {'not decided' if stands else known.ways[way].name}"
    return [Edit(f"brief.{practice}", "open" if stands else way)], words


def _added(plan: Plan, posted: QueryDict, stands_in: str) -> Offered:
    """A new part with the pipes that were chosen for it."""
    kind, feed, drain = (posted.get(field, "") for field in ("kind", "feed", "drain"))
    edits, new = add_with_pipes(plan, kind, stands_in, feed, drain)
    words = f"{ADDABLE[kind][0]} {new} added"
    if feed:
        words += f", fed from {plan.names.get(feed, feed)}"
    if drain:
        to = "drains to" if feed else "leads to"
        words += f", {to} {plan.names.get(drain, drain)}"
    return edits, words


def _replaced(plan: Plan, part: str, wanted: str, context: OfferContext) -> Offered:
    """Another pump in a pump's place."""
    pump = plan.part(part)
    chosen = next((p for p in (*context.pumps, *sample_pumps()) if p.name == wanted), None)
    if not isinstance(pump, Pump) or chosen is None:
        raise EditRefused("Choose one of the pumps in the list.")
    return pump_edits(pump, chosen), f"{pump.name} replaced by {chosen.name}"


def _steps(text: str | None) -> int:
    try:
        steps = int(text or "")
    except ValueError:
        raise EditRefused(GONE) from None
    if not 0 < abs(steps) <= _MOST_STEPS:
        raise EditRefused("That is further than anything is moved in one go.")
    return steps
