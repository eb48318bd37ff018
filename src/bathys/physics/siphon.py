"""When a bell siphon starts and stops.

Both thresholds rest on an assumed coefficient with a stated band. A plan shows the band, and
measured starts and breaks will narrow it.
"""

import math
from dataclasses import dataclass

from bathys.physics import GRAVITY, area_of

__all__ = [
    "BREAK_SHARE_AIR_TUBE",
    "BREAK_SHARE_PLAIN",
    "START_FROUDE",
    "TRAP_SHARE",
    "Banded",
    "start_flow",
]


@dataclass(frozen=True, slots=True)
class Banded:
    """A coefficient with the band it may lie in.

    Attributes
    ----------
    value : float
        The value computed with, [-]
    low, high : float
        The ends of the band, [-]
    """

    value: float
    low: float
    high: float


START_FROUDE = Banded(0.31, 0.2, 0.5)
"""V/√(g d) in the standpipe at which falling water sweeps the air out (derived from the
self-venting criterion of Simpson 1968 and Hills 1983, memory)."""

BREAK_SHARE_PLAIN = Banded(0.6, 0.45, 0.75)
"""β: share of the full flow at the intake that the inflow may reach for a bell with foot slots
only to break (assumed)."""

BREAK_SHARE_AIR_TUBE = Banded(0.8, 0.65, 0.95)
"""β with an air tube (assumed)."""

TRAP_SHARE = Banded(0.6, 0.5, 1.0)
"""Share of the start flow that does where the tail ends in an elbow turned up or a trap, which
keeps air from coming back (assumed; under water doubtful, so up to 1)."""


def start_flow(bore: float, froude: float = START_FROUDE.value) -> float:
    """Least spill over a standpipe's rim that starts a bell siphon.

    Q_start = Fr (π/4) d² √(g d).

    Parameters
    ----------
    bore : float
        Inside diameter of the standpipe, [m]
    froude : float
        Froude number at the start, [-]

    Returns
    -------
    float
        Flow, [m³/s]

    References
    ----------
    Derived: a drop vents itself up to Fr 0.31 (Simpson 1968; Hills 1983, memory); a siphon
    cannot start before it stops doing so.

    Examples
    --------
    >>> round(start_flow(0.02664) * 3.6e6)
    318
    """
    return froude * area_of(bore) * math.sqrt(GRAVITY * bore)
