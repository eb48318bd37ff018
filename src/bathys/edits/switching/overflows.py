"""Another siphon, or another outlet, at the same height and of the same bore."""

from collections.abc import Callable
from typing import Any

from bathys.parts.bells import SLOTS_OVER_PIPE, bell_over
from bathys.parts.bores import pipe_sizes
from bathys.physics import area_of
from bathys.plan.overflows import BellSiphon, DrilledHoles, LoopSiphon, Outlet, Siphon, SolidsLift
from bathys.plan.pipes import Bore, InsideDiameter, StandardBore

__all__ = ["OUTLETS", "SIPHONS"]

_LOW = 0.03  # where a pipe is led through a wall just over the floor [m]
_SLOT = 0.025  # usual height of a bell's slots [m]
_GUARD_GAP = 0.03  # a guard is so much wider than its bell [m]
_HOLE = 0.02  # drilled through a wall [m]

Data = dict[str, Any]


def _own(part: Any) -> Data:
    return {"id": part.id, "name": part.name, "stands_in": part.stands_in}


def _bell_bore(pipe: Bore) -> Bore:
    if isinstance(pipe, StandardBore):
        own = next(s for s in pipe_sizes(pipe.standard) if s.nominal == pipe.nominal)
        bell = bell_over(pipe.standard, own)
        if bell is not None:
            return StandardBore(standard=pipe.standard, nominal=bell.nominal)
    return InsideDiameter(diameter=2.0 * pipe.inside)


def _to_bell(old: Siphon) -> Data:
    if isinstance(old, BellSiphon):
        return old.model_dump(mode="json")
    bell, rim = _bell_bore(old.bore), old.crest_height
    return {
        **_own(old), "kind": "bell", "standpipe_bore": old.bore.model_dump(mode="json"),
        "bell_bore": bell.model_dump(mode="json"), "rim_height": rim, "trap": old.trap,
        "slot_height": min(_SLOT, 0.5 * rim), "guard_diameter": bell.inside + _GUARD_GAP,
        "slot_area": round(SLOTS_OVER_PIPE * area_of(old.bore.inside), 6),
    }  # fmt: skip


def _to_loop(old: Siphon) -> Data:
    if isinstance(old, LoopSiphon):
        return old.model_dump(mode="json")
    low = min(_LOW, 0.5 * max(old.rim_height - old.pipe_bore, 0.0))
    return {
        **_own(old), "kind": "loop", "bore": old.standpipe_bore.model_dump(mode="json"),
        "bulkhead_height": low, "crest_height": old.rim_height, "trap": old.trap,
    }  # fmt: skip


SIPHONS: dict[str, tuple[str, Callable[[Any, Any], Data | None]]] = {
    "bell": ("bell over a standpipe", lambda _, old: _to_bell(old)),
    "loop": ("loop outside the bed", lambda _, old: _to_loop(old)),
}


def _bore_of(old: Outlet) -> Data:
    if isinstance(old, DrilledHoles):
        return {"kind": "inside", "diameter": max(0.04, old.diameter)}
    return old.bore.model_dump(mode="json")


def _crest(old: Outlet) -> float:
    """The level it holds over the floor [m]: a standpipe's rim, whatever is drilled below it."""
    if isinstance(old, DrilledHoles | SolidsLift):
        return old.crest_height
    return old.rim_height


def _to_standpipe(_: Any, old: Outlet) -> Data:
    return {**_own(old), "kind": "standpipe", "bore": _bore_of(old), "rim_height": _crest(old)}


def _to_lift(_: Any, old: Outlet) -> Data:
    return {**_own(old), "kind": "lift", "bore": _bore_of(old), "crest_height": _crest(old),
            "intake_height": min(0.02, 0.5 * _crest(old))}  # fmt: skip


def _to_holes(_: Any, old: Outlet) -> Data:
    """As many holes as have the pipe's area, so that it is not choked."""
    if isinstance(old, DrilledHoles):
        return old.model_dump(mode="json")
    area = area_of(old.bore.inside)
    return {**_own(old), "kind": "holes", "height": _crest(old), "diameter": _HOLE,
            "count": max(round(area / area_of(_HOLE)), 1)}  # fmt: skip


OUTLETS: dict[str, tuple[str, Callable[[Any, Any], Data | None]]] = {
    "standpipe": ("standpipe", _to_standpipe),
    "lift": ("solids lift", _to_lift),
    "holes": ("drilled holes", _to_holes),
}
