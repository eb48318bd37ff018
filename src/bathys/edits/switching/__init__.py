"""Trade one kind of shell, siphon, curve, valve and so on for another, keeping what can be kept."""

from collections.abc import Callable
from typing import Any

from bathys.edits.editing import Change, EditRefused, set_value
from bathys.edits.switching.extras import (
    BAFFLES,
    CARRIED,
    CURVES,
    ENDS,
    FALSE_CONES,
    FILTERS,
    GROWN,
    PUMP_SWITCHES,
    SCREENS,
    SETTLERS,
    SLEEVES,
    VALVE_CLOCKS,
    VALVES,
)
from bathys.edits.switching.shells import FILLINGS, SHELLS
from bathys.kinds import facets, kind_of, models_of
from bathys.plan.model import GROUPS, Plan

__all__ = ["SWITCHES", "switch_kind"]

Ways = dict[str, tuple[str, Callable[[Any, Any], dict[str, Any] | None]]]


def _kinds_of(group: str) -> Ways:
    """Every kind of way out in one of the plan's lists, in the place of another."""

    def instead(edits: Any) -> Callable[[Any, Any], dict[str, Any] | None]:
        return lambda _, old: edits.instead_of(old)

    found = facets("edits")
    return {
        kind_of(m): (found[m].CHOICE, instead(found[m])) for m in models_of(group) if m in found
    }


SWITCHES: dict[str, Ways] = {
    "shape": SHELLS,
    "media": FILLINGS,
    "curve": CURVES,
    "valve": VALVES,
    "ends_in": ENDS,
    "filter": FILTERS,
    "valve_clock": VALVE_CLOCKS,
    "false_cone": FALSE_CONES,
    "baffles": BAFFLES,
    "settler": SETTLERS,
    "carriers": CARRIED,
    "crop": GROWN,
    "sleeve": SLEEVES,
    "screen": SCREENS,
    "switch": PUMP_SWITCHES,
    "siphons": _kinds_of("siphons"),
    "outlets": _kinds_of("outlets"),
}
"""By field, or by list for whole parts: each kind with its name and the way to it, from the part
and what stands there."""


def switch_kind(plan: Plan, path: str, kind: str) -> Change:
    """Trade the kind of a shape (area kept), a pump's curve (its ends kept), a valve, or of a whole
    siphon or outlet (its height and bore kept).

    Parameters
    ----------
    plan : Plan
        The plan before
    path : str
        Such as ``vessels.T1.shape``, or ``siphons.X1`` for a whole part
    kind : str
        The kind wanted

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        If there is no such field or kind, or the plan would not hold together
    """
    group, id_, field = [*path.split("."), "", ""][:3]
    ways = SWITCHES.get(field or group, {})
    part = plan.part(id_) if group in GROUPS and plan.group_of(id_) == group else None
    if kind not in ways or part is None or not hasattr(part, field or "kind"):
        raise EditRefused(f"“{kind}” is not one of the choices.")
    now = getattr(part, field) if field else part
    before = "none" if now is None else now.kind
    if before == kind:
        return Change(plan, path, before, kind)
    made = ways[kind][1](part, now)
    return Change(set_value(plan, path, made).plan, path, before, kind)
