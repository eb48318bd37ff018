"""Water running part full in a round pipe, open to the air above it.

Depths are over the pipe's invert. With θ the angle the water surface subtends at the centre,
depth = (D/2)(1 − cos θ/2), area = (D²/8)(θ − sin θ), wetted perimeter = D θ/2, top width =
D sin(θ/2).
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.physics import GRAVITY

__all__ = [
    "MANNING_PLASTIC",
    "CriticalTable",
    "Section",
    "critical_depth",
    "critical_head",
    "critical_table",
    "manning_flow",
    "normal_depth",
    "normal_depths",
    "section",
    "surface_profile",
]

Floats = NDArray[np.float64]

MANNING_PLASTIC = 0.010
"""Manning's n of plastic drains [s/m^(1/3)] (published range 0.009–0.011, memory)."""

_FULLEST = 0.938  # depth ratio at which Manning's flow peaks (from the geometry)
_STEPS = 24
_NEWTON_STEPS = 5


@dataclass(frozen=True, slots=True)
class Section:
    """Geometry of the water in a round pipe, for a bore of 1.

    Attributes
    ----------
    area : array
        Over D², [-]
    radius : array
        Hydraulic radius over D, [-]
    top : array
        Width of the surface over D, [-]
    """

    area: Floats
    radius: Floats
    top: Floats


def section(fill: Floats | float) -> Section:
    """Geometry at depth ratios y/D between 0 and 1.

    Parameters
    ----------
    fill : array
        Depth over bore, [-]

    Returns
    -------
    Section
        Area, hydraulic radius and surface width, for a bore of 1 [-]
    """
    y = np.minimum(np.maximum(np.asarray(fill, dtype=np.float64), 1e-6), 1.0)
    theta = 2.0 * np.arccos(1.0 - 2.0 * y)
    area = (theta - np.sin(theta)) / 8.0
    return Section(area, area / (0.5 * theta), np.sin(0.5 * theta))


def manning_flow(
    fill: Floats | float, bore: float, slope: float, n: float = MANNING_PLASTIC
) -> Floats:
    """Uniform flow at a depth ratio: Q = A R^(2/3) √S / n.

    Parameters
    ----------
    fill : array
        Depth over bore, 0 to 1, [-]
    bore : float
        Inside diameter, [m]
    slope : float
        Fall over length, [-]
    n : float
        Manning's roughness, [s/m^(1/3)]

    Returns
    -------
    array
        Flow, [m³/s]

    References
    ----------
    Manning (1891), SI form. Peak at 0.938 D.

    Examples
    --------
    >>> round(float(manning_flow(0.5, 0.1, 0.02)) * 3.6e6)
    17094
    """
    shape = section(fill)
    flow: Floats = bore ** (8.0 / 3.0) * shape.area * shape.radius ** (2.0 / 3.0)
    return flow * math.sqrt(slope) / n


def normal_depths(flow: Floats, bore: Floats, slope: Floats, n: float = MANNING_PLASTIC) -> Floats:
    """:func:`normal_depth` of many pipes at once.

    Parameters
    ----------
    flow : array
        Flow, at or above 0, [m³/s]
    bore : array
        Inside diameter, [m]
    slope : array
        Fall over length, above 0, [-]
    n : float
        Manning's roughness, [s/m^(1/3)]

    Returns
    -------
    array
        Depth over bore, 1 where the pipe runs full, [-]
    """
    scaled = flow * n / (np.sqrt(slope) * bore ** (8.0 / 3.0))
    return np.asarray(np.interp(np.sqrt(scaled), _ROOT_CARRIED, _FILLS, right=1.0))


def normal_depth(flow: float, bore: float, slope: float, n: float = MANNING_PLASTIC) -> float:
    """Depth ratio of uniform flow: the inverse of :func:`manning_flow`.

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    bore : float
        Inside diameter, [m]
    slope : float
        Fall over length, [-]
    n : float
        Manning's roughness, [s/m^(1/3)]

    Returns
    -------
    float
        Depth over bore, 1 where the pipe runs full or has no fall, [-]
    """
    if flow <= 0.0:
        return 0.0
    if slope <= 0.0:
        return 1.0
    return float(normal_depths(np.array(flow), np.array(bore), np.array(slope), n))


@dataclass(frozen=True, slots=True)
class CriticalTable:
    """Critical flow in a round pipe of any bore.

    Attributes
    ----------
    flow : array
        Q/√(g D⁵), rising, [-]
    depth : array
        Critical depth over D, [-]
    energy : array
        Level upstream over the invert, over D, [-]
    """

    flow: Floats
    depth: Floats
    energy: Floats


def critical_table() -> CriticalTable:
    """Critical depth and energy against flow: Q² T = g A³, E = y_c + A/(2 T).

    Returns
    -------
    CriticalTable
        Up to 0.98 D [-]; beyond, see :func:`critical_depth`

    References
    ----------
    FHWA HDS-5 (2012), critical depth of circular culverts.
    """
    return _TABLE


def _tabulate() -> CriticalTable:
    y = np.concatenate([np.linspace(0.002, 0.1, 50), np.linspace(0.1, 0.98, 220)[1:]])
    shape = section(y)
    flow = np.sqrt(shape.area**3 / shape.top)
    energy = y + shape.area / (2.0 * shape.top)
    first = np.zeros(1)
    return CriticalTable(
        np.concatenate([first, flow]), np.concatenate([first, y]), np.concatenate([first, energy])
    )


