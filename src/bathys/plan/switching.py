"""Trade one kind of shell, curve, valve, end or switch for another, keeping what can be kept."""

import math
from collections.abc import Callable
from typing import Any

from bathys.physics.pump_curve import LabelCurve, PointsCurve
from bathys.plan.editing import Change, EditRefused, set_value
from bathys.plan.model import Plan

__all__ = ["SWITCHES", "switch_kind"]

_Part = dict[str, Any]
_SAMPLES = (0.0, 0.25, 0.5, 0.75, 1.0)


def _area(shell: _Part) -> float:
    """Plan area at the rim of any shell [m²]."""
    if "length" in shell:
        return float(shell["length"] * shell["width"])
    if "diameter" in shell:
        return 0.25 * math.pi * float(shell["diameter"]) ** 2
    one, two = shell["marks"][-2:]
    return float((two["volume"] - one["volume"]) / (two["level"] - one["level"]))


def _tall(shell: _Part) -> float:
    return float(shell["height"] if "height" in shell else shell["marks"][-1]["level"])


def _across(shell: _Part) -> float:
    return math.sqrt(4.0 * _area(shell) / math.pi)


def _sides(shell: _Part) -> _Part:
    if "length" in shell:
        return {"length": shell["length"], "width": shell["width"]}
    side = math.sqrt(_area(shell))
    return {"length": side, "width": side}


def _to_box(shell: _Part) -> _Part:
    return {"kind": "box", **_sides(shell), "height": _tall(shell)}


def _to_tote(shell: _Part) -> _Part:
    return {"kind": "tote", **_sides(shell), "height": _tall(shell)}


def _to_cylinder(shell: _Part) -> _Part:
    return {"kind": "cylinder", "diameter": _across(shell), "height": _tall(shell)}


def _to_cone(shell: _Part) -> _Part:
    return {"kind": "cone", "diameter": _across(shell), "height": _tall(shell),
            "cone_height": 0.3 * _tall(shell)}  # fmt: skip


def _to_dish(shell: _Part) -> _Part:
    deep = min(0.2 * _tall(shell), 0.4 * _across(shell))
    return {"kind": "dish", "diameter": _across(shell), "height": _tall(shell),
            "dish_height": deep}  # fmt: skip


def _to_points(label: _Part) -> _Part:
    curve = LabelCurve(label["max_flow"], label["max_head"], label["exponent"])
    flows = [share * curve.max_flow for share in _SAMPLES]
    points = [{"flow": q, "head": max(curve.head(q)[0], 0.0)} for q in flows]
    return {"kind": "points", "points": points}


def _to_label(points: _Part) -> _Part:
    curve = PointsCurve([(p["flow"], p["head"]) for p in points["points"]])
    return {"kind": "label", "max_flow": curve.max_flow, "max_head": curve.max_head}


SWITCHES: dict[str, dict[str, tuple[str, Callable[[_Part], _Part | None]]]] = {
    "shape": {
        "box": ("box", _to_box),
        "cylinder": ("cylinder, upright", _to_cylinder),
        "cone": ("cylinder over a cone", _to_cone),
        "dish": ("cylinder over a dish", _to_dish),
        "tote": ("cut tote", _to_tote),
    },
    "curve": {"label": ("its label", _to_label), "points": ("measured points", _to_points)},
    "valve": {
        "none": ("none", lambda _: None),
        "ball": ("ball valve", lambda _: {"kind": "ball"}),
        "gate": ("gate valve", lambda _: {"kind": "gate"}),
    },
    "spray": {
        "none": ("an open end", lambda _: None),
        "spray": ("a spray bar", lambda _: {"kind": "spray", "holes": 30, "diameter": 0.004}),
    },
    "switch": {
        "none": ("nothing, it always runs", lambda _: None),
        "timer": ("a timer", lambda _: {"kind": "timer", "on": 900.0, "off": 2700.0}),
        "float": ("a float", lambda _: {"kind": "float", "on_height": 0.3, "off_height": 0.15}),
    },
}
"""By field: each kind with its name and the way to it from another kind."""


def switch_kind(plan: Plan, path: str, kind: str) -> Change:
    """Trade the kind of a shape (area kept), a pump's curve (its ends kept), a valve and so on.

    Parameters
    ----------
    plan : Plan
        The plan before
    path : str
        Such as ``vessels.T1.shape``
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
    ways = SWITCHES.get(field, {})
    part = next((p for p in getattr(plan, group, ()) if getattr(p, "id", "") == id_), None)
    if kind not in ways or part is None or not hasattr(part, field):
        raise EditRefused(f"“{kind}” is not one of the choices.")
    now = getattr(part, field)
    before = "none" if now is None else now.kind
    if before == kind:
        return Change(plan, path, before, kind)
    made = ways[kind][1]({} if now is None else now.model_dump())
    return Change(set_value(plan, path, made).plan, path, before, kind)
