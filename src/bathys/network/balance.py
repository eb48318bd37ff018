"""The steady balance of a whole plan: every flow and every level that holds.

Pumped runs are solved at given levels, gravity lines at given inflows, and the vessel that takes
up the difference at the volume that is left; round and round until nothing moves.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from bathys.network.balanced import Balance
from bathys.network.closing_steps import greatest_move, narrowed, sharpness, step_towards
from bathys.network.compiled import Compiled, compiled
from bathys.network.drains import BACK, BRIM
from bathys.network.gravity_solver import GravitySolution, Inflow, solve_gravity
from bathys.network.layout import FILM
from bathys.network.pumped_network import Network, NotSolved, Solution
from bathys.network.ways_out import FOOT
from bathys.physics.water import Water
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump

__all__ = ["balance"]

_HALVE_FROM, _SPELL = 45, 15  # rounds after which secant and halving steps take turns, by spells
_AFRESH_FROM = 120
_GENTLE_FROM, _GENTLE = 160, 0.4
_ANYWHERE = (-math.inf, math.inf)
_MOST_ROUNDS = 320
_LEVEL_TOLERANCE = 3e-5  # [m]; that little of level moves no flow that matters
_SHARE_TOLERANCE = 1e-6
_OVERRUN = 1e-7  # a float pump that gets so much more than it lifts never stops [m³/s]
_PATIENCE, _PATIENT_TOLERANCE = 40, 1e-4  # drowned returns that push each other to and fro [m]

Floats = NDArray[np.float64]


@dataclass
class _State:
    levels: dict[str, float]
    solution: Solution | None = None
    settled: GravitySolution | None = None
    shares: dict[str, float] = field(default_factory=dict)


class _Balancing:
    """One plan being balanced."""

    def __init__(self, base: Compiled) -> None:
        self.base, self.plan = base, base.plan
        self.fixed = dict(base.fixed)
        self.afresh = False
        """Whether drains are settled from a first guess and not from the round before: of two ways
        to stand, the one and the other else take turns."""

    def first(self) -> _State:
        nodes = {v.id: self.base.rest[v.id] for v in self.plan.vessels}
        for line in self.base.lines:
            for node in (line.start, line.end):
                if node is not None and node not in nodes:
                    nodes[node] = line.crest if line.start == node else line.outlet
        return _State({**nodes, **self.fixed})

    def _step(self, state: _State, mean: bool) -> _State:
        network = self.base.pressure.at(state.levels)
        start = state.solution.flows if state.solution else None
        solution = self.base.solver.solve(network, start)
        shares = self._shares(state, solution, mean)
        inflows = self._inflows_at(network, solution, shares, state.levels)
        first = state.levels
        warm = state.settled.flows if state.settled and not self.afresh else None
        settled = solve_gravity(self.base.lines, inflows, self.fixed, first, self.base.bank, warm)
        return _State({**settled.levels, **self.fixed}, solution, settled, shares)

    def _shares(self, state: _State, solution: Solution, mean: bool) -> dict[str, float]:
        shares = {}
        for pump in self.plan.pumps:
            shares[pump.id] = 1.0
            flow = solution.flows[pump.id]
            if pump.id in self.base.idle:
                shares[pump.id] = 0.0
            elif pump.band is not None and state.settled is not None:
                # Till more is known it runs: what it gets may be what it pumped itself.
                arriving = self._arriving(pump, state, solution)
                shares[pump.id] = min(max(arriving / flow, 0.0), 1.0) if flow > 0.0 else 1.0
            elif mean and pump.clock is not None:
                shares[pump.id] = pump.clock.share
        return shares

    def _arriving(self, pump: Pump, state: _State, solution: Solution) -> float:
        """What comes to a pump's vessel, by drains and by other pumps, less what else leaves it
        [m³/s]; what the pump brings back to its own vessel is no reason for it to run."""
        assert state.settled is not None  # noqa: S101 - asked from the second round on
        vessel = pump.stands_in
        comes = sum(q for k, q in state.settled.flows.items() if self._ends_in(k, vessel))
        for run, end, sign in self.base.ends:
            feeder = self.base.feeds.get(run)
            if end == vessel and feeder != pump.id:
                comes += sign * solution.flows[run] * state.shares.get(feeder or "", 1.0)
        for other in self.plan.pumps:
            if other.stands_in == vessel and other.id != pump.id:
                comes -= max(solution.flows[other.id], 0.0) * state.shares.get(other.id, 1.0)
        return comes

    def _ends_in(self, line: str, vessel: str) -> bool:
        return any(k.id == line and k.end == vessel for k in self.base.lines)

    def _inflows(self, solution: Solution, shares: Mapping[str, float]) -> dict[str, float]:
        inflows: dict[str, float] = {}
        for pump in self.plan.pumps:
            flow = solution.flows[pump.id] * shares[pump.id]
            inflows[pump.stands_in] = inflows.get(pump.stands_in, 0.0) - flow
        for run, vessel, sign in self.base.ends:
            pump_id = self.base.feeds.get(run)
            flow = solution.flows[run] * (shares[pump_id] if pump_id else 1.0)
            inflows[vessel] = inflows.get(vessel, 0.0) + sign * flow
        return inflows

    def _inflows_at(
        self,
        network: Network,
        solution: Solution,
        shares: Mapping[str, float],
        levels: Mapping[str, float],
    ) -> dict[str, Inflow]:
        """Inflows with how they answer to the levels of vessels whose returns end under water."""
        drowned = [(r, v, h) for r, v, h in self.base.outlets if levels[v] > h + FILM]
        answers = self.base.solver.outlet_rates(network, solution, [r for r, _, _ in drowned])
        into = {run: vessel for run, vessel, _ in drowned}
        rates: dict[str, float] = {}
        felt: dict[str, dict[str, float]] = {}
        for (run, other), rate in answers.items():
            one, two = into[run], into[other]
            if one == two:
                rates[one] = rates.get(one, 0.0) + rate
            else:
                own = felt.setdefault(one, {})
                own[two] = own.get(two, 0.0) + rate
        floors = self.base.floors
        least = {p.stands_in: floors[p.stands_in] + p.inlet_height for p in self.plan.pumps}
        for vessel, height in self.base.mouths.items():
            least[vessel] = min(height, least.get(vessel, height))
        for _, vessel, height in drowned:
            least[vessel] = min(height, least.get(vessel, height))
        return {
            v: Inflow(q, rates.get(v, 0.0), levels[v], least.get(v, -np.inf), felt.get(v, {}))
            for v, q in self._inflows(solution, shares).items()
        }

    def closed_levels(self, state: _State) -> dict[str, tuple[float, float, float]]:
        """Level of each closing vessel [m], with its siphon beds empty to full."""
        found = {}
        for closer in self.base.beside:
            total = self.base.totals[closer]
            away = self.base.pipes.get(closer, 0.0) + self.base.in_drains.volume(
                closer, state.settled.flows if state.settled else {}
            )
            low = high = total - away
            for vessel in self.base.beside[closer]:
                held = self.base.volume(vessel, state.levels[vessel])
                if vessel in self.base.siphons:
                    empty, full = self.base.siphons[vessel]
                    low, high = low - max(full, held), high - min(empty, held)
                else:
                    low, high = low - held, high - held
            floor, storage = self.base.floors[closer], self.base.storages[closer]
            middle = storage.level_at(0.5 * (low + high))
            # Twin sumps give and take together.
            shared = self.base.shared[closer]
            both, half = shared.volume_at(middle), 0.5 * (high - low)
            marks = (shared.level_at(both - half), middle, shared.level_at(both + half))
            found[closer] = (floor + marks[0], floor + marks[1], floor + marks[2])
        return found

    def run(self, mean: bool = False) -> Balance:
        state, swings = self.first(), {}
        last: dict[str, tuple[float, float]] = {}
        shares: dict[str, float] = {}
        eased: dict[str, tuple[float, float]] = {}
        ends: dict[str, tuple[float, float]] = {}
        sharp: dict[str, float] = {}
        before: Mapping[str, float] = state.levels
        for turn in range(_MOST_ROUNDS):
            before = state.levels
            self.afresh = turn >= _AFRESH_FROM and turn // _SPELL % 2 == 0
            state = self._step(state, mean)
            swings = self.closed_levels(state)
            off = {v: middle - self.fixed[v] for v, (_, middle, _) in swings.items()}
            # Only levels that the pumps feel or that were given go into a round; the others are
            # its answer, and hold once these do.
            felt = self.base.pressure.moved(before, state.levels)
            moved = max(felt, *map(abs, off.values()), 0.0)
            shared = greatest_move(shares, state.shares)
            enough = _LEVEL_TOLERANCE if turn < _PATIENCE else _PATIENT_TOLERANCE
            if turn and moved < enough and shared < _SHARE_TOLERANCE:
                return self._answer(state, swings)
            shares = state.shares
            self._ease(before, state.levels, eased)
            if turn >= _GENTLE_FROM:
                # What swings to and fro for so long answers too sharply for whole steps.
                part = _GENTLE ** (1 + (turn - _GENTLE_FROM) // _SPELL % 4)
                for node, level in state.levels.items():
                    state.levels[node] = before[node] + part * (level - before[node])
            for vessel, by in off.items():
                at = self.fixed[vessel]
                between = narrowed(ends.get(vessel, _ANYWHERE), at, by)
                step = step_towards(at, by, last.get(vessel))
                if turn >= _GENTLE_FROM:
                    sharp[vessel] = sharpness(at, by, last.get(vessel), sharp.get(vessel, 1.0))
                    step = math.copysign(min(abs(step), abs(by) / sharp[vessel]), step)
                wide = between[1] - between[0]
                if wide < _LEVEL_TOLERANCE:
                    between = _ANYWHERE  # the right level was moved out of it by the others
                elif turn >= _HALVE_FROM and turn // _SPELL % 2 and math.isfinite(wide):
                    step = 0.5 * (between[0] + between[1]) - at
                self.fixed[vessel], ends[vessel], last[vessel] = at + step, between, (at, by)
            state.levels.update(self.fixed)
        worst = max(state.levels, key=lambda n: abs(state.levels[n] - before.get(n, math.inf)))
        part = self.plan.part(part_id(worst))
        raise NotSolved(
            f"the levels still moved after {_MOST_ROUNDS} rounds of the balance, most of all in "
            f"{part.name if part is not None else worst}"
        )

    def _ease(
        self,
        before: Mapping[str, float],
        after: dict[str, float],
        eased: dict[str, tuple[float, float]],
    ) -> None:
        """Hold back the level of a vessel with a drowned return that goes to and fro: above some
        level the return runs backwards, below it forwards, and a step goes too far each way."""
        for _, vessel, height in self.base.outlets:
            if max(before[vessel], after[vessel]) <= height:
                continue
            move = after[vessel] - before[vessel]
            last, part = eased.get(vessel, (0.0, 1.0))
            turned = last * move < 0.0 and abs(move) > _LEVEL_TOLERANCE
            part = 0.5 * part if turned else min(1.0, 1.4 * part)
            eased[vessel] = (move, part)
            after[vessel] = before[vessel] + part * move

    def _answer(self, state: _State, swings: dict[str, tuple[float, float, float]]) -> Balance:
        assert state.solution is not None and state.settled is not None  # noqa: S101 - it ran
        flows = {r.id: 0.0 for r in self.plan.runs}
        flows.update({r: q for r, q in state.solution.flows.items() if r in flows})
        for line, flow in state.settled.flows.items():
            if line in flows:
                flows[line] += flow
            elif line.removesuffix(BACK) in flows:
                flows[line.removesuffix(BACK)] -= flow
        levels = {n: z for n, z in state.levels.items() if not n.endswith(FOOT)}
        spills = {
            k.removesuffix(BRIM): q
            for k, q in state.settled.flows.items()
            if k.endswith(BRIM) and q > 1e-9
        }
        return Balance(
            self.base.layout,
            flows,
            {p.id: state.solution.flows[p.id] for p in self.plan.pumps},
            state.shares,
            state.solution.heads,
            levels,
            self.base.at_rest,
            self._all_swings(swings, levels),
            spills,
            self._gains(state, flows),
            self.base.closing,
            state.solution.blocked,
            sum(self.base.pipes.values()),
            self.base.feeds,
        )

    def _all_swings(
        self, swings: dict[str, tuple[float, float, float]], levels: Mapping[str, float]
    ) -> dict[str, tuple[float, float]]:
        """Lowest and highest of the closing vessels and of those that swing with them."""
        found = {}
        for closer, (low, middle, high) in swings.items():
            found[closer] = (low, high)
            for twin in self.base.twins[closer]:
                least, level = self.base.floors[twin], levels[twin]
                found[twin] = (max(level + low - middle, least), level + high - middle)
        return found

    def _gains(self, state: _State, flows: Mapping[str, float]) -> dict[str, float]:
        """What comes in less what goes out of vessels whose level was given."""
        assert state.solution is not None  # noqa: S101 - it ran
        net = self._inflows(state.solution, state.shares)
        gains = {}
        for vessel in self.fixed:
            drained = sum(
                flows[id_] * self._sign(self.plan.part(id_), vessel)
                for id_ in self.base.layout.gravity
            )
            gains[vessel] = net.get(vessel, 0.0) + drained
        return gains

    def _sign(self, run: Run, vessel: str) -> float:
        into = run.target == vessel
        return float(into) - float(self.plan.owner_of(run.start) == vessel)


def balance(plan: Plan, water: Water, mean: bool = False) -> Balance:
    """Balance a plan.

    Parameters
    ----------
    plan : Plan
        The plan
    water : Water
        Its water
    mean : bool
        Whether pumps on a timer count with the share of the time they run; else as running

    Returns
    -------
    Balance
        Flows and levels

    Raises
    ------
    NotSolved
        If it does not settle
    """
    found = _Balancing(compiled(plan, water)).run(mean)
    overrun = _overrun(found)
    if not overrun:
        return found
    # A float pump that gets more than it lifts never stops. What is too much then stands in its
    # own vessel until no more comes than it lifts, as with a pump that nothing switches.
    pumps = [p.model_copy(update={"switch": None}) if p.id in overrun else p for p in plan.pumps]
    unswitched = plan.model_copy(update={"pumps": pumps})
    try:
        going = _Balancing(compiled(unswitched, water)).run(mean)
    except NotSolved:
        return found
    return replace(going, layout=found.layout)


def _overrun(now: Balance) -> set[str]:
    """Pumps on a float that run without a stop and still get more than they lift, out of a vessel
    that takes part in its loop's fill."""
    return {
        p.id
        for p in now.plan.pumps
        if p.band is not None
        and now.shares[p.id] >= 1.0
        and now.gains.get(p.stands_in, 0.0) > _OVERRUN
        and now.plan.vessel(p.stands_in).water_depth is not None
    }
