"""Where water stands with every pump off: none is lost, and what is joined stands level."""

import random
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.network.compiled import compiled
from bathys.network.rest import AtRest
from bathys.physics.water import water_at
from bathys.plan import BadPlan, Plan, plan_from_data
from bathys.simulation import simulate
from bathys.vessels import storage_of
from tests.engine.random_plans import random_plan
from tests.plan_files import lists_of

pytestmark = pytest.mark.uncompiled


def _rest(plan: Plan) -> AtRest:
    return compiled(plan, water_at(20.0)).at_rest


def _box(id_: str, floor: float, height: float, *ports: float, **more: Any) -> dict[str, Any]:
    return {
        "id": id_,
        "name": id_,
        "job": "sump",
        "floor_height": floor,
        "shape": {"kind": "box", "length": 1.0, "width": 1.0, "height": height},
        "freeboard": 0.0,
        "ports": [{"name": f"p{i}", "height": h} for i, h in enumerate(ports)],
        **more,
    }


def _run(id_: str, start: str, end: str) -> dict[str, Any]:
    return {
        "id": id_,
        "name": id_,
        "from": start,
        "to": end,
        "level_length": 0.5,
        "bore": {"kind": "inside", "diameter": 0.04},
    }


def _plan(vessels: list[Any], runs: list[Any]) -> Plan:
    return plan_from_data(
        {"format": "bathys-plan", "version": 1, "name": "rest", "vessels": vessels, "runs": runs}
    )


def test_what_is_poured_in_beyond_an_outlet_runs_on_and_over() -> None:
    """A tub filled 300 mm above its outlet over a can that has room for 100 L of those 320 L."""
    plan = _plan(
        [_box("T1", 1.0, 1.0, 0.5, water_depth=0.8), _box("C1", 0.0, 0.4, 0.4, water_depth=0.3)],
        [_run("R1", "T1.p0", "C1.p0")],
    )
    rest = _rest(plan)
    assert rest.levels == pytest.approx({"T1": 1.0 + 0.48, "C1": 0.4})
    assert rest.ran_on["T1"] == pytest.approx(0.32)
    assert rest.spilled["C1"] == pytest.approx(0.22)
    found = simulate(plan, 0.01)
    assert found.end.volumes == pytest.approx({"T1": 0.48, "C1": 0.4}, abs=1e-6)


@pytest.mark.parametrize("filled", [("G1",), ("G2",), ("G3",), ("G1", "G2", "G3")])
def test_joined_rafts_rest_at_one_level_whichever_is_filled(filled: tuple[str, ...]) -> None:
    depth = {id_: {"water_depth": 0.25} for id_ in filled}
    plan = _plan(
        [_box(g, 0.0, 0.4, 0.1, 0.15, **depth.get(g, {})) for g in ("G1", "G2", "G3")],
        [_run("R1", "G1.p0", "G2.p0"), _run("R2", "G2.p1", "G3.p0")],
    )
    assert _rest(plan).levels == pytest.approx({"G1": 0.25, "G2": 0.25, "G3": 0.25})


def test_two_fills_that_differ_even_out_and_keep_their_water() -> None:
    plan = _plan(
        [_box("G1", 0.0, 0.6, 0.1, water_depth=0.5), _box("G2", 0.0, 0.6, 0.1, water_depth=0.2)],
        [_run("R1", "G1.p0", "G2.p0")],
    )
    assert _rest(plan).levels == pytest.approx({"G1": 0.35, "G2": 0.35}, abs=1e-6)


def test_a_shut_valve_parts_two_waters() -> None:
    shut = _run("R1", "G1.p0", "G2.p0") | {"valve": {"kind": "ball", "angle": 90.0}}
    plan = _plan(
        [_box("G1", 0.0, 0.6, 0.1, water_depth=0.5), _box("G2", 0.0, 0.6, 0.1, water_depth=0.2)],
        [shut],
    )
    assert _rest(plan).levels == pytest.approx({"G1": 0.5, "G2": 0.2})


@pytest.mark.parametrize("height", [0.9, 1.4])
def test_a_bed_whose_tail_ends_over_its_rim_rests_empty(height: float) -> None:
    """Nothing it holds can have come out by that tail, so no water stands over its rim."""
    siphon = {
        "id": "X1",
        "name": "X1",
        "kind": "bell",
        "stands_in": "B1",
        "rim_height": 0.2,
        "standpipe_bore": {"kind": "inside", "diameter": 0.03},
        "bell_bore": {"kind": "inside", "diameter": 0.07},
        "slot_height": 0.02,
        "slot_area": 0.001,
    }
    bed = {**_box("B1", 0.5, 0.3), "job": "grow_bed"}
    tank = _box("T1", 0.5, 1.0, height, water_depth=0.8)
    plan = plan_from_data(
        {
            "format": "bathys-plan",
            "version": 1,
            "name": "rest",
            "vessels": [bed, tank],
            "siphons": [siphon],
            "runs": [_run("R1", "X1.tail", "T1.p0")],
        }
    )
    assert _rest(plan).levels == pytest.approx({"B1": 0.5, "T1": 1.3})


def _total(plan: Plan, levels: dict[str, float]) -> float:
    return sum(storage_of(plan, v).volume_at(levels[v.id] - v.floor_height) for v in plan.vessels)


@settings(max_examples=30)
@given(st.integers(0, 10_000))
def test_filling_any_layout_anyhow_loses_no_water(seed: int) -> None:
    """Every vessel of a random layout filled by hand: what was poured in stands, or ran over."""
    pick = random.Random(seed)
    data = random_plan(seed % 200).model_dump(mode="json", by_alias=True)
    for vessel in data["vessels"]:
        vessel["water_depth"] = round(pick.uniform(0.01, 1.0) * vessel["shape"]["height"], 4)
    plan = plan_from_data(data)
    rest = _rest(plan)
    poured = _total(plan, {v.id: v.floor_height + (v.water_depth or 0.0) for v in plan.vessels})
    assert _total(plan, rest.levels) + sum(rest.spilled.values()) == pytest.approx(poured, rel=1e-9)
    start = simulate(plan, 1e-6)
    for vessel in plan.vessels[1:]:  # the first fills its pump's pipes as it begins
        assert start.level(vessel.id)[0] == pytest.approx(rest.levels[vessel.id], abs=1e-6)


@pytest.mark.parametrize("name", ["split-flow", "raft-line", "linked-beds", "twin-sumps"])
def test_fill_steady_levels_and_simulation_hold_the_same_water(name: str) -> None:
    """What the steady balance puts into vessels, pipes and drains is what was there at rest."""
    data = lists_of(Path(f"examples/{name}.json"))
    for vessel in data["vessels"]:
        if vessel.get("water_depth") is not None:
            vessel["water_depth"] = round(0.97 * vessel["water_depth"], 4)
    try:
        plan = plan_from_data(data)
    except BadPlan as bad:  # pragma: no cover - the examples bear it
        pytest.fail(str(bad))
    base = compiled(plan, water_at(plan.site.water_temperature))
    found = simulate(plan, 1.0)
    whole = sum(found.end.volumes[v.id] for v in plan.vessels)
    whole += sum(found.end.piped.values()) + found.spilled
    held = sum(base.totals.values())
    junctions = {n for n in found.nodes if n not in {v.id for v in plan.vessels}}
    slack = sum(found.end.volumes[n] for n in junctions)
    assert whole == pytest.approx(held, abs=slack + 1e-6)
