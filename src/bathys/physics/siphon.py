"""When a bell siphon starts and stops.

Both thresholds rest on an assumed coefficient with a stated band. A plan shows the band, and
measured starts and breaks will narrow it.
"""

import math
from dataclasses import dataclass

from bathys.physics import GRAVITY, area_of

__all__ = [
    "AIR_SHARE",
    "BREAK_SHARE_AIR_TUBE",
    "BREAK_SHARE_PLAIN",
    "START_FROUDE",
    "Banded",
    "crown_turn_loss",
    "elbow_rise",
    "elbow_start_share",
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

AIR_SHARE = 0.02
"""Area of the air tubes over the standpipe's from which on they break a siphon. Derived: at the
crown of a siphon 150 mm tall air comes in at 0.6 √(2 g · 0.15 m · 830) = 30 m/s, and water leaves
at 1 to 1.5 m/s; half of its volume in air, each second, stops it (assumed)."""

_UPRIGHT_SHARE = Banded(0.6, 0.5, 1.0)
"""Share of the start flow that does where the tail's last elbow is turned straight up, which keeps
air from coming back (assumed; under water doubtful, so up to 1)."""

_ELBOW_REACH = 1.4  # middle to mouth of an elbow, over its bore (solvent-weld fittings, memory)
_CROWN_TURN_LOSS = 1.5  # the turn over the rim and into the standpipe, on its bore (assumed)


def elbow_rise(bore: float, angle: float) -> float:
    """How far the mouth of the tail's last elbow stands over the tail's own middle.

    Parameters
    ----------
    bore : float
        Inside diameter of the tail, [m]
    angle : float
        How far the elbow is turned up from level, [°]

    Returns
    -------
    float
        Height, [m]
    """
    return _ELBOW_REACH * bore * math.sin(math.radians(angle))


def elbow_start_share(angle: float) -> Banded:
    """Share of the start flow that does with the tail's last elbow turned up.

    It falls as the mouth rises, with the sine of the angle, from 1 level to 0.6 upright.

    Parameters
    ----------
    angle : float
        How far the elbow is turned up from level, [°]

    Returns
    -------
    Banded
        Share, with its doubt, [-]

    Examples
    --------
    >>> elbow_start_share(30.0).value
    0.8
    """
    turned = math.sin(math.radians(angle))
    value, low, high = (
        round(1.0 - turned * (1.0 - share), 9)
        for share in (_UPRIGHT_SHARE.value, _UPRIGHT_SHARE.low, _UPRIGHT_SHARE.high)
    )
    return Banded(value, low, high)


def crown_turn_loss(bore: float, gap: float) -> float:
    """Loss of the turn over a standpipe's rim, under its bell's cap.

    The water passes a curtain as high as the gap round the rim; where that is smaller than the
    bore, the loss grows with the square of the ratio.

    Parameters
    ----------
    bore : float
        Inside diameter of the standpipe, [m]
    gap : float
        From the rim up to the cap, [m]

    Returns
    -------
    float
        K on the standpipe's bore, [-]

    Examples
    --------
    >>> crown_turn_loss(0.04, 0.025), round(crown_turn_loss(0.04, 0.005), 6)
    (1.5, 6.0)
    """
    curtain = math.pi * bore * gap
    return _CROWN_TURN_LOSS * max(area_of(bore) / curtain, 1.0) ** 2


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
