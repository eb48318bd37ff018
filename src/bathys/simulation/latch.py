"""A way out with two states, which levels and flows switch."""

from dataclasses import dataclass

from bathys.network import GravityLine

__all__ = ["FULL", "SPILL", "Latch"]

SPILL, FULL = "~spill", "~full"
"""Endings of the names of a run's line in either state."""


@dataclass(frozen=True, slots=True)
class Latch:
    """A way out that spills until it starts, such as a closed crest that begins to siphon, and then
    runs full until it breaks.

    Attributes
    ----------
    id, name : str
        Of the part
    vessel : str
        What it drains
    start_level : float
        Level at which it starts, over the datum, [m]
    intake_level : float
        Level at which it breaks, [m]
    break_share : float
        Share of its full flow at the intake that may still come while it breaks, [-]
    spill, full : GravityLine
        What it carries in either state
    is_meant : bool
        Whether it is built to do so
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
