"""A siphon as built: what it spills, what it passes when full, when it starts and breaks.

Every kind is a crest line: an intake below which air gets in, a crest over which it spills, a bore
that has to fill, and a tail. A new kind is one function and one line of ``KINDS``.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathys.network import Line, Piece, line_of_run
from bathys.parts.fittings import FITTINGS, MOUTHS
from bathys.parts.fouling import FOULING
from bathys.physics import GRAVITY, area_of
from bathys.physics.openings import orifice_loss_coefficient, rim_flow, rim_head
from bathys.physics.part_full import mouth_head
from bathys.physics.siphon import (
    BREAK_SHARE_AIR_TUBE,
    BREAK_SHARE_PLAIN,
    START_FROUDE,
    TRAP_SHARE,
    Banded,
    start_flow,
)
from bathys.plan.model import Plan
from bathys.plan.overflows import BellSiphon, LoopSiphon, Siphon
from bathys.plan.pipes import Run

__all__ = ["KINDS", "SiphonModel", "Window", "annulus_area", "least_start"]

Floats = NDArray[np.float64]

_ANNULUS_ENTRY_LOSS = 0.5  # flush entrance, on the annulus (Crane TP-410, memory)
_CROWN_TURN_LOSS = 1.5  # the turn over the rim and into the standpipe, on its bore (assumed)
_BEND_LOSS = 0.6  # the two half turns of a loop of tube, together (assumed)
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


@dataclass(frozen=True, slots=True)
class _Built:
    """What one kind of siphon has of its own: the pieces up to its crown, the pipe after that
    which is not of the tail, and its law of spilling: the level over the crest for a flow."""

    pieces: list[Piece]
    after: list[Piece]
    spill_head: Callable[[float], float]
    break_share: Banded
    annulus: float = 0.0


def annulus_area(siphon: BellSiphon) -> float:
    """Area between bell and standpipe [m²]; none if the standpipe's wall fills the bell."""
    inner = siphon.standpipe_bore.outside
    return max(area_of(siphon.bell_bore.inside) - area_of(inner), 0.0)


def _bell(siphon: BellSiphon, tail: Run) -> _Built:
    """Slots, annulus, crown and standpipe."""
    bore, annulus = siphon.pipe_bore, annulus_area(siphon)
    as_bore = math.sqrt(4.0 / math.pi)
    pieces = [
        Piece(
            "opening", "slots at the bell's foot", as_bore * math.sqrt(siphon.slot_area),
            loss=orifice_loss_coefficient(),
        ),
        Piece(
            "opening", "annulus", as_bore * math.sqrt(max(annulus, 1e-9)),
            loss=_ANNULUS_ENTRY_LOSS,
        ),
        Piece("fitting", "turn at the crown", bore, loss=_CROWN_TURN_LOSS),
    ]  # fmt: skip
    standpipe = Piece(
        "friction", "standpipe", bore,
        length=siphon.rim_height, roughness=FOULING[tail.fouling].roughness,
    )  # fmt: skip
    has_tube = siphon.air_tube_height is not None
    return _Built(
        pieces, [standpipe], lambda flow: rim_head(flow, bore),
        BREAK_SHARE_AIR_TUBE if has_tube else BREAK_SHARE_PLAIN, annulus,
    )  # fmt: skip


def _loop(siphon: LoopSiphon, tail: Run) -> _Built:
    """Bulkhead, tube and bend; over the crest water is at its critical depth."""
    bore = siphon.pipe_bore
    up = Piece(
        "friction", "tube up to the crest", bore,
        length=siphon.crest_height - siphon.bulkhead_height,
        roughness=FOULING[tail.fouling].roughness,
    )  # fmt: skip
    pieces = [
        Piece("fitting", "bulkhead", bore, loss=MOUTHS["flush"]), up,
        Piece("fitting", "bend at the crest", bore, loss=_BEND_LOSS),
    ]  # fmt: skip
    return _Built(pieces, [], lambda flow: mouth_head(flow, bore)[0], BREAK_SHARE_PLAIN)


