"""Head that water loses in pads of fibre, beds of pieces and screens."""

import math

from bathys.compiling import njit_borrowing
from bathys.physics import GRAVITY

__all__ = ["bed_resistance", "fibre_resistance", "head_through", "screen_resistance"]

_PAST = 10.0
"""Slope of the head once water goes past, over a long edge: a centimetre for a litre a second
(assumed) [s/m²]."""


def fibre_resistance(
    area: float, depth: float, void: float, fibre: float, viscosity: float
) -> float:
    """Head over flow of a pad of fibres, in which water creeps.

    Parameters
    ----------
    area : float
        Face that the water enters, [m²]
    depth : float
        Of the pad along the water, [m]
    void : float
        Share of the pad that is not fibre, from 0.6 on, [-]
    fibre : float
        Diameter of a fibre, [m]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    float
        Head over flow, [s/m²]

    References
    ----------
    Davies, C. N. (1952), Proc. Inst. Mech. Eng. B1, 185–213 (memory):
    Δp = 64 μ v L (1−ε)^1.5 (1 + 56 (1−ε)³) / d².
    """
    solid = 1.0 - void
    drag = 64.0 * math.sqrt(solid) * solid * (1.0 + 56.0 * solid**3)
    return drag * viscosity * depth / (GRAVITY * fibre**2 * area)


def bed_resistance(
    area: float, depth: float, void: float, piece: float, viscosity: float
) -> tuple[float, float]:
    """Head over flow, and over flow squared, of a bed of pieces.

    Parameters
    ----------
    area : float
        Face that the water enters, [m²]
    depth : float
        Of the bed along the water, [m]
    void : float
        Share of the bed between the pieces, [-]
    piece : float
        Diameter of a piece, [m]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    (float, float)
        Head over flow, [s/m²], and over flow squared, [s²/m⁵]

    References
    ----------
    Ergun, S. (1952), Chem. Eng. Prog. 48, 89–94.
    """
    solid = 1.0 - void
    creeping = 150.0 * viscosity * solid**2 / (void**3 * piece**2)
    turning = 1.75 * solid / (void**3 * piece)
    return creeping * depth / (GRAVITY * area), turning * depth / (GRAVITY * area**2)


def screen_resistance(
    area: float, opening: float, open_share: float, viscosity: float, shut: float = 0.0
) -> tuple[float, float]:
    """Head over flow, and over flow squared, of a screen of wire or a drilled plate.

    Parameters
    ----------
    area : float
        Of the screen, [m²]
    opening : float
        Width of a hole, [m]
    open_share : float
        Of its area, clean, [-]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]
    shut : float
        Share of its holes that something lies on, [-]

    Returns
    -------
    (float, float)
        Head over flow, [s/m²], and over flow squared, [s²/m⁵]

    References
    ----------
    Idelchik, I. E., Handbook of Hydraulic Resistance (memory):
    K = 1.3 (1−f) + (1/f − 1)², and 22/Re on the wire where water creeps.
    """
    share = max(open_share * (1.0 - shut), 1e-6)
    loss = 1.3 * (1.0 - share) + (1.0 / share - 1.0) ** 2
    wire = opening * max(1.0 / math.sqrt(open_share) - 1.0, 0.05)
    free = area * (1.0 - shut)
    creeping = 22.0 * viscosity / (2.0 * GRAVITY * wire * max(free, 1e-9))
    return creeping, loss / (2.0 * GRAVITY * area**2)


@njit_borrowing
def head_through(flow: float, linear: float, squared: float, most: float) -> tuple[float, float]:
    """Head lost in something that water creeps and turns through, with a way past it.

    Parameters
    ----------
    flow : float
        Flow, either sign, [m³/s]
    linear, squared : float
        Head over flow, [s/m²], and over flow squared, [s²/m⁵]
    most : float
        Head from which on water goes past, inf for none, [m]

    Returns
    -------
    (float, float)
        Head, signed like the flow, [m], and its slope, [s/m²]
    """
    size = abs(flow)
    head = size * (linear + size * squared)
    slope = linear + 2.0 * size * squared
    if head > most:
        root = math.sqrt(linear * linear + 4.0 * squared * most)
        last = 2.0 * most / (linear + root)  # flow that the head drives through
        slope = min(_PAST, linear + 2.0 * last * squared)
        head = most + slope * (size - last)
    return (head if flow >= 0.0 else -head), slope
