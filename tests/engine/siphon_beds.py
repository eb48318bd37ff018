"""Siphon beds over one tank, written out once more for scipy's stiff integrator.

Nothing here calls the engine: friction is Colebrook's by root finding, flows by brentq, the pump's
curve its own formula. Only the plan's dimensions and the coefficients, which are assumptions of
the trade, are shared.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from scipy.integrate import solve_ivp
from scipy.interpolate import CubicSpline
from scipy.optimize import brentq

__all__ = ["Bed", "Pumped", "follow", "pipe_flow"]

G = 9.80665
NU = 1.0034e-6  # of water at 20 °C (IAPWS 2008, table value) [m²/s]


def area(bore: float) -> float:
    """Of a circle."""
    return 0.25 * math.pi * bore * bore


def friction(flow: float, bore: float, rough: float) -> float:
    """Darcy's f: 64/Re, or Colebrook–White by root finding."""
    reynolds = 4.0 * flow / (math.pi * bore * NU)
    if reynolds < 2000.0:
        return 64.0 / max(reynolds, 1e-9)

    def off(root: float) -> float:
        return root + 2.0 * math.log10(rough / bore / 3.7 + 2.51 * root / reynolds)

    return float(brentq(off, 1.0, 30.0)) ** -2


@dataclass
class Pipe:
    """Losses in series: (K, area) and (length, bore, roughness)."""

    minor: list[tuple[float, float]]
    pipes: list[tuple[float, float, float]]

    def loss(self, flow: float) -> float:
        """Head lost [m]."""
        head = sum(k * (flow / a) ** 2 / (2.0 * G) for k, a in self.minor)
        for length, bore, rough in self.pipes:
            speed = flow / area(bore)
            head += friction(flow, bore, rough) * length / bore * speed**2 / (2.0 * G)
        return head


def pipe_flow(pipe: Pipe, head: float) -> float:
    """Flow that a head drives [m³/s]."""
    if head <= 0.0:
        return 0.0
    return float(brentq(lambda q: pipe.loss(q) - head, 1e-9, 0.02, xtol=1e-13))


@dataclass
class Bed:
    """A siphon bed of one water area up to its media's top."""

    area: float
    floor: float
    rim: float
    intake: float
    spill: Callable[[float], float]  # flow over the crest at a head
    start_head: float
    share: float
    tail: Pipe
    outlet: float
    starts: list[float] = field(default_factory=list)
    breaks: list[float] = field(default_factory=list)
    runs: bool = False

    def full(self, level: float) -> float:
        """What it passes when full."""
        return pipe_flow(self.tail, self.floor + level - self.outlet)


@dataclass
class Pumped:
    """A pump in the tank and a branch to each bed that ends in the air, on one manifold without
    losses."""

    max_flow: float
    max_head: float
    exponent: float
    branches: list[tuple[Pipe, float]]

    def flows(self, tank: float) -> list[float]:
        """Flow of each branch with the tank at a level."""

        def carried(head: float) -> list[float]:
            return [pipe_flow(p, head - end) for p, end in self.branches]

        def off(head: float) -> float:
            lift = min(max(head - tank, 0.0) / self.max_head, 1.0)
            return sum(carried(head)) - self.max_flow * (1.0 - lift) ** (1.0 / self.exponent)

        return carried(float(brentq(off, tank, tank + self.max_head, xtol=1e-12)))


def follow(
    beds: list[Bed], pump: Pumped, tank_area: float, tank_floor: float, water: float, hours: float
) -> None:
    """Follow beds and tank through time; starts and breaks are kept in the beds.

    ``water`` is all that is in beds and tank together.
    """
    full_tank = water / tank_area
    levels = np.linspace(tank_floor + 0.3 * full_tank, tank_floor + full_tank, 40)
    table = np.array([pump.flows(z) for z in levels])
    inflow = [CubicSpline(levels, table[:, k]) for k in range(len(beds))]
    heads = [np.linspace(b.intake - 0.01, b.rim + b.start_head + 0.01, 200) for b in beds]
    full = [CubicSpline(h, [b.full(x) for x in h]) for b, h in zip(beds, heads, strict=True)]

    def rates(_: float, y: Any) -> list[float]:
        tank = (
            tank_floor + (water - sum(z * b.area for z, b in zip(y, beds, strict=True))) / tank_area
        )
        out = []
        for k, bed in enumerate(beds):
            away = float(full[k](y[k])) if bed.runs else bed.spill(max(y[k] - bed.rim, 0.0))
            out.append((float(inflow[k](tank)) - away) / bed.area)
        return out

    time, state = 0.0, [b.intake for b in beds]
    until = hours * 3600.0
    while time < until:
        events = []
        for k, bed in enumerate(beds):
            mark = bed.intake if bed.runs else bed.rim + bed.start_head

            def reached(_: float, y: Any, k: int = k, mark: float = mark) -> float:
                return float(y[k] - mark)

            reached.terminal = True  # type: ignore[attr-defined]
            reached.direction = -1.0 if bed.runs else 1.0  # type: ignore[attr-defined]
            events.append(reached)
        run = solve_ivp(
            rates,
            (time, until),
            state,
            "LSODA",
            events=events,
            rtol=1e-9,
            atol=1e-10,
            max_step=20.0,
        )
        time, state = float(run.t[-1]), run.y[:, -1].tolist()
        for k, bed in enumerate(beds):
            if len(run.t_events[k]):
                (bed.breaks if bed.runs else bed.starts).append(time)
                bed.runs = not bed.runs
                state[k] = bed.intake if not bed.runs else bed.rim + bed.start_head
