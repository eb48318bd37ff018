"""The EPANET file of pumps whose curve is typed point by point, and of names that are alike."""

from pathlib import Path

import pytest
import wntr

from bathys.documents import pumped_inp
from bathys.documents.epanet import _most_flow, _Names
from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.plan import load_plan
from tests.conftest import EXAMPLE

SPLIT = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
POINTS = ((0.0, 4.0), (0.0008, 3.4), (0.0016, 2.2), (0.0022, 0.6))


def test_a_curve_of_points_is_the_same_pump_there(tmp_path: Path) -> None:
    """EPANET 2.2 (Rossman et al. 2020) through wntr finds each pumped flow to 0.5 %, by a curve
    that is straight between typed points."""
    points = [{"flow": flow, "head": head} for flow, head in POINTS]
    plan = apply_edits(SPLIT, [Edit("pumps.P1.curve", {"kind": "points", "points": points})])
    found = evaluate(plan)
    file = tmp_path / "plan.inp"
    file.write_text(pumped_inp(found))
    model = wntr.network.WaterNetworkModel(str(file))
    flows = wntr.sim.EpanetSimulator(model).run_sim(str(tmp_path / "run")).link["flowrate"]
    for run in found.balance.layout.pressure:
        theirs = float(flows[run].iloc[0])
        assert theirs == pytest.approx(found.balance.flows[run], rel=5e-3, abs=2e-7), run


def test_the_end_of_any_curve_is_where_it_lifts_nothing() -> None:
    class Straight:
        """Lifts 2 m less 1000 s/m² of flow."""

        def head(self, flow: float) -> tuple[float, float]:
            return 2.0 - 1000.0 * flow, -1000.0

    assert _most_flow(Straight()) == pytest.approx(0.002, rel=1e-9)


def test_no_two_parts_have_one_name_there() -> None:
    """Accents, dots and long names are made plain, and stay apart; one asked for again is the same;
    none is longer than EPANET takes."""
    names = _Names()
    asked = ["R1", "R.1", "R 1", "R_1", "Über", "Aber", "x" * 40, "x" * 41, "x" * 42]
    told = [names.of(name) for name in asked]
    assert len(set(told)) == len(asked)
    assert [names.of(name) for name in asked] == told
    assert all(len(name) <= 31 for name in told)
    assert all(name.isascii() and name.replace("_", "").isalnum() for name in told)
