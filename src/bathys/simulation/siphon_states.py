"""Every way out with two states: siphons, and outlets that turn out to be some."""

from bathys.kinds import facets
from bathys.network import GravityLine, gravity_lines
from bathys.network.layout import Layout
from bathys.plan.way_out import Siphon
from bathys.simulation.latch import FULL, SPILL, Latch
from bathys.simulation.siphon import SiphonModel

__all__ = ["latches_of"]


def latches_of(layout: Layout) -> list[Latch]:
    """Every way out of a plan with two states: siphons with a tail, and outlets whose kind says so.

    Parameters
    ----------
    layout : Layout
        The plan compiled

    Returns
    -------
    list of Latch
        In the plan's order, siphons first
    """
    plan, found = layout.plan, []
    plain = {k.id: k for k in gravity_lines(layout)}
    for part in plan.ways_out:
        run = plan.run_of(part)
        if run is None or run.id not in plain:
            continue
        old = plain[run.id]
        if isinstance(part, Siphon):
            found.append(_of_siphon(SiphonModel(plan, part, run, layout.lines[run.id]), old))
        elif type(part) in facets("transient"):
            floor = float(plan.vessel(part.stands_in).floor_height)
            latch = facets("transient")[type(part)].latch(part, floor, old)
            found += [latch] if latch is not None else []
    return found


def _of_siphon(built: SiphonModel, old: GravityLine) -> Latch:
    spill = GravityLine(
        old.id + SPILL, old.start, old.end, built.spills_over, old.crest, built.bore
    )
    full = GravityLine(
        old.id + FULL,
        old.start,
        old.end,
        "full",
        -1e6,
        built.bore,
        outlet=built.outlet,
        line=built.line,
    )
    return Latch(
        built.part.id,
        built.part.name,
        built.part.stands_in,
        built.floor + built.priming_level,
        built.floor + built.intake,
        built.part.break_share.value,
        spill,
        full,
        is_meant=True,
    )
