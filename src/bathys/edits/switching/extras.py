"""Another curve, valve, end of a pipe or switch."""

import math
from collections.abc import Callable
from typing import Any

from bathys.kinds import kind_of, models_of
from bathys.parts.crops import CROPS
from bathys.parts.media import CARRIERS
from bathys.plan.curve import Curve
from bathys.plan.end import End
from bathys.plan.filter import Filter
from bathys.plan.settler import Settler
from bathys.plan.switch import Switch

__all__ = [
    "BAFFLES",
    "CARRIED",
    "CURVES",
    "ENDS",
    "FALSE_CONES",
    "FILTERS",
    "GROWN",
    "PUMP_SWITCHES",
    "SCREENS",
    "SETTLERS",
    "SLEEVES",
    "VALVES",
    "VALVE_CLOCKS",
]

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


def _end(model: type[End]) -> Callable[[Any, Any], Made]:
    """An end of this kind, as it usually is on the run's bore."""
    return lambda run, old: {"kind": kind_of(model), **model.usual(run.bore.inside)}


ENDS: Ways = {
    "none": ("an open end", _begin(None)),
    **{kind_of(m): (m.CHOICE, _end(m)) for m in models_of("ends")},
}


def _carriers(kind: str) -> Callable[[Any, Any], Made]:
    """Twenty litres, or as much as there was."""
    return lambda vessel, old: {"kind": kind, "volume": old.volume if old is not None else 0.02}


def _crop(kind: str) -> Callable[[Any, Any], Made]:
    """A whole bed of it, of all ages."""
    return lambda vessel, old: {"kind": kind, "planted": old.planted if old is not None else 1.0}


CARRIED: Ways = {
    "none": ("none", _begin(None)),
    **{kind: (row.name, _carriers(kind)) for kind, row in CARRIERS.items()},
}
GROWN: Ways = {
    "none": ("nothing", _begin(None)),
    **{kind: (row.name, _crop(kind)) for kind, row in CROPS.items()},
}


def _filter(model: type[Filter]) -> Callable[[Any, Any], Made]:
    """A filter of this kind, as it is usually built."""
    return lambda run, old: {"kind": kind_of(model), **model.usual(run.bore.inside)}


FILTERS: Ways = {
    "none": ("none", _begin(None)),
    **{kind_of(m): (m.CHOICE, _filter(m)) for m in models_of("filters")},
}


def _sleeve(standpipe: Any, old: Any) -> Made:
    """Drilled at its foot with three times the standpipe's area."""
    wide, across = 2.2 * standpipe.bore.inside, 0.012
    count = math.ceil(3.0 * (standpipe.bore.inside / across) ** 2)
    return {
        "kind": "sleeve",
        "bore": {"kind": "inside", "diameter": round(max(wide, 1.3 * standpipe.bore.outside), 3)},
        "hole_rows": [{"count": count, "diameter": across, "height": 0.02}],
    }


def _cone(vessel: Any, old: Any) -> Made:
    """A third of the vessel's height, steep enough for solids to slide."""
    return {"kind": "cone", "cone_height": round(0.35 * vessel.shape.height, 3)}


def _plates(vessel: Any, old: Any) -> Made:
    """One plate across it, down to 5 cm over its floor."""
    return {"kind": "plates", "count": 1, "gap": 0.05, "width": round(vessel.shape.sides[1], 3)}


FALSE_CONES: Ways = {"none": ("none", _begin(None)), "cone": ("a cone over a flat floor", _cone)}
BAFFLES: Ways = {
    "none": ("none", _begin(None)),
    "plates": ("plates that water passes under", _plates),
}


def _settler(model: type[Settler]) -> Callable[[Any, Any], Made]:
    """A settler of this kind, as it is usually built in the vessel's shell. What all kinds have,
    its outlet, drain and mark, stays as it was."""
    return lambda vessel, old: {
        "kind": kind_of(model),
        **(old.model_dump(include=set(Settler.model_fields) - {"kind"}) if old else {}),
        **model.usual(vessel.shape),
    }


SETTLERS: Ways = {
    "none": ("none", _begin(None)),
    **{kind_of(m): (m.CHOICE, _settler(m)) for m in models_of("settlers")},
}
SLEEVES: Ways = {
    "none": ("none", _begin(None)),
    "sleeve": ("a sleeve drilled at its foot", _sleeve),
}
SCREENS: Ways = {
    "none": ("none, open", _begin(None)),
    "screen": ("a screen", _begin({"kind": "screen", "mesh": 0.005, "open_share": 0.5})),
}
VALVE_CLOCKS: Ways = {
    "none": ("hand", _begin(None)),
    **{
        kind_of(m): (m.CHOICE, _begin({"kind": kind_of(m), **m.usual()}))
        for m in models_of("switches")
        if m.clock is not Switch.clock
    },
}
PUMP_SWITCHES: Ways = {
    "none": ("nothing, it always runs", _begin(None)),
    **{
        kind_of(m): (m.CHOICE, _begin({"kind": kind_of(m), **m.usual()}))
        for m in models_of("switches")
    },
}
