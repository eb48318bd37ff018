"""Runs that end outside: counted as water that leaves, told as a safe way for too much."""

from pathlib import Path
from typing import Any

import pytest

from bathys.network.compiled import compiled
from bathys.physics.water import water_at
from bathys.pipeline import assess
from bathys.plan import BadPlan, plan_from_data
from bathys.simulation import Rain, Weather, simulate
from bathys.simulation.doings import Doings
from tests.engine.one_vessel import one_vessel
from tests.plan_files import lists_of


def _with_overflow(bore: float = 0.1) -> dict[str, Any]:
    """A split flow whose sump has an overflow to the ground, above its usual high."""
    data: dict[str, Any] = lists_of(Path("examples/split-flow.json"))
    data["site"]["storm_depth"] = 0.08
    sump = next(v for v in data["vessels"] if v["id"] == "S1")
    sump["ports"].append({"name": "overflow", "height": 0.52})
    data["junctions"].append({"id": "J9", "name": "Outfall", "kind": "outfall", "height": -0.6})
    data["runs"].append(
        {
            "id": "R90",
            "name": "Storm overflow",
            "from": "S1.overflow",
            "to": "J9",
            "bore": {"kind": "inside", "diameter": bore},
            "level_length": 2.0,
        }
    )
    return data


def test_a_storm_runs_off_outside_and_not_over_the_rim() -> None:
    data = _with_overflow()
    plan = plan_from_data(data)
    found = assess(plan)
    assert "U5" not in {f.rule.id for f in found.findings}
    assert found.evaluation.runs["R90"].flow == 0.0
    assert not [f for f in found.findings if f.severity != "note"]
    wet = simulate(plan, 8.0, Doings(weather=Weather(rain=Rain(4 * 3600.0, 3600.0, 0.12))))
    assert wet.carried["R90"] > 0.01
    assert wet.spilled == 0.0
    dry = simulate(plan, 8.0)
    fell = wet.supplied + wet.carried["R90"]
    held = sum(wet.end.volumes.values()) - sum(dry.end.volumes.values())
    assert fell - wet.carried["R90"] == pytest.approx(held, abs=1e-6)


@pytest.mark.uncompiled
def test_an_overflow_that_is_too_narrow_is_told() -> None:
    found = assess(plan_from_data(_with_overflow(0.012)))
    told = next(f for f in found.findings if f.rule.id == "U5")
    assert told.place == "S1"
    assert told.figures["passes"] > 0.0


@pytest.mark.uncompiled
def test_a_drain_to_waste_is_water_that_leaves() -> None:
    """Pumped out for good: the sump is told to run dry, and does."""
    data = one_vessel()
    data["junctions"] = [{"id": "J1", "name": "Waste", "kind": "outfall", "height": 0.5}]
    data["runs"][1]["to"] = "J1"
    plan = plan_from_data(data)
    found = assess(plan)
    assert ("U0", "S1", "fault") in {(f.rule.id, f.place, f.severity) for f in found.findings}
    followed = simulate(plan, 3.0)
    assert followed.supplied == pytest.approx(-followed.carried["R2"], abs=1e-6)
    assert followed.times_of("air", "P1")
    data["top_ups"] = [
        {
            "id": "W1",
            "name": "Float valve",
            "stands_in": "S1",
            "level": 0.5,
            "flow": 1.2 * found.evaluation.runs["R2"].flow,
        }
    ]
    assert "U0" not in {f.rule.id for f in assess(plan_from_data(data)).findings}


@pytest.mark.uncompiled
def test_a_purge_off_a_pumped_line_is_counted() -> None:
    data = one_vessel()
    data["junctions"] = [
        {"id": "J1", "name": "Tee", "height": 0.5},
        {"id": "J2", "name": "Purge", "kind": "outfall", "height": 0.4},
    ]
    data["runs"][0]["to"] = "J1"
    bore = {"kind": "inside", "diameter": 0.02}
    data["runs"] += [
        {
            "id": "R3",
            "name": "On",
            "from": "J1",
            "to": "C1.inlet",
            "bore": bore,
            "level_length": 0.5,
        },
        {"id": "R4", "name": "Purge", "from": "J1", "to": "J2", "bore": bore, "level_length": 1.0},
    ]
    plan = plan_from_data(data)
    found = assess(plan).evaluation
    assert found.runs["R4"].flow > found.runs["R3"].flow > 0.0
    followed = simulate(plan, 0.5)
    assert followed.carried["R4"] == pytest.approx(found.runs["R4"].flow * 1800.0, rel=0.1)
    whole = sum(followed.end.volumes.values()) + sum(followed.end.piped.values())
    at_rest = sum(compiled(plan, water_at(20.0)).totals.values())
    assert whole + followed.carried["R4"] == pytest.approx(at_rest, abs=1e-6)


@pytest.mark.uncompiled
def test_what_is_filled_over_an_outfall_is_counted_as_gone() -> None:
    data = _with_overflow()
    next(v for v in data["vessels"] if v["id"] == "S1")["water_depth"] = 0.59
    rest = compiled(plan_from_data(data), water_at(20.0)).at_rest
    assert rest.levels["S1"] == pytest.approx(-0.5 + 0.52 - 0.05)
    assert rest.discharged["J9"] == pytest.approx(rest.ran_on["S1"])
    assert rest.ran_on["S1"] > 0.1


@pytest.mark.uncompiled
def test_no_run_begins_at_an_outfall() -> None:
    data = _with_overflow()
    data["runs"].append(
        {
            "id": "R91",
            "name": "No",
            "from": "J9",
            "to": "S1.overflow",
            "bore": {"kind": "inside", "diameter": 0.05},
            "level_length": 1.0,
        }
    )
    with pytest.raises(BadPlan, match="outfall"):
        plan_from_data(data)
