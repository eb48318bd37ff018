"""A siphon as built: what it spills, what it passes when full, when it starts and breaks.

Every kind is a crest line: an intake below which air gets in, a crest over which it spills, a bore
that has to fill, and a tail.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.kinds import facet
from bathys.network import Line, Piece
from bathys.parts.fittings import FITTINGS
from bathys.physics import GRAVITY, area_of
from bathys.physics.openings import rim_flow, rim_head
from bathys.physics.pipe_mouth import mouth_head
from bathys.physics.siphon import Banded, elbow_rise
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.way_out import Siphon
from bathys.simulation.crest import Crest

__all__ = ["SiphonModel", "Window"]

Floats = NDArray[np.float64]

_SPILL_HEADS: dict[str, Callable[[float, float], float]] = {
    "rim": rim_head,
    "mouth": lambda flow, bore: mouth_head(flow, bore)[0],
}
"""Level over a crest [m] that a flow [m³/s] needs, on its bore [m]."""

_TABLE_FLOWS = np.linspace(0.0, 1.0, 201)


@dataclass(frozen=True, slots=True)
class Window:
    """Inflows with which a siphon both starts and breaks.

    Attributes
    ----------
    start : Banded
        Inflow above which it starts, [m³/s]
    stop : Banded
        Inflow up to which it breaks, [m³/s]
    full_at_intake : float
        What it passes when it runs full with the level at its intake, [m³/s]
    """

    start: Banded
    stop: Banded
    full_at_intake: float

    @property
    def is_empty(self) -> bool:
        """Whether no inflow works."""
        return self.stop.value <= self.start.value


class SiphonModel:
    """One siphon and its tail.

    Levels are over the bed's floor; elevations are over the datum.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : Siphon
        One of its siphons
    tail : Run
        The run that starts at the siphon
    line : Line
        What the tail loses, without the siphon
    """

    def __init__(self, plan: Plan, siphon: Siphon, tail: Run, line: Line) -> None:
        built: Crest = facet(siphon, "transient").crest(siphon, tail)
        spill_head = _SPILL_HEADS[built.spills_over]
        self.part = siphon
        self.bore = siphon.pipe_bore
        self.rim = siphon.spills_from
        self.intake = siphon.intake_height
        self.floor = plan.vessel(siphon.stands_in).floor_height
        self.annulus = built.annulus
        outlet = plan.elevation(tail.end)
        assert outlet is not None  # noqa: S101 - a plan's runs end at vessel ports
        self.outlet = outlet + elbow_rise(self.bore, siphon.end_elbow or 0.0)
        pieces = [*built.pieces, *built.after, *line.pieces]
        if siphon.end_elbow is not None:
            loss = FITTINGS["elbow_90"].loss(self.bore, self.bore)
            pieces.append(Piece("fitting", "last elbow of the tail", self.bore, loss=loss))
        self.line = Line(pieces, line.viscosity)
        self._to_crown = Line(built.pieces, line.viscosity)
        self.start_band = siphon.least_start
        self.start = self.start_band.value
        self.priming_level = self.rim + spill_head(self.start, self.bore)
        self.spills_over = built.spills_over
        # Only a crest is looked up in a table; over a rim the flow is told by a formula.
        self._flows = 1.5 * self.start * _TABLE_FLOWS
        self._heads = (
            self._flows
            if self.spills_over == "rim"
            else np.array([spill_head(float(q), self.bore) for q in self._flows])
        )

    def spill(self, level: Floats) -> Floats:
        """Flow over the crest [m³/s] with air still in the siphon, at levels [m]."""
        over = np.asarray(level) - self.rim
        if self.spills_over == "rim":
            return rim_flow(over, self.bore)
        return np.asarray(np.interp(over, self._heads, self._flows))

    def full_flow(self, level: Floats | float, tailwater: Floats | float) -> Floats:
        """Flow when running full [m³/s], at levels over the floor [m] and tailwaters [m]."""
        foot = np.maximum(self.outlet, tailwater)
        return self.line.flow(self.floor + np.asarray(level) - foot)

    def window(self, tailwater: float) -> Window:
        """Working window, with the tank at its highest while the siphon runs [m]."""
        at_intake = float(self.full_flow(self.intake, tailwater)[0])
        share = self.part.break_share
        stop = Banded(share.value * at_intake, share.low * at_intake, share.high * at_intake)
        return Window(self.start_band, stop, at_intake)

    def crown_head(self, level: float, flow: float) -> float:
        """Pressure head at the crown against the air outside [m]; below 0 is suction."""
        lost, _ = self._to_crown.loss(np.array([flow]))
        speed = flow / area_of(self.bore)
        return level - self.rim - float(lost[0]) - speed**2 / (2.0 * GRAVITY)
