"""From a plan's gravity runs and outlets to gravity lines."""

import math
from collections.abc import Iterator
from typing import Any

from bathys.network.gravity import GravityLine, InletKind
from bathys.network.layout import Layout
from bathys.network.lines import Line, Piece
from bathys.network.runs import fouled_bore, holds_back
from bathys.parts.fittings import MOUTHS
from bathys.parts.fouling import FOULING
from bathys.physics import area_of
from bathys.physics.siphon import TRAP_SHARE, start_flow
from bathys.plan.overflows import BellSiphon, LoopSiphon, Siphon, SolidsLift, Standpipe
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.vessels import perimeter

__all__ = [
    "BACK", "BRIM", "FOOT", "brim_lines", "gravity_lines",
]  # fmt: skip

BACK, BRIM, FOOT = ".back", ".brim", ".foot"
"""Endings of the names of lines and nodes that no run is called after."""


def gravity_lines(layout: Layout) -> list[GravityLine]:
    """Every gravity run of a plan as the line or lines it amounts to; shut ones and those that lead
    nowhere left out.

    Parameters
    ----------
    layout : Layout
        The plan compiled

    Returns
    -------
    list of GravityLine
        Named after their runs
    """
    rows: list[GravityLine] = []
    for id_ in layout.gravity:
        if not layout.lines[id_].shut:
            rows += _lines_of(layout, layout.plan.part(id_))
    return _without_dead_ends(layout, rows)


def _without_dead_ends(layout: Layout, rows: list[GravityLine]) -> list[GravityLine]:
    """Nothing runs into a junction, or the foot of a standpipe, that nothing leaves."""
    while True:
        begins = {k.start for k in rows}
        kept = [
            k for k in rows
            if k.end is None or k.end in begins or layout.plan.group_of(k.end) == "vessels"
        ]  # fmt: skip
        if len(kept) == len(rows):
            return rows
        rows = kept


def _lines_of(layout: Layout, run: Run) -> Iterator[GravityLine]:
    plan, line, bore = layout.plan, layout.lines[run.id], fouled_bore(run)
    source = plan.part(run.start.partition(".")[0])
    shared: dict[str, Any] = {
        "end": None if plan.is_outfall(run.end) else run.end.partition(".")[0],
        "outlet": plan.elevation(run.end), "line": line,
    }  # fmt: skip
    begin = plan.elevation(run.start)
    if begin is not None:
        yield _mouth_line(run, run.start.partition(".")[0], begin, bore, shared)
        if isinstance(source, Vessel) and plan.port(run.end) and not holds_back(run):
            yield GravityLine(
                run.id + BACK, shared["end"], source.id, "mouth", shared["outlet"] - 0.5 * bore,
                bore, outlet=begin, line=line, backwards=True,
            )  # fmt: skip
        return
    vessel, floor = source.stands_in, plan.vessel(source.stands_in).floor_height
    if isinstance(source, SolidsLift):
        crest = floor + source.crest_height
        row = _mouth_line(run, vessel, crest + 0.5 * bore, bore, shared)
        yield GravityLine(**{**vars(row), "lift": _lift_line(source, line.viscosity)})
    elif isinstance(source, LoopSiphon):
        whole = Line([*_loop_pieces(source, run), *line.pieces], line.viscosity)
        yield GravityLine(
            run.id, vessel, inlet="loop", crest=floor + source.crest_height,
            bore=source.pipe_bore, most_spill=_most_spill(source), **{**shared, "line": whole},
        )  # fmt: skip
    elif isinstance(source, BellSiphon | Standpipe):
        yield from _standpipe_lines(run, source, vessel, floor, shared)
    else:
        area = source.count * area_of(source.diameter)
        yield GravityLine(
            run.id, vessel, inlet="holes", crest=floor + source.height, area=area, bore=bore,
            **shared,
        )  # fmt: skip


def _most_spill(siphon: Siphon) -> float:
    share = TRAP_SHARE.value if siphon.trap else 1.0
    return share * start_flow(siphon.pipe_bore)


def _loop_pieces(loop: LoopSiphon, run: Run) -> list[Piece]:
    return [
        Piece("fitting", "bulkhead", loop.pipe_bore, loss=MOUTHS["flush"]),
        Piece("friction", "tube up to the crest", loop.pipe_bore,
              length=loop.crest_height - loop.bulkhead_height,
              roughness=FOULING[run.fouling].roughness),
    ]  # fmt: skip


def _mouth_line(
    run: Run, start: str, begin: float, bore: float, shared: dict[str, Any]
) -> GravityLine:
    drop = begin - shared["outlet"]
    fall = drop if run.slope is None else min(run.slope * run.level_length, drop)
    return GravityLine(
        run.id, start, inlet="mouth", crest=begin - 0.5 * bore, bore=bore,
        level_length=run.level_length, fall=fall, **shared,
    )  # fmt: skip


def _lift_line(lift: SolidsLift, viscosity: float) -> Line:
    bore = lift.bore.inside
    pieces = [
        Piece("fitting", "mouth of the lift pipe", bore, loss=MOUTHS["inward"]),
        Piece("friction", "lift pipe", bore, length=lift.crest_height - lift.intake_height,
              roughness=FOULING["new"].roughness),
    ]  # fmt: skip
    return Line(pieces, viscosity)


def _standpipe_lines(
    run: Run, source: BellSiphon | Standpipe, vessel: str, floor: float, shared: dict[str, Any]
) -> Iterator[GravityLine]:
    is_bell = isinstance(source, BellSiphon)
    pipe = source.standpipe_bore if isinstance(source, BellSiphon) else source.bore
    upright = Piece(
        "friction", "standpipe", pipe.inside, length=source.rim_height,
        roughness=FOULING[run.fouling].roughness,
    )  # fmt: skip
    line: Line = shared["line"]
    whole = {**shared, "line": Line([upright, *line.pieces], line.viscosity)}
    crest, bore = floor + source.rim_height, pipe.inside
    if isinstance(source, BellSiphon) or not source.holes:
        kind: InletKind = "bell" if is_bell else "rim"
        most = _most_spill(source) if isinstance(source, BellSiphon) else math.inf
        yield GravityLine(
            run.id, vessel, inlet=kind, crest=crest, bore=bore, most_spill=most, **whole
        )
        return
    foot = source.id + FOOT
    yield GravityLine(run.id, foot, inlet="mouth", crest=floor - 0.5 * bore, bore=bore, **shared)
    yield GravityLine(source.id + ".rim", vessel, foot, inlet="rim", crest=crest, bore=bore)
    yield GravityLine(
        source.id + ".holes", vessel, foot, inlet="holes", crest=floor + source.hole_height,
        area=source.holes * area_of(source.hole_diameter),
    )  # fmt: skip


def brim_lines(layout: Layout) -> list[GravityLine]:
    """What each vessel loses over its rim."""
    return [
        GravityLine(
            v.id + BRIM, v.id, None, "brim", v.floor_height + v.shape.height, perimeter(v.shape)
        )
        for v in layout.plan.vessels
    ]
