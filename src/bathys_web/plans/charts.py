"""Two small pictures beside the side view: one cycle of levels, and where the pump's head goes."""

from collections.abc import Callable
from dataclasses import dataclass

from bathys.evaluation import BedResult, Delivery
from bathys.plan.vessel import Vessel
from bathys.simulation import PumpedBedLoop, Through
from bathys.simulation.claims import SumpClaims
from bathys.units import System, show

__all__ = [
    "CycleChart",
    "HeadBar",
    "LevelsChart",
    "SumpPicture",
    "Tick",
    "draw_cycle",
    "draw_head_budget",
    "draw_levels",
    "draw_sump",
]  # fmt: skip

WIDTH, HEIGHT = 460.0, 190.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 52.0, 14.0, 12.0, 30.0
_MINUTE_STEPS = (0.25, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 240)
_TIMES_DRAWN = 2  # two cycles, so that the rhythm shows


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark on an axis."""

    at: float
    words: str


@dataclass(frozen=True, slots=True)
class CycleChart:
    """Depths in bed and tank through two cycles."""

    bed: str
    tank: str
    rim: float
    intake: float
    times: tuple[Tick, ...]
    depths: tuple[Tick, ...]
    width: float = WIDTH
    height: float = HEIGHT
    left: float = _LEFT
    bottom: float = HEIGHT - _BOTTOM


@dataclass(frozen=True, slots=True)
class HeadBar:
    """One share of a pump's head in a bar 100 wide."""

    x: float
    width: float
    look: str
    words: str
    label: str
    share: str
    as_pipe: str


def draw_cycle(result: BedResult, units: System) -> CycleChart | None:
    """Chart of one siphon bed; none where it does not cycle.

    Parameters
    ----------
    result : BedResult
        The bed
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    CycleChart or None
        What to draw
    """
    trace, period = result.cycle.trace, result.cycle.period
    if trace is None or period is None:
        return None
    # Only where one tank gives and takes it all does its level follow the bed's alone.
    tanks: list[float] = []
    if isinstance(result.loop, PumpedBedLoop):
        floor = result.loop.tank.floor_height
        tanks = [z - floor for z in trace.tank_levels]
    most = 1.08 * max(*trace.bed_levels, *tanks, 0.0)

    def x(time: float) -> float:
        return round(_LEFT + time / (_TIMES_DRAWN * period) * (WIDTH - _LEFT - _RIGHT), 1)

    def y(depth: float) -> float:
        return round(HEIGHT - _BOTTOM - depth / most * (HEIGHT - _TOP - _BOTTOM), 1)

    def line(depths: list[float]) -> str:
        return " ".join(
            f"{x(t + k * period)},{y(h)}"
            for k in range(_TIMES_DRAWN)
            for t, h in zip(trace.times, depths, strict=True)
        )

    return CycleChart(
        line(list(trace.bed_levels)), line(tanks) if tanks else "", y(result.loop.built.rim),
        y(result.loop.built.intake), tuple(_time_ticks(period, x)),
        tuple(Tick(y(d), show(d, "length", units)) for d in _depth_steps(most, units)),
    )  # fmt: skip


def _time_ticks(period: float, x: Callable[[float], float]) -> list[Tick]:
    total = _TIMES_DRAWN * period / 60.0
    step = next((s for s in _MINUTE_STEPS if total / s <= 7), _MINUTE_STEPS[-1])
    return [Tick(x(k * step * 60.0), f"{k * step:g}") for k in range(int(total / step) + 1)]


def _depth_steps(most: float, units: System) -> list[float]:
    steps = (0.05, 0.1, 0.2, 0.5, 1.0) if units == "metric" else (0.0762, 0.1524, 0.3048, 0.6096)
    step = next((s for s in steps if most / s <= 5), steps[-1])
    return [k * step for k in range(int(most / step) + 1)]


def draw_head_budget(delivery: Delivery, units: System) -> list[HeadBar]:
    """Bars of where a pump's head goes on its way to one outlet, like pieces together.

    Parameters
    ----------
    delivery : Delivery
        The way
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    list of HeadBar
        In the order of the water, none of no head
    """
    rows = [row for row in delivery.budget if row.head > 0.0]
    total = sum(row.head for row in rows)
    bars, at = [], 0.0
    for row in rows:
        wide = 100.0 * row.head / total
        label = row.label if row.kind == "lift" or row.place in row.label else (
            f"{row.label}, {row.place}")  # fmt: skip
        bars.append(HeadBar(round(at, 2), round(wide, 2), row.kind,
                            show(row.head, "length", units), label,
                            show(row.head / total, "percent", units),
                            show(row.as_pipe, "head", units) if row.as_pipe else ""))  # fmt: skip
        at += wide
    return bars


@dataclass(frozen=True, slots=True)
class LevelsChart:
    """Levels of every vessel through some hours, over the datum."""

    lines: tuple[tuple[str, str, str], ...]
    times: tuple[Tick, ...]
    heights: tuple[Tick, ...]
    width: float
    height: float
    left: float
    bottom: float