KINDS: dict[type, Callable[[Any, Run], _Built]] = {BellSiphon: _bell, LoopSiphon: _loop}
"""How each kind of siphon is built."""


def least_start(siphon: Siphon) -> Banded:
    """Spill that starts a siphon, with its band [m³/s]; a trap at the tail's end lowers it."""
    bore = siphon.pipe_bore
    share = TRAP_SHARE if siphon.trap else Banded(1.0, 1.0, 1.0)
    return Banded(
        share.value * start_flow(bore), share.low * start_flow(bore, START_FROUDE.low),
        share.high * start_flow(bore, START_FROUDE.high),
    )  # fmt: skip


class SiphonModel:
    """One siphon and its tail.

    Levels are over the bed's floor; elevations are over the datum.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : BellSiphon or LoopSiphon
        One of its siphons
    tail : Run
        The run that starts at the siphon
    viscosity : float
        Kinematic viscosity of the water, [m²/s]
    """

    def __init__(self, plan: Plan, siphon: Siphon, tail: Run, viscosity: float) -> None:
        built = KINDS[type(siphon)](siphon, tail)
        self.part = siphon
        self.bore = siphon.pipe_bore
        self.rim = siphon.rim_height
        self.intake = siphon.intake_height
        self.floor = plan.vessel(siphon.stands_in).floor_height
        self.annulus = built.annulus
        self.break_share = built.break_share
        outlet = plan.elevation(tail.end)
        assert outlet is not None  # noqa: S101 - a plan's runs end at vessel ports
        self.outlet = outlet
        pieces = [*built.pieces, *built.after]
        pieces += line_of_run(plan, tail, viscosity).pieces
        if siphon.trap:
            loss = FITTINGS["elbow_90"].loss(self.bore, self.bore)
            pieces.append(Piece("fitting", "elbow turned up at the end", self.bore, loss=loss))
        self.line = Line(pieces, viscosity)
        self._to_crown = Line(built.pieces, viscosity)
        self.start_band = least_start(siphon)
        self.start = self.start_band.value
        self.priming_level = self.rim + built.spill_head(self.start)
        self._over_a_rim = isinstance(siphon, BellSiphon)
        # Only a crest is looked up in a table; over a rim the flow is told by a formula.
        self._flows = 1.5 * self.start * _TABLE_FLOWS
        self._heads = self._flows if self._over_a_rim else np.array(
            [built.spill_head(float(q)) for q in self._flows]
        )  # fmt: skip

    def spill(self, level: Floats) -> Floats:
        """Flow over the crest [m³/s] with air still in the siphon, at levels [m]."""
        over = np.asarray(level) - self.rim
        if self._over_a_rim:
            return rim_flow(over, self.bore)
        return np.asarray(np.interp(over, self._heads, self._flows))

    def full_flow(self, level: Floats | float, tailwater: Floats | float) -> Floats:
        """Flow when running full [m³/s], at levels over the floor [m] and tailwaters [m]."""
        foot = np.maximum(self.outlet, tailwater)
        return self.line.flow(self.floor + np.asarray(level) - foot)

    def window(self, tailwater: float) -> Window:
        """Working window, with the tank at its highest while the siphon runs [m]."""
        at_intake = float(self.full_flow(self.intake, tailwater)[0])
        share = self.break_share
        stop = Banded(share.value * at_intake, share.low * at_intake, share.high * at_intake)
        return Window(self.start_band, stop, at_intake)

    def crown_head(self, level: float, flow: float) -> float:
        """Pressure head at the crown against the air outside [m]; below 0 is suction."""
        lost, _ = self._to_crown.loss(np.array([flow]))
        speed = flow / area_of(self.bore)
        return level - self.rim - float(lost[0]) - speed**2 / (2.0 * GRAVITY)
