"""What runs end in."""

import math
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from bathys.drawing import draw_side_view
from bathys.drawing.stations import stations_of
from bathys.edits import switch_kind
from bathys.kinds import kind_of, models_of
from bathys.network import balance
from bathys.physics import GRAVITY, area_of
from bathys.physics.openings import ORIFICE_COEFFICIENT, manifold_unevenness
from bathys.physics.water import water_at
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.plan.end import End
from tests.conftest import EXAMPLE
from tests.engine.siphon_beds import friction
from tests.plan_files import lists_of

ENDS: tuple[type[End], ...] = models_of("ends")


def _ending_in(model: type[End]) -> tuple[Plan, Any]:
    plan = switch_kind(load_plan(EXAMPLE.read_bytes()), "runs.R1.ends_in", kind_of(model)).plan
    return plan, plan.part("R1")


@pytest.mark.parametrize("model", ENDS, ids=kind_of)
def test_every_end_takes_what_its_losses_say(model: type[End]) -> None:
    """The pump's curve met by lift, Colebrook's friction by root finding, the fittings' and the
    end's K: the flow within 0.3 %. What an end costs rises with the square of the flow."""
    plan, run = _ending_in(model)
    pump, bore = plan.pumps[0], run.bore.inside
    flow = balance(plan, water_at(plan.site.water_temperature)).flows["R1"]
    line = balance(plan, water_at(plan.site.water_temperature)).layout.lines["R1"]
    length = sum(p.length for p in line.pieces)
    others = [p for p in line.pieces if not p.length and p.label not in _labels(run, bore)]
    level = balance(plan, water_at(plan.site.water_temperature)).levels["T1"]
    lift = plan.elevation(run.end) - level

    def short(q: float) -> float:
        speed = q / area_of(bore)
        head = friction(q, bore, line.pieces[0].roughness or 1.5e-6) * length / bore * speed**2
        head += sum(p.loss * (q / area_of(p.area_bore)) ** 2 for p in others)
        head += sum(k * (q / area_of(wide)) ** 2 for _, wide, k in run.ends_in.losses(bore))
        return float(pump.curve.law.head(q)[0]) - lift - head / (2.0 * GRAVITY)

    assert flow == pytest.approx(brentq(short, 1e-6, pump.curve.law.max_flow), rel=3e-3)


def _labels(run: Any, bore: float) -> set[str]:
    return {label for label, _, _ in run.ends_in.losses(bore)}


@pytest.mark.parametrize("model", ENDS, ids=kind_of)
def test_every_end_is_drawn_and_keeps_the_water(model: type[End]) -> None:
    """It stands in the picture; no flow is lost, and only a diffuser lets more through than an open
    end does."""
    plan, run = _ending_in(model)
    found = assess(plan)
    open_flow = assess(load_plan(EXAMPLE.read_bytes())).evaluation.runs["R1"].flow
    now = found.evaluation.runs["R1"].flow
    assert now > open_flow if kind_of(model) == "diffuser" else now <= open_flow
    assert len(run.ends_in.MARK) > 1
    assert sum(v.gain for v in found.evaluation.vessels.values()) == pytest.approx(0.0, abs=1e-9)


@given(holes=st.integers(2, 60), ratio=st.floats(0.05, 1.2))
def test_a_manifold_shares_as_hole_after_hole_adds_up(holes: int, ratio: float) -> None:
    """Water led hole by hole along a pipe without friction: each takes Cd a sqrt(2gh) of the
    pressure there, and what velocity head it saves comes back (Bernoulli). The first hole's flow
    against the last's, which the closed form gives for many holes."""
    pipe = area_of(0.02)
    one = ratio * pipe / holes
    head, through, flows = 1.0, 0.0, []
    for _ in range(holes):  # from the closed end back to the feed
        here = head - (through / pipe) ** 2 / (2.0 * GRAVITY)
        if here <= 0.0:
            return
        flows.append(ORIFICE_COEFFICIENT * one * math.sqrt(2.0 * GRAVITY * here))
        through += flows[-1]
    least = 1.0 - flows[-1] / flows[0]
    assert all(a >= b for a, b in pairwise(flows))
    told = manifold_unevenness(holes * one, pipe)
    assert least <= told + 1e-12
    if holes > 30 and ratio < 0.6:
        assert told == pytest.approx(least, abs=0.02)


def test_pieces_with_a_place_are_drawn_there() -> None:
    """A union a third of the way along a run and one with no place: only the first is marked, and
    its valve stands where it was put."""
    document = lists_of(EXAMPLE)
    run = document["runs"][0]
    run["fittings"] = [{"kind": "union", "count": 1}, {"kind": "clean_out", "count": 1, "at": 0.1}]
    run["valve_at"] = 0.0
    found = assess(plan_from_data(document))
    scene = draw_side_view(found.evaluation, stations_of(found.evaluation.plan), "metric")
    marks = [s for s in scene.strokes if "in-line" in s.look and s.part == "R1"]
    assert len(marks) == 1
    assert "clean_out" in marks[0].look
