"""A bell siphon as built: what it passes when full, and when it starts and breaks."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.network import Line, Piece, line_of_run
from bathys.parts.bores import pipe_sizes
from bathys.parts.fouling import FOULING
from bathys.physics import GRAVITY, area_of
from bathys.physics.openings import orifice_loss_coefficient, rim_flow, rim_head
from bathys.physics.siphon import (
    BREAK_SHARE_AIR_TUBE,
    BREAK_SHARE_PLAIN,
    START_FROUDE,
    Banded,
    start_flow,
)  # fmt: skip
from bathys.plan.model import BellSiphon, Bore, Plan, Run, StandardBore

__all__ = ["BellSiphonModel", "Window", "annulus_area"]

Floats = NDArray[np.float64]

_ANNULUS_ENTRY_LOSS = 0.5  # flush entrance, on the annulus (Crane TP-410, memory)
_CROWN_TURN_LOSS = 1.5  # the turn over the rim and into the standpipe, on its bore (assumed)
_HOSE_WALL = 0.002  # wall of a standpipe known only by its bore [m] (assumed)


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


def _outside(bore: Bore) -> float:
    if isinstance(bore, StandardBore):
        sizes = pipe_sizes(bore.standard)
        return next(s.outside_diameter for s in sizes if s.nominal == bore.nominal)
    return bore.inside + 2.0 * _HOSE_WALL


def annulus_area(siphon: BellSiphon) -> float:
    """Area between bell and standpipe [m²]; none if the standpipe's wall fills the bell."""
    inner = _outside(siphon.standpipe_bore)
    return max(area_of(siphon.bell_bore.inside) - area_of(inner), 0.0)


def _inside_pieces(siphon: BellSiphon, annulus: float) -> list[Piece]:
    """Slots, annulus, crown and standpipe: the part of the siphon within the bed."""
    bore = siphon.standpipe_bore.inside
    as_bore = math.sqrt(4.0 / math.pi)
    return [
        Piece(
            "opening", "slots at the bell's foot", as_bore * math.sqrt(siphon.slot_area),
            loss=orifice_loss_coefficient(),
        ),
        Piece(
            "opening", "annulus", as_bore * math.sqrt(annulus),
            loss=_ANNULUS_ENTRY_LOSS if annulus > 0.0 else math.inf,
        ),
        Piece("fitting", "turn at the crown", bore, loss=_CROWN_TURN_LOSS),
    ]  # fmt: skip


class BellSiphonModel:
    """One bell siphon and its tail.

    Levels are over the bed's floor; elevations are over the datum.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : BellSiphon
        One of its siphons
    tail : Run
        The run that starts at the siphon
    viscosity : float
        Kinematic viscosity of the water, [m²/s]
    """

    def __init__(self, plan: Plan, siphon: BellSiphon, tail: Run, viscosity: float) -> None:
        self.siphon = siphon
        self.bore = siphon.standpipe_bore.inside
        self.rim = siphon.rim_height
        self.intake = siphon.intake_height
        self.floor = plan.vessel(siphon.stands_in).floor_height
        self.annulus = annulus_area(siphon)
        outlet = plan.elevation(tail.end)
        assert outlet is not None  # noqa: S101 - a plan's runs end at vessel ports
        self.outlet = outlet
        inside = _inside_pieces(siphon, max(self.annulus, 1e-9))
        standpipe = Piece(
            "friction", "standpipe", self.bore,
            length=self.rim, roughness=FOULING[tail.fouling].roughness,
        )  # fmt: skip
        rest = line_of_run(plan, tail, viscosity)
        self.line = Line([*inside, standpipe, *rest.pieces], viscosity)
        self._to_crown = Line(inside, viscosity)
        self.start = start_flow(self.bore)
        self.priming_level = self.rim + rim_head(self.start, self.bore)
        has_tube = siphon.air_tube_height is not None
        self.break_share = BREAK_SHARE_AIR_TUBE if has_tube else BREAK_SHARE_PLAIN

    def spill(self, level: Floats) -> Floats:
        """Flow over the rim [m³/s] with air still in the bell, at levels [m]."""
        return rim_flow(np.asarray(level) - self.rim, self.bore)

    def full_flow(self, level: Floats | float, tailwater: Floats | float) -> Floats:
        """Flow when running full [m³/s], at levels over the floor [m] and tailwaters [m]."""
        foot = np.maximum(self.outlet, tailwater)
        return self.line.flow(self.floor + np.asarray(level) - foot)

    def window(self, tailwater: float) -> Window:
        """Working window, with the tank at its highest while the siphon runs [m]."""
        at_intake = float(self.full_flow(self.intake, tailwater)[0])
        start = Banded(
            *(start_flow(self.bore, fr) for fr in (START_FROUDE.value, START_FROUDE.low,
                                                   START_FROUDE.high))
        )  # fmt: skip
        share = self.break_share
        stop = Banded(share.value * at_intake, share.low * at_intake, share.high * at_intake)
        return Window(start, stop, at_intake)

    def crown_head(self, level: float, flow: float) -> float:
        """Pressure head at the crown against the air outside [m]; below 0 is suction."""
        lost, _ = self._to_crown.loss(np.array([flow]))
        speed = flow / area_of(self.bore)
        return level - self.rim - float(lost[0]) - speed**2 / (2.0 * GRAVITY)
