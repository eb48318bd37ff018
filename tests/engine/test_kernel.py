"""The simulation's compiled core, part by part: tables, elimination, events within a step."""

from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from bathys.network.gravity_laws import level_at
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan import load_plan, plan_from_data
from bathys.simulation import simulate, simulator
from bathys.simulation.elimination import factor, solve, structure_of
from bathys.simulation.line_tables import flow_between, make_cell
from bathys.simulation.system import compile_system
from tests.plan_files import lists_of

FOLDER = Path(__file__).resolve().parents[2] / "examples"
EXAMPLES = sorted(FOLDER.glob("**/*.json"))


@cache
def _compiled(path: Path) -> Any:
    plan = load_plan(path.read_bytes())
    return compile_system(layout_of(plan, water_at(plan.site.water_temperature))).compiled()


def _flow(compiled: Any, i: int, up: float, down: float) -> tuple[float, float, float]:
    """Flow, slope and feel of the level downstream, the cells made on the way."""
    while True:
        q, slope, moves, cell = flow_between(i, up, down, 1e-4, compiled.lines)
        if cell < 0:
            return q, slope, moves
        make_cell(i, cell, compiled.lines, compiled.laws)


@pytest.mark.uncompiled
@given(st.data())
@settings(deadline=None, max_examples=400)
def test_a_line_read_off_its_table_carries_what_its_law_says(data: st.DataObject) -> None:
    """The level that the flow found needs, by the law itself, is the level it was found for: to
    0.1 mm, any line of any example between any two levels up to 1.2 m over its mouth."""
    compiled = _compiled(data.draw(st.sampled_from(EXAMPLES)))
    lines = compiled.lines.lines
    i = data.draw(st.integers(0, len(lines) - 1))
    dry = float(lines[i]["dry"])
    up = dry + data.draw(st.floats(1e-4, 1.2))
    down = data.draw(st.one_of(st.just(-np.inf), st.floats(dry - 0.5, up)))
    q, slope, _ = _flow(compiled, i, up, down)
    if q == 0.0:
        assert down >= up - 1e-6
        return
    assume(q < 0.499)  # half a cubic metre a second is the most of any line
    assert q < lines[i]["top"]
    # A law may jump by as little as its outlet drowns; the flow then stands on the edge of it.
    needs = [level_at(q * by, down, i, *compiled.laws) for by in (1.0 - 1e-3, 1.0, 1.0 + 1e-3)]
    assert needs[0] - 1e-4 <= up <= needs[2] + 1e-4
    assert abs(needs[1] - up) < 1e-4 or needs[2] - needs[0] > 1e-4
    assert slope > 0.0


@pytest.mark.uncompiled
@given(st.integers(2, 30), st.integers(0, 10_000))
@settings(deadline=None, max_examples=100)
def test_elimination_agrees_with_numpy(count: int, seed: int) -> None:
    """(I - h J) x = b of random networks whose columns keep their water, against LAPACK."""
    random = np.random.default_rng(seed)
    pairs = [tuple(random.integers(0, count, 2).tolist()) for _ in range(2 * count)]
    links = [(a, b) for a, b in pairs if a != b]
    jacobian = np.zeros((count, count))
    for a, b in links:
        rate = 10.0 ** random.uniform(-4.0, 2.0)
        jacobian[a, a] -= rate
        jacobian[b, a] += rate
    order, near, counts = structure_of(count, links)
    matrix, right = np.zeros((count, count)), random.normal(size=count)
    wanted = np.linalg.solve(np.eye(count) - 3.0 * jacobian, right)
    factor(jacobian, 3.0, matrix, order, near, counts)
    solve(matrix, right, order, near, counts)
    assert right == pytest.approx(wanted, rel=1e-9, abs=1e-12)
    assert sorted(order.tolist()) == list(range(count))


def test_when_a_gurgling_siphon_breaks_hangs_on_no_step(monkeypatch: pytest.MonkeyPatch) -> None:
    """Bell of the linked beds without its air tube: it gurgles for some 26 s each time before so
    little comes that it breaks. Steps a third as long move no start and no break by 0.05 s."""
    data = lists_of(next(p for p in EXAMPLES if p.stem == "linked-beds"))
    data["siphons"][0]["air_tubes"] = []
    plan = plan_from_data(data)
    coarse = simulate(plan, 2.0)
    monkeypatch.setattr(simulator, "_TOLERANCE", 0.1 * simulator._TOLERANCE)
    monkeypatch.setattr(simulator, "_LEAST_SHARE", 0.1 * simulator._LEAST_SHARE)
    fine = simulate(plan, 2.0)
    assert fine.steps > 2 * coarse.steps
    for kind in ("starts", "breaks"):
        one, two = coarse.times_of(kind, "X1"), fine.times_of(kind, "X1")
        assert len(one) == len(two) >= 9
        assert np.abs(np.diff(one) - np.diff(two)).max() < 0.05