_WIDE, _TALL, _NAMES, _EDGE = 1000.0, 330.0, 150.0, 72.0
_MOST_POINTS = 720
_NAME_STEP = 14.0
_HOUR_STEPS, _MOST_HOURS = (0.25, 0.5, 1.0, 2.0, 4.0, 6.0, 12.0, 24.0, 48.0, 72.0), 12
_HEIGHT_STEPS = {"metric": (0.1, 0.2, 0.5, 1.0, 2.0), "us": (0.1524, 0.3048, 0.6096, 1.524)}


def draw_levels(through: Through, units: System) -> LevelsChart:
    """Chart of every vessel's level.

    Parameters
    ----------
    through : Through
        What happened
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    LevelsChart
        What to draw: points, name and where the name stands, by vessel
    """
    vessels = through.plan.vessels
    levels = [through.level(v.id) for v in vessels]
    low, high = min(float(z.min()) for z in levels), max(float(z.max()) for z in levels)
    low, high = low - 0.05, high + 0.05
    end = max(float(through.times[-1]), 60.0)
    per_tick = next((s for s in _HOUR_STEPS if end / 3600.0 / s <= _MOST_HOURS), 168.0)
    skip = max(len(through.times) // _MOST_POINTS, 1)

    def x(time: float) -> float:
        return round(_EDGE + time / end * (_WIDE - _EDGE - _NAMES), 1)

    def y(level: float) -> float:
        return round(_TALL - _BOTTOM - (level - low) / (high - low) * (_TALL - _TOP - _BOTTOM), 1)

    rows, last = [], -100.0
    for vessel, level in sorted(zip(vessels, levels, strict=True), key=lambda r: -r[1][-1]):
        points = " ".join(
            f"{x(float(t))},{y(float(z))}"
            for t, z in zip(through.times[::skip], level[::skip], strict=True)
        )
        last = max(y(float(level[-1])) + 4.0, last + _NAME_STEP)
        rows.append((points, vessel.name, f"{last:.1f}"))
    step = next((s for s in _HEIGHT_STEPS[units] if (high - low) / s <= 8), 5.0)
    first = int(low // step) + 1
    marks = [k * step for k in range(first, int(high // step) + 1)]
    return LevelsChart(
        tuple(rows), tuple(Tick(x(3600.0 * per_tick * k), f"{per_tick * k:g} h")
                          for k in range(int(end / 3600.0 / per_tick) + 1)),
        tuple(Tick(y(z), show(z, "length", units)) for z in marks), _WIDE, _TALL, _EDGE,
        _TALL - _BOTTOM,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class SumpMark:
    """A mark on a sump's wall: where it is, where its words stand, and the words."""

    at: float
    words_at: float
    words: str
    look: str


@dataclass(frozen=True, slots=True)
class SumpPicture:
    """A sump cut open, to scale in height, with the marks to paint on it."""

    marks: tuple[SumpMark, ...]
    usual_top: float
    usual_tall: float
    off_top: float
    off_tall: float
    floor: float
    rim: float
    width: float
    height: float


_SUMP_WIDE, _SUMP_TALL, _SUMP_EDGE, _WORD_STEP = 420.0, 230.0, 16.0, 15.0


def draw_sump(vessel: Vessel, sump: SumpClaims, units: System) -> SumpPicture:
    """A sump with its marks.

    Parameters
    ----------
    vessel : Vessel
        The sump
    sump : SumpClaims
        What it must hold
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    SumpPicture
        What to draw
    """
    tall = vessel.shape.height

    def y(height: float) -> float:
        share = min(max(height, 0.0), tall) / tall
        return round(_SUMP_TALL - _SUMP_EDGE - share * (_SUMP_TALL - 2.0 * _SUMP_EDGE), 1)

    rows = [
        ("highest", sump.most, "limit"), ("after a power cut", sump.power_off, "off"),
        ("usual high", sump.normal_high, "usual"), ("usual low", sump.normal_low, "usual"),
        ("lowest safe", sump.lowest_safe, "limit"),
    ]  # fmt: skip
    if sump.startup_low < sump.normal_low - 0.005:
        rows.append(("first start", sump.startup_low, "off"))
    marks, last = [], -100.0
    for name, height, look in sorted(rows, key=lambda r: -r[1]):
        last = max(y(height) + 4.0, last + _WORD_STEP)
        marks.append(SumpMark(y(height), last, f"{name} {show(height, 'length', units)}", look))
    return SumpPicture(
        tuple(marks), y(sump.normal_high), round(y(sump.normal_low) - y(sump.normal_high), 1),
        y(sump.power_off), round(y(0.0) - y(sump.power_off), 1), y(0.0), y(tall),
        _SUMP_WIDE, _SUMP_TALL,
    )  # fmt: skip
