"""Near-level links that run part full, against the equation of gradually varied flow integrated
apart.

dy/dx = (S_f − S₀)/(1 − Fr²) upstream from the lower end (Chow 1959, Open-Channel Hydraulics, eq.
9-13, memory), from the greater of critical depth and the tailwater; friction by Manning. The level
upstream is the energy at the mouth and its entrance loss.
"""

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from bathys.network.gravity import GravityLine, GravityLineArrays
from bathys.network.lines import Line, Piece

pytestmark = pytest.mark.uncompiled

G, N = 9.80665, 0.010
MOUTH = 0.5


def _section(y: float, bore: float) -> tuple[float, float, float]:
    """Area, hydraulic radius and top width."""
    angle = 2.0 * math.acos(1.0 - 2.0 * min(max(y / bore, 1e-9), 1.0 - 1e-9))
    area = bore**2 / 8.0 * (angle - math.sin(angle))
    return area, area / (0.5 * bore * angle), bore * math.sin(0.5 * angle)


def _critical(flow: float, bore: float) -> float:
    def off(y: float) -> float:
        area, _, top = _section(y, bore)
        return flow**2 * top - G * area**3

    return brentq(off, 1e-6 * bore, 0.9999 * bore)


def _level_upstream(flow: float, bore: float, length: float, slope: float, tail: float) -> float:
    """Over the upper invert [m]; ``tail`` is the depth downstream over the lower invert."""
    start = max(_critical(flow, bore) * 1.0005, tail)

    def rise(_: float, depth: np.ndarray) -> list[float]:
        y = float(depth[0])
        area, radius, top = _section(y, bore)
        speed = flow / area
        friction = (N * speed) ** 2 / radius ** (4.0 / 3.0)
        froude = speed**2 * top / (G * area)
        return [(friction - slope) / max(1.0 - froude, 1e-4)]

    end = solve_ivp(rise, (0.0, length), [start], "LSODA", rtol=1e-9, atol=1e-12).y[0, -1]
    area, _, _ = _section(float(end), bore)
    return float(end) + (1.0 + MOUTH) * (flow / area) ** 2 / (2.0 * G)


def _link(bore: float, length: float, slope: float) -> GravityLineArrays:
    pieces = [
        Piece("fitting", "mouth in the wall", bore, loss=MOUTH),
        Piece("friction", "pipe", bore, length=length, roughness=1.5e-6),
        Piece("velocity", "jet at the outlet", bore, loss=1.0),
    ]
    fall = slope * length
    line = GravityLine(
        "L",
        "A",
        "B",
        "mouth",
        crest=0.0,
        bore=bore,
        outlet=0.5 * bore - fall,
        line=Line(pieces, 1.0034e-6),
        level_length=length,
        fall=fall,
    )
    return GravityLineArrays([line])


CASES = [
    (bore, length, slope, share)
    for bore in (0.0525, 0.0779, 0.1023)
    for length in (0.4, 1.5, 5.0)
    for slope in (0.0, 0.002)
    for share in (0.03, 0.1, 0.2, 0.35)
]


@pytest.mark.parametrize("tail", [0.0, 0.45, 0.6, 0.75])
@pytest.mark.parametrize(("bore", "length", "slope", "share"), CASES)
def test_a_link_stands_as_the_profile_integrated_apart(
    bore: float, length: float, slope: float, share: float, tail: float
) -> None:
    """Within 2 % of the depth over the invert, free, low and half drowned."""
    flow = share * math.sqrt(G * bore**5)
    depth = tail * bore
    ours = float(
        _link(bore, length, slope).need(
            np.array([flow]), np.array([depth - slope * length if tail else -1.0])
        )[0][0]
    )
    theirs = _level_upstream(flow, bore, length, slope, depth)
    if theirs > 0.9 * bore:  # the mouth is drowned: no surface to hold it against
        assert ours > 0.85 * bore
        return
    assert ours == pytest.approx(theirs, rel=0.02)
