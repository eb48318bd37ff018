"""Another curve, valve, end of a pipe or switch."""

from collections.abc import Callable
from typing import Any

from bathys.kinds import kind_of, models_of
from bathys.plan.curve import Curve

__all__ = ["CURVES", "ENDS", "PUMP_SWITCHES", "VALVES"]

Made = dict[str, Any] | None
Ways = dict[str, tuple[str, Callable[[Any, Any], Made]]]


def _begin(made: Made) -> Callable[[Any, Any], Made]:
    """The same beginning, whatever stood there."""
    return lambda part, old: made


def _curve(model: type[Curve]) -> Callable[[Any, Any], Made]:
    """A curve of this kind in the place of another."""
    return lambda pump, old: model.instead_of(old.law)


CURVES: Ways = {kind_of(m): (m.CHOICE, _curve(m)) for m in models_of("curves")}
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
