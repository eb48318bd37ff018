"""Air drawn in by water that hurries through a narrow throat."""

import math

from bathys.physics import GRAVITY

__all__ = ["RECOVERED_LOSS", "venturi_air"]

RECOVERED_LOSS = 0.4
"""K of a throat and what widens behind it, on the throat's bore (assumed) [-]."""

_PULLS = 0.8  # of the throat's velocity head, that pulls (assumed) [-]
_MOST = 0.3  # of the water's flow, that is drawn in at most (assumed) [-]


def venturi_air(flow: float, throat: float, depth: float) -> float:
    """Free air that a throat draws in.

    Parameters
    ----------
    flow : float
        Of water, [m³/s]
    throat : float
        Its bore, [m]
    depth : float
        Of the throat under the water that it opens into, [m]

    Returns
    -------
    float
        Air, [m³/s]; none where the throat's pull does not overcome the depth

    Notes
    -----
    The pull is 0.8 V²/2g less the depth; air grows with its root up to 0.3 of the water (assumed,
    as such fittings are sold without figures).
    """
    speed = 4.0 * flow / (math.pi * throat**2)
    velocity_head = speed**2 / (2.0 * GRAVITY)
    pull = _PULLS * velocity_head - max(depth, 0.0)
    if pull <= 0.0:
        return 0.0
    return _MOST * flow * math.sqrt(pull / (_PULLS * velocity_head))
