"""A siphon's working window as a band on an axis of flow, with its inflow on it."""

from dataclasses import dataclass

from bathys.parts.practice import START_MARGIN, STOP_MARGIN
from bathys.simulation import Window
from bathys.units import System, in_unit, show

__all__ = ["WIDE", "Tick", "WindowBand", "band_of", "flow_axis"]

WIDE = 520.0
"""Width of the picture."""

_EDGE = 14.0


@dataclass(frozen=True, slots=True)
class WindowBand:
    """A working window on an axis of flow, in picture units."""

    start: float
    stop: float
    start_low: float
    start_high: float
    stop_low: float
    stop_high: float
    good_from: float
    good_to: float
    inflow: float


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark on an axis."""

    at: float
    words: str


def flow_axis(most: float, units: System) -> tuple[float, list[Tick]]:
    """Picture units for one m³/s, and ticks.

    Parameters
    ----------
    most : float
        Greatest flow on the axis, [m³/s]
    units : System
        The reader's units

    Returns
    -------
    (float, list of Tick)
        Picture units for one m³/s, and ticks
    """
    scale = (WIDE - 2.0 * _EDGE) / most
    shown = in_unit(most, "flow", units)
    step = next(
        s
        for s in (10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 1e9)
        if shown / s <= 6
    )
    return scale, [
        Tick(
            round(_EDGE + k * step / shown * most * scale, 1),
            show(k * step / shown * most, "flow", units),
        )
        for k in range(int(shown / step) + 1)
    ]


def band_of(window: Window, inflow: float, scale: float) -> WindowBand:
    """A window and the inflow, on an axis of so many picture units for one m³/s.

    Parameters
    ----------
    window : Window
        The flows between which the siphon works
    inflow : float
        What comes, [m³/s]
    scale : float
        Picture units for one m³/s, [s/m³]

    Returns
    -------
    WindowBand
        The band in picture units
    """

    def x(flow: float) -> float:
        return round(min(max(_EDGE + flow * scale, 0.0), WIDE), 1)

    start, stop = window.start, window.stop
    return WindowBand(
        x(start.value),
        x(stop.value),
        x(start.low),
        x(start.high),
        x(stop.low),
        x(stop.high),
        x(START_MARGIN * start.value),
        x(STOP_MARGIN * stop.value),
        x(inflow),
    )
