"""Water is counted: what each vessel gets less what it gives is what it holds more, at any time."""

import json
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.simulation import PowerCut, SimulationResult, simulate
from bathys.simulation.doings import Doings
from bathys.simulation.system import compile_system
from tests.engine.one_vessel import one_vessel
from tests.engine.random_plans import random_plan

EXAMPLES = sorted(Path("examples").glob("*.json")) + sorted(Path("examples/faults").glob("*.json"))
CUBIC_CENTIMETRE = 1e-6
G = 9.80665


def _left_over(found: SimulationResult) -> dict[str, float]:
    """By vessel, what came in less what went out less what it holds more since rest [m³]."""
    plan = found.plan
    system = compile_system(layout_of(plan, water_at(plan.site.water_temperature)))
    at_rest = dict(zip(system.nodes, system.rest_volumes().tolist(), strict=False))
    slotted = {o.id for o in plan.outlets if o.kind == "standpipe" and o.holes}
    by_hand = {x for t in plan.transfers for x in (t.source, t.target)}
    by_hand |= {t.stands_in for t in plan.top_ups} | {p.stands_in for p in plan.pumps}
    off = {}
    for vessel in plan.vessels:
        if vessel.id in by_hand:
            continue  # what pumps take is held against the whole in another test
        more = found.end.volumes[vessel.id] - at_rest[vessel.id]
        net = -found.spills.get(vessel.id, 0.0) - more
        for run in plan.runs:
            if run.end.partition(".")[0] == vessel.id:
                net += found.carried.get(run.id, 0.0)
            source = run.start.partition(".")[0]
            if plan.owner_of(run.start) == vessel.id:
                net -= found.carried.get(source if source in slotted else run.id, 0.0)
        off[vessel.id] = net
    return off


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_every_vessel_of_every_example_keeps_its_books(path: Path) -> None:
    plan = load_plan(path.read_bytes())
    for seconds in (7.0, 60.0, 600.0, 3600.0):
        found = simulate(plan, seconds / 3600.0)
        off = _left_over(found)
        assert max(map(abs, off.values()), default=0.0) < CUBIC_CENTIMETRE, (seconds, off)


@pytest.mark.parametrize("seed", range(12))
def test_every_vessel_of_random_layouts_keeps_its_books(seed: int) -> None:
    found = simulate(random_plan(seed), 0.25)
    off = _left_over(found)
    assert max(map(abs, off.values())) < CUBIC_CENTIMETRE, off


def _critical_flow(over: float, bore: float) -> float:
    """Flow into a pipe's mouth at a level over its invert: Q² T = g A³, E = y + A / 2T (FHWA HDS-5
    2012), solved here by its own root search."""

    def energy(y: float) -> tuple[float, float, float]:
        angle = 2.0 * math.acos(1.0 - 2.0 * y / bore)
        area, top = bore**2 / 8.0 * (angle - math.sin(angle)), bore * math.sin(0.5 * angle)
        return y + area / (2.0 * top), area, top

    if over <= 1e-9:
        return 0.0
    y = brentq(lambda y: energy(y)[0] - over, 1e-9, 0.95 * bore)
    _, area, top = energy(y)
    return math.sqrt(G * area**3 / top)


def test_a_full_settler_gives_back_slowly_as_one_integrated_apart() -> None:
    plan = plan_from_data(one_vessel())
    inflow = simulate(plan, 1.0).carried["R1"] / 3600.0
    area = math.pi / 4.0 * 0.58**2
    apart = solve_ivp(
        lambda _, y: [(inflow - _critical_flow(y[0], 0.0525)) / area, _critical_flow(y[0], 0.0525)],
        (0.0, 300.0),
        [0.0, 0.0],
        "LSODA",
        rtol=1e-9,
        atol=1e-12,
        dense_output=True,
    )
    for seconds in (20.0, 60.0, 120.0, 300.0):
        given = simulate(plan, seconds / 3600.0).carried["R2"]
        assert given == pytest.approx(float(apart.sol(seconds)[1]), rel=0.01, abs=2e-6), seconds


