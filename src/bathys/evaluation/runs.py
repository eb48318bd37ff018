"""What each run does: flow, velocity, losses; and of gravity lines how full and what to spare."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from bathys.network import Balance, GravityLineArrays, Piece, gravity_lines
from bathys.network.rest import crest_of
from bathys.network.runs import fouled_bore, run_length, start_height
from bathys.physics import area_of
from bathys.physics.drop import DropRegime, drop_froude, drop_regime
from bathys.physics.friction import LAMINAR_LIMIT, TURBULENT_LIMIT
from bathys.physics.part_full import manning_flow, normal_depth, section
from bathys.plan.model import Plan
from bathys.plan.pipes import Junction, Run
from bathys.plan.places import part_id
from bathys.plan.way_out import WayOut

__all__ = ["DRAIN_SLOPE", "GravityResult", "Regime", "RunResult", "regime_of", "run_results"]

Regime = Literal["still", "laminar", "between", "turbulent"]

DRAIN_SLOPE = 0.25 / 12.0
"""Fall of a drain: a quarter inch in a foot (common practice and plumbing codes)."""

_MOST_FLOW = 0.2  # [m³/s]; no line of these bores passes more
_HALVINGS = 28


@dataclass(frozen=True, slots=True)
class GravityResult:
    """What is told of a gravity line besides.

    Attributes
    ----------
    crest : float
        Level at which it begins to carry, over the datum, [m]
    head_over : float
        Level upstream over that, [m]
    slope : float
        Fall of its level part over its length, [-]
    fill : float
        Depth over bore at that slope, 1 where it runs full or its end stands under water, [-]
    half_flow : float
        Flow that would half fill it, [m³/s]
    capacity : float
        Flow at which the level upstream reaches the freeboard, [m³/s]
    is_drowned : bool
        Whether it ends under water
    is_level : bool
        Whether it lies level or nearly so between two waters: a link, no drain
    drop : str or None
        What the water does in its upright part, if it has one
    froude : float
        Of that drop, [-]
    """

    crest: float
    head_over: float
    slope: float
    fill: float
    half_flow: float
    capacity: float
    is_drowned: bool
    is_level: bool
    drop: DropRegime | None
    froude: float


@dataclass(frozen=True, slots=True)
class RunResult:
    """What a run does.

    Attributes
    ----------
    run : Run
        The run
    flow : float
        Flow while its pump runs, signed along the run, [m³/s]
    mean_flow : float
        Flow with the share of the time its pump runs, [m³/s]
    bore : float
        Inside diameter the film leaves, [m]
    length : float
        Length of pipe, [m]
    wetted : float
        Area that the water takes: the bore's, or part of it in a drain that runs part full, [m²]
    velocity : float
        Of the water in it, [m/s]
    reynolds : float
        On the hydraulic diameter, [-]
    regime : str
        What the Reynolds number means
    losses : tuple
        Each piece with the head it loses, [m]
    start_head, end_head : float
        Head where it begins and ends over the datum, [m]
    gravity : GravityResult or None
        For gravity lines
    """

    run: Run
    flow: float
    mean_flow: float
    bore: float
    length: float
    wetted: float
    velocity: float
    reynolds: float
    regime: Regime
    losses: tuple[tuple[Piece, float], ...]
    start_head: float
    end_head: float
    gravity: GravityResult | None = None

    @property
    def loss(self) -> float:
        """Head lost along it [m]."""
        return sum(head for _, head in self.losses)

    @property
    def valve_loss(self) -> float:
        """Head its valve takes [m]."""
        return sum(head for piece, head in self.losses if piece.kind == "valve")

    def as_pipe(self, piece: Piece, head: float) -> float | None:
        """Length of the run's own pipe that costs as much as a piece of it does [m]; none for the
        pipe itself, or where the pipe costs nothing."""
        pipe = sum(h for p, h in self.losses if p.kind == "friction")
        if piece.kind == "friction" or pipe == 0.0:
            return None
        return head / pipe * self.length

    def share(self, kind: str) -> float:
        """Share of its loss that pieces of one kind take [-]."""
        total = self.loss
        if total == 0.0:
            return 0.0
        return sum(h for p, h in self.losses if p.kind == kind) / total


def regime_of(reynolds: float) -> Regime:
    """What a Reynolds number means.

    Parameters
    ----------
    reynolds : float
        Reynolds number, [-]

    Returns
    -------
    Regime
        Laminar, in between, or turbulent
    """
    if reynolds < 1.0:
        return "still"
    if reynolds <= LAMINAR_LIMIT:
        return "laminar"
    return "turbulent" if reynolds >= TURBULENT_LIMIT else "between"


def run_results(now: Balance, mean: Balance) -> dict[str, RunResult]:
    """Results of every run.

    Parameters
    ----------
    now : Balance
        With every pump running
    mean : Balance
        With each pump counted for the time it runs

    Returns
    -------
    dict of RunResult
        By run id
    """
    capacities = _capacities(now)
    found = {}
    for run in now.plan.runs:
        flow = now.flows[run.id]
        line, bore = now.layout.lines[run.id], fouled_bore(run)
        start, end = _heads(now, run)
        losses = tuple(line.losses_by_piece(flow))
        gravity = (
            None
            if run.id in now.layout.pressure
            else _gravity_result(now, run, capacities.get(run.id, 0.0), losses)
        )
        wetted, across = _section(gravity, bore)
        velocity = abs(flow) / wetted
        reynolds = velocity * across / now.layout.water.kinematic_viscosity
        # A pumped run carries what it carries while its pump runs, and nothing while it rests.
        pump = now.feeds.get(run.id)
        mean_flow = flow * mean.shares[pump] if pump else mean.flows[run.id]
        found[run.id] = RunResult(
            run,
            flow,
            mean_flow,
            bore,
            run_length(now.plan, run),
            wetted,
            velocity,
            reynolds,
            regime_of(reynolds),
            losses,
            start,
            end,
            gravity,
        )
    return found


def _section(gravity: GravityResult | None, bore: float) -> tuple[float, float]:
    """Area of flow [m²] and hydraulic diameter [m] of the water in a run."""
    if gravity is None or gravity.is_drowned or not 0.0 < gravity.fill < 1.0:
        return area_of(bore), bore
    shape = section(gravity.fill)
    return float(shape.area) * bore**2, 4.0 * float(shape.radius) * bore


def _heads(now: Balance, run: Run) -> tuple[float, float]:
    """Head at both ends of a run [m]: a vessel's level, a junction's head, a jet's height."""
    heads = []
    for place, height in (
        (run.start, start_height(now.plan, run)),
        (run.end, now.plan.elevation(run.end) or 0.0),
    ):
        is_pressed = now.plan.group_of(part_id(place)) in ("junctions", "pumps")
        if is_pressed and place in now.heads:
            heads.append(now.heads[place])
        else:
            node = now.plan.owner_of(place) or place
            heads.append(max(now.levels.get(node, height), height))
    if run.id not in now.layout.pressure:
        heads[0] = now.levels.get(now.plan.owner_of(run.start) or run.start, heads[0])
    return heads[0], heads[1]


