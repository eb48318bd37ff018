"""Lines of pieces in series, and what a running siphon passes."""

import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.edits import Edit, apply_edits
from bathys.network import Line, Piece, line_of_run
from bathys.parts.bores import bore_of
from bathys.physics import GRAVITY
from bathys.physics.siphon import BREAK_SHARE_PLAIN, start_flow
from bathys.plan import plan_from_data, to_file
from bathys.simulation.cycle import nodes_between, time_between
from tests.plan_files import lists_of

pytestmark = pytest.mark.uncompiled

SCHEDULE_40 = "ASTM D1785 Schedule 40"


def _line(bore: float, length: float, loss: float, roughness: float = 1.5e-6) -> Line:
    return Line(
        [
            Piece("friction", "pipe", bore, length=length, roughness=roughness),
            Piece("fitting", "fittings", bore, loss=loss),
        ],
        1.0034e-6,
    )


@given(st.floats(0.008, 0.1), st.floats(0.1, 30.0), st.floats(0.0, 60.0), st.floats(1e-5, 5.0))
def test_flow_undoes_loss(bore: float, length: float, loss: float, head: float) -> None:
    """Through laminar, turbulent and what lies between."""
    line = _line(bore, length, loss)
    flow = line.flow(head)
    assert float(line.loss(flow)[0][0]) == pytest.approx(head, rel=1e-6, abs=2e-9)


def test_no_head_no_flow() -> None:
    """Nor backwards, nor through a shut valve."""
    line = _line(0.02, 1.0, 1.0)
    assert line.flow(np.array([0.0, -0.5])).tolist() == [0.0, 0.0]
    shut = Line([*line.pieces, Piece("valve", "shut", 0.02, loss=math.inf)], 1e-6)
    assert shut.flow(1.0).tolist() == [0.0]


def test_losses_by_piece_add_up() -> None:
    """To the loss of the line."""
    line = _line(0.025, 3.0, 4.0)
    parts = sum(head for _, head in line.losses_by_piece(4e-4))
    assert parts == pytest.approx(float(line.loss(np.array([4e-4]))[0][0]))


def test_laminar_flow_is_poiseuilles() -> None:
    """h = 128 ν L Q/(π g D⁴), Hagen–Poiseuille."""
    line = _line(0.02, 5.0, 0.0)
    flow = 1e-5  # Re 634
    closed = 128 * 1.0034e-6 * 5.0 * flow / (math.pi * GRAVITY * 0.02**4)
    assert float(line.loss(np.array([flow]))[0][0]) == pytest.approx(closed, rel=1e-9)


@pytest.mark.parametrize(
    ("nominal", "millimetres"), [("3/4 in", 22), ("1 in", 26), ("1 1/2 in", 37), ("2 in", 46)]
)
def test_head_below_which_no_inflow_works(nominal: str, millimetres: float) -> None:
    """Derived by hand, (ΣK + f L/d) d (Fr/β)²/2 with ΣK 6 and 1.1 m of tail, to the millimetre."""
    bore = bore_of(SCHEDULE_40, nominal)
    line = _line(bore, 1.1, 6.0)
    at_intake = start_flow(bore) / BREAK_SHARE_PLAIN.value
    head = float(line.loss(np.array([at_intake]))[0][0])
    assert head * 1000 == pytest.approx(millimetres, abs=1.0)


def test_a_running_siphon_into_free_air_drains_as_the_closed_form() -> None:
    """Constant K and no inflow: t = 2A/a √(ΣK/2g) (√(h1 + d) − √(h0 + d)), d the drop. 0.1 %."""
    area, bore, losses, drop = 0.37, 0.0266, 5.5, 0.45
    line = Line([Piece("fitting", "all", bore, loss=losses)], 1e-6)
    edges = np.linspace(0.27, 0.025, 9)
    levels = nodes_between(edges)
    times = time_between(edges, np.full_like(levels, area), -line.flow(levels + drop))
    throat = 0.25 * math.pi * bore**2
    closed = 2 * area / throat * math.sqrt(losses / (2 * GRAVITY))
    closed *= math.sqrt(0.27 + drop) - math.sqrt(0.025 + drop)
    assert times.sum() == pytest.approx(closed, rel=1e-3)


def test_a_tail_into_a_plain_joint_gives_up_its_velocity_head() -> None:
    """Crane TP-410: K 1 for a pipe's end, whether in the air, under water or in a wider drain; so
    the same tail carries as much into a joint as into a vessel at that height."""
    data = lists_of(Path("examples/twelve-beds.json"))
    tail = next(r for r in data["runs"] if r["from"].endswith(".tail"))
    joint = next(j for j in data["junctions"] if j["id"] == tail["to"])
    lines = {}
    for kind in ("plain", "tee"):
        joint["kind"] = kind
        plan = plan_from_data(data)
        lines[kind] = line_of_run(plan, plan.part(tail["id"]), 1e-6)
    ends = [p for p in lines["plain"].pieces if p.kind == "velocity"]
    assert [p.loss for p in ends] == [1.0]
    assert not [p for p in lines["tee"].pieces if p.kind == "velocity"]


def test_a_line_serves_again_until_anything_it_hangs_on_is_changed() -> None:
    """A run that an edit leaves alone keeps its line; what stands at its ends counts as well."""
    plan = plan_from_data(lists_of(Path("examples/twelve-beds.json")))
    run = next(r for r in plan.runs if r.start.endswith(".tail"))
    line = line_of_run(plan, run, 1e-6)
    elsewhere = next(v for v in plan.vessels if plan.owner_of(run.start) != v.id)
    far = apply_edits(plan, [Edit(f"vessels.{elsewhere.id}.name", "another name")])
    assert line_of_run(far, far.part(run.id), 1e-6) is line
    for changed in (
        apply_edits(plan, [Edit(f"junctions.{run.target}.kind", "tee")]),
        apply_edits(plan, [Edit(f"junctions.{run.target}.height", 0.123)]),
        apply_edits(plan, [Edit(f"runs.{run.id}.film", 0.002)]),
    ):
        other = line_of_run(changed, changed.part(run.id), 1e-6)
        assert other.pieces != line.pieces
        fresh = plan_from_data(to_file(changed))
        assert fresh.part(run.id) is not changed.part(run.id)
        assert line_of_run(fresh, fresh.part(run.id), 1e-6).pieces == other.pieces
    assert line_of_run(plan, run, 1.2e-6).viscosity == 1.2e-6
