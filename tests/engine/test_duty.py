"""A pump's duty against EPANET, and the laws a balance keeps."""

import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.components.curves.label import LabelPump
from bathys.network import Line, Network, NetworkLink, Piece, solve
from bathys.physics.pump_curve import LabelCurve
from bathys.pipeline import assess
from bathys.plan import load_plan, plan_from_data
from tests.engine.epanet import epanet_flow

INCH_40 = "ASTM D1785 Schedule 40"


def _three_quarter_on_a_high_bed(plan: dict[str, Any]) -> None:
    plan["vessels"][1]["floor_height"] = 1.45
    plan["runs"][0]["bore"] = {"kind": "standard", "standard": INCH_40, "nominal": "3/4 in"}
    plan["runs"][0]["valve"]["angle"] = 0.0


def _long_hose(plan: dict[str, Any]) -> None:
    plan["runs"][0]["bore"] = {"kind": "inside", "diameter": 0.019}
    plan["runs"][0]["level_length"] = 12.0
    plan["runs"][0]["fittings"] = [{"kind": "elbow_45", "count": 4}]


def _points_pump_in_cold_water(plan: dict[str, Any]) -> None:
    plan["site"]["water_temperature"] = 8.0
    points = [(q / 3.6e6, 3.0 - 3.0 * (q / 2800) ** 2) for q in (0, 700, 1400, 2100, 2600)]
    plan["pumps"][0]["curve"] = {
        "kind": "points",
        "points": [{"flow": q, "head": h} for q, h in points],
    }


@pytest.mark.parametrize(
    "spoil",
    [lambda _: None, _three_quarter_on_a_high_bed, _long_hose, _points_pump_in_cold_water],
    ids=["demo", "three quarter on a high bed", "long hose", "points, cold water"],
)
def test_duty_agrees_with_epanet(document: dict[str, Any], spoil: Any, tmp_path: Path) -> None:
    """EPANET 2.2 (Rossman et al. 2020) through wntr, same minor losses: 0.5 %. Its own gravity
    and its Swamee–Jain friction account for up to 0.2 %."""
    spoil(document)
    evaluation = assess(plan_from_data(document)).evaluation
    result, duty = evaluation.beds[0], evaluation.duties["P1"]
    pipe = next(p for p in result.loop.line.pieces if p.kind == "friction")
    losses = sum(p.loss for p in result.loop.line.pieces)
    curve = result.loop.pump.curve
    if isinstance(curve, LabelPump):
        label = LabelCurve(curve.max_flow, curve.max_head, curve.exponent)
        # EPANET fits a power law through three points, here on the label's own parabola.
        pairs = [(s * curve.max_flow, label.head(s * curve.max_flow)[0]) for s in (0.0, 0.5, 0.9)]
    else:
        # More points EPANET joins by straight lines; the parabola they came from is exact.
        pairs = [(0.0, 3.0), (1400 / 3.6e6, 2.25), (2520 / 3.6e6, 0.57)]
    theirs = epanet_flow(
        pairs,
        duty.deliveries[0].lift,
        pipe.length,
        pipe.area_bore,
        pipe.roughness,
        losses,
        evaluation.water.kinematic_viscosity,
        tmp_path,
    )
    assert duty.flow > 0.0
    assert duty.flow == pytest.approx(theirs, rel=5e-3)


def test_head_budget_adds_up(demo_plan: Any) -> None:
    """Energy: what the pump makes is what the lift and the line take."""
    duty = assess(demo_plan).evaluation.duties["P1"]
    assert sum(row.head for row in duty.deliveries[0].budget) == pytest.approx(duty.head, abs=1e-6)


def _riser(bore: float, length: float, loss: float) -> Line:
    pieces = [
        Piece("friction", "pipe", bore, length=length, roughness=1e-5),
        Piece("fitting", "fittings", bore, loss=loss),
    ]
    return Line(pieces, 1e-6)


def _flow(lift: float, line: Line) -> float:
    links = (
        NetworkLink("pump", "tank", "foot", pump=LabelCurve(6e-4, 2.5)),
        NetworkLink("run", "foot", "out", line=line, one_way=True),
    )
    return solve(Network(links, {"tank": 0.0, "out": lift})).flows["run"]


