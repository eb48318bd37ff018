"""What gravity lines out of a vessel have in common, whatever kind of way out they begin at."""

from dataclasses import dataclass

from bathys.network.gravity import GravityLine, InletKind
from bathys.network.lines import Line, Piece
from bathys.network.runs import fouled_bore
from bathys.plan.pipes import Run
from bathys.plan.way_out import Siphon

__all__ = ["FOOT", "Drain", "most_spill"]

FOOT = ".foot"
"""Ending of the name of the node at the foot of a standpipe that has other ways into it."""


@dataclass(frozen=True, slots=True)
class Drain:
    """A run that leads on from a vessel, as every kind of way out begins it.

    Attributes
    ----------
    run : Run
        The run
    vessel : str
        The vessel it drains
    floor : float
        Its floor over the datum, [m]
    end : str or None
        The vessel or junction it ends at; none outside
    outlet : float
        Where it ends over the datum, [m]
    line : Line
        What it loses
    """

    run: Run
    vessel: str
    floor: float
    end: str | None
    outlet: float
    line: Line

    @property
    def bore(self) -> float:
        """Bore that its film leaves [m]."""
        return fouled_bore(self.run)

    def after(self, pieces: list[Piece]) -> Line:
        """The run behind more pieces."""
        return Line([*pieces, *self.line.pieces], self.line.viscosity)

    def upright(self, label: str, bore: float, length: float) -> Piece:
        """A piece of pipe of this bore and length [m], as foul as the run."""
        roughness = self.run.wall.roughness
        return Piece("friction", label, bore, length=length, roughness=roughness)

    def mouth(self, begin: float, lift: Line | None = None) -> GravityLine:
        """The run beginning at a mouth with its middle at this height over the datum [m]."""
        drop, length = begin - self.outlet, self.run.level_length
        fall = drop if self.run.slope is None else min(self.run.slope * length, drop)
        return GravityLine(
            self.run.id,
            self.vessel,
            self.end,
            "mouth",
            begin - 0.5 * self.bore,
            self.bore,
            level_length=length,
            fall=fall,
            outlet=self.outlet,
            line=self.line,
            lift=lift,
        )

    def over(
        self, inlet: InletKind, crest: float, bore: float, line: Line, most_spill: float
    ) -> GravityLine:
        """The run beginning over a crest at this height over the floor [m]."""
        return GravityLine(
            self.run.id,
            self.vessel,
            self.end,
            inlet,
            self.floor + crest,
            bore,
            outlet=self.outlet,
            line=line,
            most_spill=most_spill,
        )

    def holes(self, height: float, area: float) -> GravityLine:
        """The run beginning at holes at this height over the floor [m]."""
        return GravityLine(
            self.run.id,
            self.vessel,
            self.end,
            "holes",
            self.floor + height,
            self.bore,
            area=area,
            outlet=self.outlet,
            line=self.line,
        )


def most_spill(siphon: Siphon) -> float:
    """Flow over its crest at which a siphon starts [m³/s].

    Parameters
    ----------
    siphon : Siphon
        The siphon

    Returns
    -------
    float
        The flow, [m³/s]
    """
    return siphon.least_start.value
