"""Closed crests: siphons that were meant, and lifts that turn out to be some."""

from dataclasses import dataclass, replace

from bathys.network import GravityLine, Line, gravity_lines
from bathys.network.layout import Layout
from bathys.physics.openings import rim_head
from bathys.physics.siphon import BREAK_SHARE_PLAIN, start_flow
from bathys.plan.way_out import Outlet
from bathys.simulation.siphon import SiphonModel

__all__ = ["Latch", "latches_of"]


@dataclass(frozen=True, slots=True)
class Latch:
    """A closed crest: spills over it until it starts to siphon, then runs full until air gets in.

    Attributes
    ----------
    id, name : str
        Of the siphon or the unvented lift
    vessel : str
        What it drains
    start_level : float
        Level at which it starts, over the datum, [m]
    intake_level : float
        Level at which air gets in, [m]
    break_share : float
        Share of its full flow at the intake that may still come while it breaks, [-]
    spill, full : GravityLine
        What it carries in either state
    is_meant : bool
        Whether it is built to siphon
    """

    id: str
    name: str
    vessel: str
    start_level: float
    intake_level: float
    break_share: float
    spill: GravityLine
    full: GravityLine
    is_meant: bool


def latches_of(layout: Layout) -> list[Latch]:
    """Every closed crest of a plan: siphons with a tail, and lifts without an open tee."""
    plan, found = layout.plan, []
    plain = {k.id: k for k in gravity_lines(layout)}
    for siphon in plan.siphons:
        tail = plan.run_from(f"{siphon.id}.tail")
        if tail is None or tail.id not in plain:
            continue
        built = SiphonModel(plan, siphon, tail, layout.lines[tail.id])
        old = plain[tail.id]
        spill = GravityLine(
            f"{tail.id}~spill", old.start, old.end, built.spills_over, old.crest, built.bore
        )
        full = GravityLine(f"{tail.id}~full", old.start, old.end, "full", -1e6, built.bore,
                           outlet=built.outlet, line=built.line)  # fmt: skip
        found.append(Latch(
            siphon.id, siphon.name, siphon.stands_in, built.floor + built.priming_level,
            built.floor + built.intake, built.break_share.value, spill, full, is_meant=True,
        ))  # fmt: skip
    for outlet in plan.outlets:
        run = plan.run_of(outlet)
        if outlet.is_closed and run and run.id in plain:
            floor = float(plan.vessel(outlet.stands_in).floor_height)
            found.append(_closed_outlet(outlet, floor, plain[run.id]))
    return found


def _closed_outlet(outlet: Outlet, floor: float, old: GravityLine) -> Latch:
    """An outlet without its open tee: it latches once its pipe cannot vent itself."""
    assert old.line is not None and old.lift is not None  # noqa: S101 - one that draws has both
    spill = replace(old, id=f"{old.id}~spill")
    whole = Line([*old.lift.pieces, *old.line.pieces], old.line.viscosity)
    full = GravityLine(f"{old.id}~full", old.start, old.end, "full", -1e6, old.bore,
                       outlet=old.outlet, line=whole)  # fmt: skip
    begins = old.crest + rim_head(start_flow(old.bore), old.bore)
    return Latch(
        outlet.id, outlet.name, outlet.stands_in, begins, floor + outlet.draws_to,
        BREAK_SHARE_PLAIN.value, spill, full, is_meant=False,
    )  # fmt: skip
