"""The parts that ship, in the reader's units, for the page of parts."""

from itertools import groupby
from typing import Any

from bathys.parts.bores import pipe_sizes, standards
from bathys.parts.containers import Container, containers
from bathys.parts.fittings import FITTINGS
from bathys.parts.media import CARRIERS, MEDIA
from bathys.parts.pumps import sample_pumps
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.units import System, entry, show, show_tape, unit_of
from bathys_web.plans.choices import capacity_of

__all__ = ["catalogue"]

_BORES = (0.0209, 0.0409, 0.0779)  # of the usual pipe of 3/4, 1 1/2 and 3 in [m]
_SIZES = {"length": "long", "width": "wide", "diameter": "across", "height": "deep"}


def catalogue(units: System) -> dict[str, Any]:
    """Sample pumps, containers, pipe, fittings, wall fittings, media and carriers.

    Parameters
    ----------
    units : System
        The reader's units

    Returns
    -------
    dict
        Variables of the template
    """
    return {
        "sample_pumps": [
            {
                "name": p.name,
                "flow": show(p.max_flow, "flow", units),
                "head": show(p.max_head, "head", units),
                "power": show(p.power, "power", units),
            }
            for p in sample_pumps()
        ],
        "containers": [
            {"title": title, "rows": [_container_row(c, units) for c in own]}
            for title, own in groupby(containers(), lambda c: c.group)
        ],
        "wall_fittings": [
            {
                "name": fitting.name,
                "tool": fitting.tool,
                "sealing": fitting.sealing,
                "holes": [
                    {"pipe": show_tape(pipe, units), "hole": show_tape(hole, units)}
                    for pipe, hole in fitting.holes
                ],
            }
            for fitting in WALL_FITTINGS.values()
        ],
        "media": [
            {
                "name": kind.name,
                "surface": show(kind.surface, "ratio", units),
                "grain": show(kind.smallest_grain, "length", units),
                "void": f"{show(kind.void_low, 'percent', units)} to "
                f"{show(kind.void_high, 'percent', units)}",
            }
            for kind in MEDIA.values()
        ],
        "carriers": [
            {"name": kind.name, "surface": show(kind.surface, "ratio", units)}
            for kind in CARRIERS.values()
        ],
        "fittings": [
            {
                "name": kind.name,
                "losses": [f"{kind.loss(bore, bore):.2g}" for bore in _BORES],
                "source": kind.source,
            }
            for kind in FITTINGS.values()
            if not kind.changes_bore
        ],
        "fitting_bores": [show_tape(bore, units) for bore in _BORES],
        "pipe": [{"name": name, "rows": _pipe_rows(name, units)} for name in standards()],
    }


def _container_row(container: Container, units: System) -> dict[str, str]:
    marks = container.shape.get("marks")
    sizes = {"height": marks[-1]["level"]} if marks else container.shape
    told = [
        f"{show(sizes[field], 'length', units)} {words}"
        for field, words in _SIZES.items()
        if field in sizes
    ]
    return {
        "name": container.name,
        "holds": show(capacity_of(container), "volume", units),
        "sizes": ", ".join(told),
    }


def _in_full(length: float, units: System) -> str:
    """With every digit: what a seal grips is told to the tenth of a millimetre."""
    return f"{entry(length, 'length', units)} {unit_of('length', units)}"


def _pipe_rows(standard: str, units: System) -> list[dict[str, str]]:
    return [
        {
            "nominal": size.nominal,
            "outside": _in_full(size.outside_diameter, units),
            "bore": _in_full(size.bore, units),
        }
        for size in pipe_sizes(standard)
    ]