def _gravity_result(
    now: Balance, run: Run, capacity: float, losses: tuple[tuple[Piece, float], ...]
) -> GravityResult:
    plan = now.plan
    crest, bore = crest_of(now.layout, run), fouled_bore(run)
    source = plan.owner_of(run.start) or run.start
    end = plan.elevation(run.end) or 0.0
    slope = _slope(plan, run)
    tail = now.levels.get(run.target, -np.inf)
    part = plan.part(run.source)
    pipe = part.drop_bore if isinstance(part, WayOut) else None
    froude = drop_froude(abs(now.flows[run.id]), pipe) if pipe else 0.0
    over = now.levels.get(source, crest) - crest
    if run.filter is not None and run.filter.STANDS == "before":
        # What a filter holds up stands before it; the mouth behind has the rest.
        over -= sum(head for piece, head in losses if piece.kind == "filter")
    both = plan.port(run.start) is not None and plan.port(run.end) is not None
    is_drowned = tail > end
    fill = 1.0 if is_drowned else normal_depth(abs(now.flows[run.id]), bore, slope)
    return GravityResult(
        crest,
        over,
        slope,
        fill,
        float(manning_flow(0.5, bore, max(slope, 1e-6))),
        max(capacity, abs(now.flows[run.id])),
        is_drowned,
        both and slope < 0.2 * DRAIN_SLOPE and is_drowned,
        drop_regime(froude) if pipe else None,
        froude,
    )


def _slope(plan: Plan, run: Run) -> float:
    """Fall of the level part of a drain over its length [-]."""
    fall = start_height(plan, run) - (plan.elevation(run.end) or 0.0)
    if run.level_length <= 0.0:
        return 1.0
    most = max(fall, 0.0) / run.level_length
    if run.slope is not None:
        return min(run.slope, most)
    part = plan.part(run.source)
    drops = isinstance(part, Junction) or (isinstance(part, WayOut) and part.drop_bore is not None)
    return min(most, DRAIN_SLOPE) if drops else min(most, 1.0)


def _capacities(now: Balance) -> dict[str, float]:
    """Flow at which each gravity line brings the level upstream to the freeboard [m³/s]."""
    rows = [k for k in gravity_lines(now.layout) if not k.backwards and k.line is not None]
    if not rows:
        return {}
    plan = now.plan
    tops = []
    for row in rows:
        vessel = plan.part(row.start)
        if vessel is not None and plan.group_of(row.start) == "vessels":
            rim = vessel.floor_height + vessel.shape.height
            # A pipe that begins within the freeboard is held against the rim.
            top = rim - vessel.freeboard
            tops.append(top if top > row.crest + 0.2 * row.bore else rim)
        else:
            tops.append(row.crest + 2.0 * row.bore)
    bank, top = GravityLineArrays(rows), np.array(tops)
    tail = np.array([now.levels.get(r.end or "", -np.inf) for r in rows])
    low, high = np.zeros(len(rows)), np.full(len(rows), _MOST_FLOW)
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        fits = bank.need(middle, tail)[0] < top
        low, high = np.where(fits, middle, low), np.where(fits, high, middle)
    return {r.id: float(q) for r, q in zip(rows, low, strict=True)}
