"""From a plan's gravity runs and outlets to gravity lines."""

from collections.abc import Iterator
from functools import lru_cache

from bathys.kinds import facet
from bathys.network.gravity import GravityLine
from bathys.network.layout import Layout
from bathys.network.lines import Line
from bathys.network.runs import before_crest, holds_back
from bathys.network.ways_out import Drain
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel

__all__ = ["BACK", "BRIM", "brim_lines", "gravity_lines"]

BACK, BRIM = ".back", ".brim"
"""Endings of the names of lines that no run is called after."""


@lru_cache(maxsize=8)
def gravity_lines(layout: Layout) -> tuple[GravityLine, ...]:
    """Every gravity run of a plan as the line or lines it amounts to; shut ones and those that lead
    nowhere left out.

    Parameters
    ----------
    layout : Layout
        The plan compiled

    Returns
    -------
    tuple of GravityLine
        Named after their runs; kept, since balance, beds and rules all ask
    """
    rows: list[GravityLine] = []
    for id_ in layout.gravity:
        if not layout.lines[id_].shut:
            rows += _lines_of(layout, layout.plan.part(id_))
    return _without_dead_ends(layout, rows)


def _without_dead_ends(layout: Layout, rows: list[GravityLine]) -> tuple[GravityLine, ...]:
    """Nothing runs into a junction, or the foot of a standpipe, that nothing leaves."""
    while True:
        begins = {k.start for k in rows}
        kept = [
            k
            for k in rows
            if k.end is None or k.end in begins or layout.plan.group_of(k.end) == "vessels"
        ]
        if len(kept) == len(rows):
            return tuple(rows)
        rows = kept


def _lines_of(layout: Layout, run: Run) -> Iterator[GravityLine]:
    line, first = before_crest(run, layout.lines[run.id])
    for found in _from_crest(layout, run, line):
        if first and not found.backwards:
            behind = found.lift.pieces if found.lift is not None else ()
            found = found._replace(lift=Line([*first, *behind], line.viscosity))  # noqa: PLW2901
        yield found


def _from_crest(layout: Layout, run: Run, line: Line) -> Iterator[GravityLine]:
    plan = layout.plan
    place, outlet = run.source, plan.elevation(run.end)
    assert outlet is not None  # noqa: S101 - a plan's runs end at ports and junctions
    end = None if plan.is_outfall(run.end) else run.target
    source, begin = plan.part(place), plan.elevation(run.start)
    if begin is None:
        floor = plan.vessel(source.stands_in).floor_height
        drain = Drain(run, source.stands_in, floor, end, outlet, line)
        yield from facet(source, "steady").lines(source, drain)
        return
    drain = Drain(run, place, 0.0, end, outlet, line)
    yield drain.mouth(begin)
    if (
        end is not None
        and isinstance(source, Vessel)
        and plan.port(run.end)
        and (not holds_back(run))
    ):
        yield GravityLine(
            run.id + BACK,
            end,
            source.id,
            "mouth",
            outlet - 0.5 * drain.bore,
            drain.bore,
            outlet=begin,
            line=line,
            backwards=True,
        )


def brim_lines(layout: Layout, *, into_others: bool = False) -> list[GravityLine]:
    """What each vessel loses over its rim.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    into_others : bool
        Whether what runs over the rim of a vessel within another comes to that one; else it counts
        as lost

    Returns
    -------
    list of GravityLine
        One line a vessel
    """
    return [
        GravityLine(
            v.id + BRIM,
            v.id,
            v.within if into_others else None,
            "brim",
            v.floor_height + v.shape.height,
            v.shape.perimeter,
        )
        for v in layout.plan.vessels
    ]