def test_a_run_gone_on_with_is_that_run_in_one() -> None:
    """Six hours and then six more, against twelve: the same events to 0.1 s, samples on the same
    clock, the same water."""
    plan = load_plan(next(p for p in EXAMPLES if p.stem == "split-flow").read_bytes())
    run = simulator.Simulation(plan)
    first = run.follow(6.0)
    both, whole = run.follow(12.0), simulate(plan, 12.0)
    assert first.times[-1] == 6.0 * 3600.0
    assert both.times.tolist() == whole.times.tolist()
    assert [(e.kind, e.place) for e in both.events] == [(e.kind, e.place) for e in whole.events]
    times = np.array([[e.time for e in r.events] for r in (both, whole)])
    assert np.abs(times[0] - times[1]).max() < 0.1
    assert np.abs(both.levels - whole.levels).max() < 2e-3
    assert first.running["P1"] == 6.0 * 3600.0


@pytest.mark.uncompiled
@given(st.data())
@settings(deadline=None, max_examples=200)
def test_the_slope_of_a_line_is_that_of_its_flow(data: st.DataObject) -> None:
    """By the level upstream and by that downstream, against differences of the flow itself: 3 %,
    where the law has no kink within the step."""
    compiled = _compiled(data.draw(st.sampled_from(EXAMPLES)))
    lines = compiled.lines.lines
    i = data.draw(st.integers(0, len(lines) - 1))
    dry = float(lines[i]["dry"])
    up = dry + data.draw(st.floats(0.02, 0.8))
    down = data.draw(st.floats(dry - 0.3, up - 0.01))
    step = 2e-4
    flows = [
        _flow(compiled, i, u, d)
        for u, d in (
            (up, down),
            (up - step, down),
            (up + step, down),
            (up, down - step),
            (up, down + step),
        )
    ]
    (q, slope, moves), below, above, lower, higher = flows
    assume(0.0 < q < 0.499)
    assume(slope > (up - max(dry, down)) / (2.4 * q))  # else it is held up for the step's sake
    left, right = (q - below[0]) / step, (above[0] - q) / step
    assume(abs(left - right) < 0.02 * max(left, right) and right > 0.0)
    assert 1.0 / slope == pytest.approx(0.5 * (left + right), rel=0.03)
    one, two = (lower[0] - q) / step, (q - higher[0]) / step
    if abs(one - two) < 0.02 * max(abs(one), abs(two), 1e-6):
        assert moves / slope == pytest.approx(0.5 * (one + two), rel=0.03, abs=0.02 / slope)


@pytest.mark.parametrize(
    ("name", "runs"),
    [
        ("faults/drowned-return", True),
        ("faults/drowned-return", False),
        ("stacked-pair", True),
        ("two-pump-timed", True),
    ],
)
def test_a_line_alone_is_tabled_once_for_all_levels(name: str, runs: bool) -> None:
    """What its table gives at any two levels is what its balance gives there: to 1 % of its flow
    with the pump on, also with its end in the air and deep under water; and back through the
    stopped pump."""
    plan = load_plan((FOLDER / f"{name}.json").read_bytes())
    system = compile_system(layout_of(plan, water_at(plan.site.water_temperature)))
    pumps, place = system.pumps, {n: k for k, n in enumerate(system.nodes)}
    on = frozenset(p.id for p in plan.pumps) if runs else frozenset()
    rest = {v.id: v.floor_height + 0.5 * v.shape.height for v in plan.vessels}
    levels = {n: rest.get(n, 0.0) for n in system.nodes}
    (table, _), row, tried = pumps.arrays(on, levels, place), 0, 0
    for number, group in enumerate(pumps.groups):
        if not pumps.is_alone(group):
            row += len(group.returns)
            continue
        end, source = group.returns[0], plan.vessel(group.source)
        target = plan.vessel(end.vessel)
        most = 0.0
        for share in (0.3, 0.55, 0.8):
            for over in (-0.05, 0.011, 0.06, 0.15):
                high = min(end.mouth + over, target.floor_height + target.shape.height)
                low = source.floor_height + share * source.shape.height
                here = {**levels, group.source: low, end.vessel: high}
                network = pumps._network_of(number, on, here)
                wanted = pumps._solver.solve(network).flows[end.run]
                at = low - (max(high, end.mouth) - table.ends[row]["told"])
                got = float(np.interp(at, table.grid[row], table.flows[row]))
                most = max(most, abs(wanted))
                if high > end.mouth + 0.005 or wanted > 0.0:  # in the air nothing flows back
                    assert got == pytest.approx(wanted, abs=max(0.01 * most, 2e-7))
                    tried += 1
        row += 1
    assert tried >= 6