SIZES = {
    "lift": st.floats(0.0, 2.4),
    "bore": st.floats(0.01, 0.06),
    "length": st.floats(0.2, 40.0),
    "loss": st.floats(0.5, 60.0),
}


@settings(max_examples=60)
@given(**SIZES, more=st.floats(1.05, 2.0))
def test_flow_falls_as_lift_length_and_loss_rise(
    lift: float, bore: float, length: float, loss: float, more: float
) -> None:
    """Every hindrance lowers the flow; a wider bore raises it."""
    now = _flow(lift, _riser(bore, length, loss))
    assert _flow(lift * more + 0.01, _riser(bore, length, loss)) < now
    assert _flow(lift, _riser(bore, length * more, loss)) < now
    assert _flow(lift, _riser(bore, length, loss * more)) < now
    assert _flow(lift, _riser(bore * more, length, loss)) > now


def test_two_branches_share_the_pump() -> None:
    """Continuity and energy in a small tree, with one branch too high to carry anything."""
    links = (
        NetworkLink("pump", "sump", "foot", pump=LabelCurve(1e-3, 3.0)),
        NetworkLink("riser", "foot", "tee", line=_riser(0.035, 2.0, 2.0)),
        NetworkLink("low", "tee", "low out", line=_riser(0.021, 3.0, 4.0), one_way=True),
        NetworkLink("middle", "tee", "middle out", line=_riser(0.021, 3.0, 4.0), one_way=True),
        NetworkLink("high", "tee", "high out", line=_riser(0.021, 3.0, 4.0), one_way=True),
    )
    heads = {"sump": 0.0, "low out": 0.8, "middle out": 1.1, "high out": 2.95}
    found = solve(Network(links, heads))
    assert found.blocked == {"high"}
    assert found.flows["high"] == 0.0
    assert found.flows["low"] > found.flows["middle"] > 0.0
    assert abs(found.flows["pump"] - found.flows["low"] - found.flows["middle"]) < 1e-9
    for name in ("low", "middle"):
        line = next(k.line for k in links if k.id == name)
        assert line is not None
        lost, _ = line.loss(np.array([found.flows[name]]))
        assert found.heads["tee"] - heads[f"{name} out"] == pytest.approx(float(lost[0]), abs=1e-6)


def test_a_pump_below_its_lift_delivers_nothing(document: dict[str, Any]) -> None:
    """Above the shut-off head the answer is zero, with a reason, and no exception."""
    document["pumps"][0]["curve"]["max_head"] = 0.7
    found = assess(plan_from_data(document))
    assert found.evaluation.duties["P1"].flow == 0.0
    assert {f.rule.id for f in found.findings if f.severity == "fault"} == {"F0", "F6"}


def test_a_shut_valve_stops_the_flow(document: dict[str, Any]) -> None:
    """From 80° a ball valve counts as shut."""
    document["runs"][0]["valve"]["angle"] = 85.0
    found = assess(plan_from_data(document))
    assert found.evaluation.duties["P1"].flow == 0.0
    assert any(f.rule.id == "F0" and f.place == "R1" for f in found.findings)


def test_arithmetic_of_the_trade(demo_plan: Any) -> None:
    """Common practice: 60 W round the clock is 525.6 kWh a year."""
    duty = assess(demo_plan).evaluation.duties["P1"]
    assert duty.energy_year * 60.0 / duty.power == pytest.approx(525.6)


def test_fouling_narrows_and_roughens(document: dict[str, Any]) -> None:
    """New, a season, neglected: each carries less."""
    flows = []
    for state in ("new", "season", "neglected"):
        document["runs"][0]["fouling"] = state
        flows.append(assess(plan_from_data(document)).evaluation.duties["P1"].flow)
    assert flows[0] > flows[1] > flows[2] > 0.0
    assert math.isfinite(sum(flows))


def test_examples_load() -> None:
    """Every shipped example is a plan that can be worked out."""
    for path in (Path(__file__).parents[2] / "examples").glob("*.json"):
        assert assess(load_plan(path.read_bytes())).figures
