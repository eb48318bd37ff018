"""Another curve, valve, end of a pipe or switch."""

from collections.abc import Callable
from typing import Any

from bathys.kinds import kind_of, models_of
from bathys.physics.pump_curve import LabelCurve, PointsCurve
from bathys.plan.pumps import LabelPump, PointsPump

__all__ = ["CURVES", "ENDS", "PUMP_SWITCHES", "VALVES"]

_SAMPLES = (0.0, 0.25, 0.5, 0.75, 1.0)

Made = dict[str, Any] | None
Ways = dict[str, tuple[str, Callable[[Any, Any], Made]]]


def _to_points(pump: Any, label: LabelPump) -> Made:
    curve = LabelCurve(label.max_flow, label.max_head, label.exponent)
    flows = [share * curve.max_flow for share in _SAMPLES]
    points = [{"flow": q, "head": max(curve.head(q)[0], 0.0)} for q in flows]
    return {"kind": "points", "points": points}


def _to_label(pump: Any, drawn: PointsPump) -> Made:
    curve = PointsCurve([(p.flow, p.head) for p in drawn.points])
    return {"kind": "label", "max_flow": curve.max_flow, "max_head": curve.max_head}


def _begin(made: Made) -> Callable[[Any, Any], Made]:
    """The same beginning, whatever stood there."""
    return lambda part, old: made


CURVES: Ways = {"label": ("its label", _to_label), "points": ("measured points", _to_points)}
VALVES: Ways = {
    "none": ("none", _begin(None)),
    **{kind_of(m): (m.CHOICE, _begin({"kind": kind_of(m)})) for m in models_of("valves")},
}
ENDS: Ways = {
    "none": ("an open end", _begin(None)),
    "spray": ("a spray bar", _begin({"kind": "spray", "holes": 30, "diameter": 0.004})),
}
PUMP_SWITCHES: Ways = {
    "none": ("nothing, it always runs", _begin(None)),
    **{
        kind_of(m): (m.CHOICE, _begin({"kind": kind_of(m), **m.usual()}))
        for m in models_of("switches")
    },
}
