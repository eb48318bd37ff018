"""Water lifted by air that rises in a pipe."""

import math

from bathys.halving import greatest
from bathys.physics import GRAVITY, area_of

__all__ = ["AirliftCurve", "airlift_lift"]

_ATMOSPHERE = 101_325.0  # [Pa]
_DENSITY = 998.0  # of water [kg/m³]
_SPREAD, _DRIFT = 1.2, 0.35  # of slugs in a pipe (Nicklin 1962, memory) [-]
_FRICTION = 0.025  # Darcy's factor of smooth pipe at such flows (assumed) [-]
_STEP = 1e-6  # for the slope [m³/s]
_FASTEST = 3.0  # water in the pipe that no airlift reaches [m/s]
_HALVINGS = 60


def airlift_lift(flow: float, air: float, bore: float, submergence: float) -> float:
    """How far over the water an airlift carries a flow.

    Parameters
    ----------
    flow : float
        Of water, 0 or more, [m³/s]
    air : float
        Free air, [m³/s]
    bore : float
        Inside width of the pipe, [m]
    submergence : float
        Depth of the air's mouth under the water, [m]

    Returns
    -------
    float
        Lift, [m]

    Notes
    -----
    ρ g S = (S + L)(ρ g (1 − ε) + friction) + ρ (j_g + j_l) j_l, with the share of air by drift flux
    ε = j_g / (1.2 (j_g + j_l) + 0.35 √(g D)) (Nicklin 1962, memory), and the air as dense as half
    way down.
    """
    area = area_of(bore)
    squeezed = _ATMOSPHERE / (_ATMOSPHERE + 0.5 * _DENSITY * GRAVITY * submergence)
    gas, water = air * squeezed / area, flow / area
    both = gas + water
    share = gas / (_SPREAD * both + _DRIFT * math.sqrt(GRAVITY * bore))
    heavy = _DENSITY * (1.0 - share)
    rubs = _FRICTION / bore * 0.5 * heavy * both**2
    pushes = _DENSITY * GRAVITY * submergence - _DENSITY * both * water
    return pushes / (heavy * GRAVITY + rubs) - submergence


class AirliftCurve:
    """Lift of an airlift against its flow of water.

    Parameters
    ----------
    air : float
        Free air, [m³/s]
    bore : float
        Inside width of the pipe, [m]
    submergence : float
        Depth of the air's mouth under the water, [m]
    """

    def __init__(self, air: float, bore: float, submergence: float) -> None:
        self.air, self.bore, self.submergence = air, bore, submergence
        self.max_head = max(self._lift(0.0), 1e-3)
        self.max_flow = max(
            greatest(lambda q: self._lift(q) >= 0.0, 0.0, _FASTEST * area_of(bore), _HALVINGS), 1e-7
        )

    def _lift(self, flow: float) -> float:
        return airlift_lift(flow, self.air, self.bore, self.submergence)

    def head(self, flow: float) -> tuple[float, float]:
        """Head [m] and its slope dH/dQ [s/m²] at a flow [m³/s]; straight on below 0."""
        at = max(flow, 0.0)
        lift = self._lift(at)
        slope = min((self._lift(at + _STEP) - lift) / _STEP, -1e-3)
        return lift + slope * (flow - at), slope
