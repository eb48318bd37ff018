"""Every figure that is shown explains itself, and the explanation is the figure."""

import re

import pytest

from bathys.evaluation import falls_of
from bathys.pipeline import Assessment, assess, assess_dynamic, explain, explain_dynamic
from bathys.plan import load_plan
from bathys.units import fill_equation, show
from tests.conftest import EXAMPLE

FOLDER = EXAMPLE.parent
FILES = sorted(FOLDER.glob("**/*.json"))


@pytest.fixture(scope="module", params=FILES, ids=lambda p: p.stem)
def assessment(request: pytest.FixtureRequest) -> Assessment:
    """Every example, and every faulty plan."""
    return assess(load_plan(request.param.read_bytes()))


def test_every_figure_of_the_tables_can_be_asked_for(assessment: Assessment) -> None:
    """And is the number that the tables show."""
    found = assessment.evaluation
    shown = {}
    for id_, duty in found.duties.items():
        shown |= {
            f"{id_}.flow": duty.flow,
            f"{id_}.head": duty.head,
            f"{id_}.power": duty.power,
            f"{id_}.top": duty.shut_off_head,
            f"{id_}.label_share": duty.label_share,
            f"{id_}.efficiency": duty.efficiency,
            f"{id_}.valve_power": duty.valve_power,
            f"{id_}.runs": duty.share,
        }
    for id_, vessel in found.vessels.items():
        floor, levels = vessel.vessel.floor_height, vessel.levels
        shown |= {
            f"{id_}.low": levels.low - floor,
            f"{id_}.high": levels.high - floor,
            f"{id_}.rest": levels.at_rest - floor,
            f"{id_}.holds": vessel.volume,
            f"{id_}.inflow": vessel.inflow,
        }
    for id_, run in found.runs.items():
        shown |= {f"{id_}.flow": run.flow, f"{id_}.velocity": run.velocity, f"{id_}.loss": run.loss}
        if run.run.valve and run.flow:
            shown[f"{id_}.valve"] = run.valve_loss
    for bed in found.beds:
        window = bed.cycle.window
        shown |= {
            f"{bed.siphon.id}.start": window.start.value,
            f"{bed.siphon.id}.stop": window.stop.value,
        }
    for fall in falls_of(found):
        shown[f"{fall.run.run.id}.fall"] = abs(fall.fall)
    for key, value in shown.items():
        explained = explain(assessment, key)
        assert explained is not None, key
        assert explained.figure.value is not None
        assert abs(explained.figure.value) == pytest.approx(abs(value), rel=1e-6, abs=1e-9), key


def test_no_two_figures_share_a_key(assessment: Assessment) -> None:
    """Whichever list they stand in."""
    keys = [f.key for f in (*assessment.figures, *assessment.details)]
    assert len(set(keys)) == len(keys)


@pytest.mark.parametrize("units", ["metric", "us"])
def test_worked_equations_end_in_the_figure(assessment: Assessment, units: str) -> None:
    """With every slot filled, and a source beside it."""
    for figure in (*assessment.figures, *assessment.details):
        assert figure.source
        assert figure.equation
        words = fill_equation(*figure.worked, units)
        assert not re.search(r"[{}]|nan|inf", words), figure.key
        if words and figure.value is not None:
            assert words.endswith(f"= {show(figure.value, figure.quantity, units)}"), figure.key


@pytest.mark.parametrize("name", ["constant-height-tank", "twin-sumps", "stacked-pair"])
def test_what_a_sump_must_hold_explains_itself(name: str) -> None:
    """Claim by claim, their sum and what is left, each worked with its own numbers."""
    dynamic = assess_dynamic(assess(load_plan((FOLDER / f"{name}.json").read_bytes())))
    assert dynamic.resilience.sumps
    for sump in dynamic.resilience.sumps:
        shown = {f"claim.{c.kind}": c.most for c in sump.claims}
        shown |= {"least": sump.least, "spare": sump.spare}
        for key, value in shown.items():
            explained = explain_dynamic(dynamic, f"{sump.vessel}.{key}")
            assert explained is not None, key
            assert explained.figure.value == pytest.approx(value, rel=1e-9, abs=1e-12), key
            assert fill_equation(*explained.figure.worked, "metric"), key
    assert explain_dynamic(dynamic, "S1.claim.nothing") is None


@pytest.mark.parametrize("name", ["split-flow", "stacked-pair"])
def test_power_cuts_and_cycles_explain_themselves(name: str) -> None:
    """What each vessel comes to is what the trial found, its water what it held and what moved;
    cycles are those of the beds together."""
    dynamic = assess_dynamic(assess(load_plan((FOLDER / f"{name}.json").read_bytes())))
    plan, shown = dynamic.resilience.evaluation.plan, {}
    assert dynamic.resilience.trials
    for number, trial in enumerate(dynamic.resilience.trials):
        for row in trial.vessels:
            key, floor = f"{row.vessel}.cut{number}", plan.vessel(row.vessel).floor_height
            shown |= {
                f"{key}.final": row.final - floor,
                f"{key}.holds": row.volume_final,
                f"{key}.share": row.share_left,
            }
    for cycle in dynamic.resilience.periodic.cycles:
        assert cycle.period is not None
        shown |= {
            f"{cycle.siphon}.together.period": cycle.period,
            f"{cycle.siphon}.together.moves": cycle.exchanged,
        }
    for key, value in shown.items():
        explained = explain_dynamic(dynamic, key)
        assert explained is not None, key
        assert explained.figure.value == pytest.approx(value, rel=1e-9, abs=1e-12), key
        words = fill_equation(*explained.figure.worked, "metric")
        assert words.endswith(f"= {show(value, explained.figure.quantity, 'metric')}"), key


def test_every_vessel_that_gets_water_is_a_step_of_the_stairs(assessment: Assessment) -> None:
    """However its water came there: through tees and manifolds too. No step is told twice."""
    found = assessment.evaluation
    falls = falls_of(found)
    assert len({f.run.run.id for f in falls}) == len(falls)
    ends, starts = {f.end for f in falls}, {f.start for f in falls}
    for id_, result in found.vessels.items():
        if result.inflow > 1e-9:
            assert id_ in ends, id_
    for run in found.runs.values():
        owner = found.plan.owner_of(run.run.start)
        if run.flow > 1e-9 and run.gravity is not None and owner is not None:
            assert owner in starts, run.run.id
