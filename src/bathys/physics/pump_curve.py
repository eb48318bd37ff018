"""Head of a pump at full power against the flow through it."""

from collections.abc import Sequence
from typing import Protocol

import numpy as np

__all__ = [
    "SLOPE_FLOOR",
    "LabelCurve",
    "PointsCurve",
    "PumpCurve",
    "ScaledCurve",
    "ThrottledCurve",
    "hydraulic_power",
    "parabola",
]

from bathys.physics import GRAVITY

SLOPE_FLOOR = 1e-3
"""Least |dH/dQ| given to a solver [m per m³/s]: a label curve is flat at no flow, which makes
the gradient method singular."""


class PumpCurve(Protocol):
    """What a solver asks of a pump."""

    max_flow: float
    """Flow at no lift [m³/s]."""
    max_head: float
    """Lift at no flow [m]."""

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s]."""
        ...


class LabelCurve:
    """Curve from a label: H = H0 (1 − sgn(Q) |Q/Q0|^n).

    Parameters
    ----------
    max_flow : float
        Flow at no lift Q0, above 0, [m³/s]
    max_head : float
        Lift at no flow H0, above 0, [m]
    exponent : float
        n, 1.2 to 2.5 fits small magnetic-drive pumps (common practice), [-]
    """

    def __init__(self, max_flow: float, max_head: float, exponent: float = 2.0) -> None:
        self.max_flow = max_flow
        self.max_head = max_head
        self.exponent = exponent

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s], either sign."""
        share = abs(flow) / self.max_flow
        n = self.exponent
        drop = self.max_head * share**n
        slope = -self.max_head * n * share ** (n - 1.0) / self.max_flow
        return self.max_head - float(np.sign(flow)) * drop, min(slope, -SLOPE_FLOOR)


class PointsCurve:
    """Curve through three or more measured points, never rising with flow.

    Parameters
    ----------
    points : sequence of (float, float)
        Flow [m³/s] and head [m], flows rising, heads not rising

    Raises
    ------
    ValueError
        If there are fewer than three points, or the heads rise with flow

    References
    ----------
    Monotone piecewise cubic: Fritsch, F. N. & Carlson, R. E. (1980), SIAM J. Numer. Anal. 17,
    as in ``scipy.interpolate.PchipInterpolator``. Outside the points the end slopes go on.
    """

    def __init__(self, points: Sequence[tuple[float, float]]) -> None:
        flows = np.array([p[0] for p in points])
        heads = np.array([p[1] for p in points])
        if len(points) < 3 or np.any(np.diff(flows) <= 0.0) or np.any(np.diff(heads) > 0.0):
            raise ValueError("a pump curve needs three points with rising flow and falling head")
        # Imported here: it takes 45 MB, and few plans have such a curve.
        from scipy.interpolate import PchipInterpolator  # noqa: PLC0415

        self._flows, self._heads = flows, heads
        self._curve = PchipInterpolator(flows, heads)
        self._slope = self._curve.derivative()
        self._first, self._last = float(flows[0]), float(flows[-1])
        # The monotone curve may arrive level at its last point; the last stretch's own slope
        # then goes on.
        secant = float((heads[-1] - heads[-2]) / (flows[-1] - flows[-2]))
        arriving = float(self._slope(self._last))
        self._end_slope = min(arriving if arriving < 0.0 else secant, -SLOPE_FLOOR)
        self._end_head = float(heads[-1])
        self.max_head = self.head(0.0)[0]
        self.max_flow = self._flow_at_no_head()

    def _flow_at_no_head(self) -> float:
        if self._end_head <= 0.0:
            # Several points may lie at no head: the flow is the first of them. A root search finds
            # none where the curve only touches zero.
            first = int(np.argmax(self._heads <= 0.0))
            if self._heads[first] == 0.0 or first == 0:
                return float(self._flows[first])
            from scipy.optimize import brentq  # noqa: PLC0415

            return float(brentq(self._curve, self._flows[first - 1], self._flows[first]))
        return self._last - self._end_head / self._end_slope

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s], either sign."""
        if flow > self._last:
            return self._end_head + self._end_slope * (flow - self._last), self._end_slope
        inside = max(flow, self._first)
        slope = min(float(self._slope(inside)), -SLOPE_FLOOR)
        return float(self._curve(inside)) + slope * (flow - inside), slope


def parabola(one: tuple[float, float], two: tuple[float, float]) -> LabelCurve:
    """The label curve of exponent 2 through two points.

    Parameters
    ----------
    one : (float, float)
        Flow [m³/s] and head [m]
    two : (float, float)
        Flow [m³/s] and head [m], with more flow and less head

    Returns
    -------
    LabelCurve
        H = H0 (1 − (Q/Q0)²) through both [m]

    Raises
    ------
    ValueError
        If the head does not fall
    """
    if two[0] <= one[0] or two[1] >= one[1]:
        raise ValueError("the second point needs more flow and less head than the first")
    bend = (one[1] - two[1]) / (two[0] ** 2 - one[0] ** 2)
    top = one[1] + bend * one[0] ** 2
    return LabelCurve(float((top / bend) ** 0.5), top, 2.0)


class ScaledCurve:
    """A pump turned slower, or worn: H = s² f(Q/s).

    Parameters
    ----------
    curve : PumpCurve
        The pump new and at full speed
    share : float
        s, its speed over full speed, or what wear has left of it, above 0, [-]

    References
    ----------
    Affinity laws: Q ∝ N, H ∝ N² (published, any pump text); wear taken alike (derived).
    """

    def __init__(self, curve: PumpCurve, share: float) -> None:
        self._curve, self._share = curve, share
        self.max_flow = share * curve.max_flow
        self.max_head = share**2 * curve.max_head

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s], either sign."""
        head, slope = self._curve.head(flow / self._share)
        return self._share**2 * head, min(self._share * slope, -SLOPE_FLOOR)


class ThrottledCurve:
    """A pump whose dial narrows its intake: H = f(Q) - k Q².

    At no flow nothing is lost; at no lift the dial leaves just its share of the flow.

    Parameters
    ----------
    curve : PumpCurve
        The pump with its intake open
    share : float
        Share of its greatest flow that the dial leaves, above 0, [-]

    References
    ----------
    Derived: a narrowing loses head with the square of the flow (Crane TP-410, memory).
    """

    def __init__(self, curve: PumpCurve, share: float) -> None:
        self._curve = curve
        self.max_flow = share * curve.max_flow
        self.max_head = curve.max_head
        self._loss = max(curve.head(self.max_flow)[0], 0.0) / self.max_flow**2

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s], either sign."""
        head, slope = self._curve.head(flow)
        return head - self._loss * flow * abs(flow), slope - 2.0 * self._loss * abs(flow)


def hydraulic_power(flow: float, head: float, density: float) -> float:
    """Power that leaves a pump in the water: ρ g Q H.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    head : float
        Head, [m]
    density : float
        Density of the water, [kg/m³]

    Returns
    -------
    float
        Power, [W]
    """
    return density * GRAVITY * flow * head