def _drowned(*, branches: int, **run: Any) -> dict[str, Any]:
    plan = json.loads(json.dumps(one_vessel()))
    plan["vessels"][1]["shape"] = {"kind": "box", "length": 1.0, "width": 1.0, "height": 0.9}
    plan["vessels"][1]["ports"][0]["height"] = 0.05
    plan["vessels"][0]["floor_height"] = -0.4
    plan["runs"][0] |= run
    if branches == 2:
        plan["vessels"][1]["ports"].append({"name": "low", "height": 0.1})
        plan["junctions"] = [{"id": "J1", "name": "Tee", "height": 0.3}]
        plan["runs"][0]["to"] = "J1"
        plan["runs"] += [
            {
                "id": "R3",
                "name": "One",
                "from": "J1",
                "to": "C1.inlet",
                "level_length": 0.5,
                "bore": {"kind": "inside", "diameter": 0.03},
            },
            {
                "id": "R4",
                "name": "Two",
                "from": "J1",
                "to": "C1.low",
                "level_length": 1.5,
                "bore": {"kind": "inside", "diameter": 0.02},
            },
        ]
    return plan


@pytest.mark.parametrize("branches", [1, 2])
def test_what_siphons_back_ends_when_both_waters_stand_level(branches: int) -> None:
    """Communicating vessels: with the line full and open at both ends, the levels meet."""
    plan = plan_from_data(_drowned(branches=branches))
    found = simulate(plan, 14.0, Doings(PowerCut(3600.0, 1e6)))
    tank, sump = found.level("C1")[-1], found.level("S1")[-1]
    assert found.level("C1")[300] > 0.65
    assert tank == pytest.approx(sump, abs=1e-3)


@pytest.mark.parametrize(
    "way", [{"air_hole": True}, {"fittings": [{"kind": "swing_check", "count": 1}]}]
)
def test_an_air_hole_or_a_check_valve_ends_it(way: dict[str, Any]) -> None:
    found = simulate(
        plan_from_data(_drowned(branches=1, **way)), 3.0, Doings(PowerCut(3600.0, 1e6))
    )
    assert found.level("C1")[-1] == pytest.approx(0.7 - 0.5 * 0.0525, abs=0.01)


def test_a_check_valve_in_the_trunk_holds_the_water_of_its_branches(demo_plan: Plan) -> None:
    data = _drowned(branches=2, fittings=[{"kind": "swing_check", "count": 1}])
    held = layout_of(plan_from_data(data), water_at(20.0)).falling_back
    data["runs"][0]["fittings"] = []
    open_ = layout_of(plan_from_data(data), water_at(20.0)).falling_back
    assert (held, open_) == (frozenset(), frozenset({"R1", "R3", "R4"}))
    data["runs"][2]["fittings"] = [{"kind": "swing_check", "count": 1}]
    assert layout_of(plan_from_data(data), water_at(20.0)).falling_back == {"R1", "R4"}


def test_a_vessel_tied_into_a_pumped_line_gives_and_takes_what_is_counted() -> None:
    """A low port of a second tank joined to the riser: what the tee sends there arrives."""
    plan = one_vessel()
    plan["vessels"].append(
        {
            "id": "T2",
            "name": "Side",
            "job": "raft",
            "floor_height": 0.0,
            "shape": {"kind": "box", "length": 2.0, "width": 1.0, "height": 0.9},
            "ports": [{"name": "low", "height": 0.1}],
        }
    )
    plan["junctions"] = [{"id": "J1", "name": "Tee", "height": 0.1}]
    plan["runs"][0]["to"] = "J1"
    plan["runs"] += [
        {
            "id": "R3",
            "name": "On",
            "from": "J1",
            "to": "C1.inlet",
            "level_length": 0.5,
            "bore": {"kind": "inside", "diameter": 0.03},
        },
        {
            "id": "R4",
            "name": "Tie",
            "from": "T2.low",
            "to": "J1",
            "level_length": 0.5,
            "bore": {"kind": "inside", "diameter": 0.03},
        },
    ]
    found = simulate(plan_from_data(plan), 0.5)
    assert found.end.volumes["T2"] > 0.05
    assert -found.carried["R4"] == pytest.approx(found.end.volumes["T2"], abs=1e-6)
    whole = sum(found.end.volumes.values()) + sum(found.end.piped.values()) + found.spilled
    assert whole == pytest.approx(4.5 + math.pi / 4 * 0.58**2 * (0.7 - 0.5 * 0.0525), rel=1e-9)
    assert np.all(np.isfinite(found.levels))