_TABLE = _tabulate()
_STEP_SHARES = np.diff(np.linspace(0.0, 1.0, _STEPS + 1) ** 2)
_FILLS = np.linspace(0.0, _FULLEST, 400)
_ROOT_CARRIED = np.sqrt(manning_flow(_FILLS, 1.0, 1.0, 1.0))
_ROOT_CARRIED[0] = 0.0
_ROOT_FLOW = np.sqrt(_TABLE.flow)  # nearly straight against depth, so that little is lost between


def _scaled(flow: Floats | float, bore: Floats | float) -> Floats:
    return np.asarray(np.abs(flow) / np.sqrt(GRAVITY * np.asarray(bore) ** 5))


def critical_depth(flow: Floats | float, bore: Floats | float) -> Floats:
    """Critical depth ratio y_c/D of a flow in a round pipe.

    Parameters
    ----------
    flow : array
        Flow, [m³/s]
    bore : array
        Inside diameter, [m]

    Returns
    -------
    array
        Depth over bore, at most 1, [-]

    Notes
    -----
    Beyond the table the area hardly grows and the surface narrows as the root of what is left to
    the crown, so that what is left goes with the flow to the power -4.

    References
    ----------
    FHWA HDS-5 (2012): Q² T = g A³.
    """
    root = np.sqrt(_scaled(flow, bore))
    beyond = 1.0 - _LEFT * (_ROOT_FLOW[-1] / np.maximum(root, _ROOT_FLOW[-1])) ** 8
    tabled = np.interp(root, _ROOT_FLOW, _TABLE.depth)
    return np.where(root < _ROOT_FLOW[-1], tabled, beyond)


_DEPTHS = _TABLE.depth
_LEFT = 1.0 - float(_DEPTHS[-1])


@njit_borrowing
def critical_head(flow: float, bore: float) -> float:
    """One pipe of :func:`critical_depth`, as a depth, for other compiled code.

    Parameters
    ----------
    flow : float
        Flow, at or above 0, [m³/s]
    bore : float
        Inside diameter, [m]

    Returns
    -------
    float
        Critical depth, at most the bore, [m]
    """
    root = math.sqrt(flow / math.sqrt(GRAVITY * bore**5))
    if root >= _ROOT_FLOW[-1]:
        full: float = bore * (1.0 - _LEFT * (_ROOT_FLOW[-1] / root) ** 8)
        return full
    i = max(int(np.searchsorted(_ROOT_FLOW, root)) - 1, 0)
    rate = (_DEPTHS[i + 1] - _DEPTHS[i]) / (_ROOT_FLOW[i + 1] - _ROOT_FLOW[i])
    depth: float = bore * (_DEPTHS[i] + rate * (root - _ROOT_FLOW[i]))
    return depth


def surface_profile(
    flow: Floats,
    bore: Floats,
    length: Floats,
    slope: Floats,
    tail_depth: Floats,
    n: float = MANNING_PLASTIC,
    mouth_loss: Floats | float = 0.0,
) -> Floats:
    """Level upstream of a pipe that is flatter than critical, stepped up from its end.

    The standard step method: E₁ + S L = E₂ + (S_f1 + S_f2) Δx/2 from the greater of critical and
    tailwater depth at the lower end; a depth above the crown is carried as a pressure head. The
    steps grow from the lower end, where the surface bends most.

    Parameters
    ----------
    flow : array
        Flow, [m³/s]
    bore : array
        Inside diameter, [m]
    length : array
        Length along the level, [m]
    slope : array
        Fall over length, [-]
    tail_depth : array
        Depth of the water downstream over the lower invert, [m]
    n : float
        Manning's roughness, [s/m^(1/3)]
    mouth_loss : array
        K of what the water passes at the upper end, on its velocity there, [-]

    Returns
    -------
    array
        Head over the upper invert, y + (1 + K) V²/2g, [m]

    References
    ----------
    Chow (1959), Open-Channel Hydraulics, ch. 10, direct integration by steps (memory).
    """
    critical = critical_depth(flow, bore) * bore
    start = np.maximum(critical, tail_depth)
    depth = start
    energy, lost = _energy_and_loss(flow, bore, depth, n)
    for share in _STEP_SHARES:
        step = share * length
        wanted = energy + 0.5 * step * lost - slope * step
        for _ in range(_NEWTON_STEPS):
            here, here_lost = _energy_and_loss(flow, bore, depth, n)
            ahead, ahead_lost = _energy_and_loss(flow, bore, depth + 1e-5 * bore, n)
            off = here - 0.5 * step * here_lost - wanted
            rate = (ahead - here - 0.5 * step * (ahead_lost - here_lost)) / (1e-5 * bore)
            move = -off / np.maximum(rate, 0.05)
            most = 0.2 * bore
            depth = np.maximum(depth + np.minimum(np.maximum(move, -most), most), critical)
        energy, lost = _energy_and_loss(flow, bore, depth, n)
    return energy + mouth_loss * (energy - depth)


def _energy_and_loss(flow: Floats, bore: Floats, depth: Floats, n: float) -> tuple[Floats, Floats]:
    shape = section(depth / bore)
    speed = flow / (shape.area * bore**2)
    friction = (n * speed) ** 2 / (shape.radius * bore) ** (4.0 / 3.0)
    return depth + speed**2 / (2.0 * GRAVITY), friction
