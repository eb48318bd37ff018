"""Siphons cut open: what is drawn lies in the picture, and what is measured is the plan's."""

import re
from pathlib import Path

import pytest

from bathys.drawing.siphon_section import draw_siphon
from bathys.edits import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.kinds import facet
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan import Plan, load_plan
from bathys.plan.way_out import Siphon
from bathys.simulation import SiphonModel
from bathys.units import SYSTEMS, System, show
from tests.conftest import EXAMPLE

PATHS = sorted([*EXAMPLE.parent.glob("*.json"), *EXAMPLE.parent.glob("practice/*.json")])
ALL = [(path, siphon.id) for path in PATHS for siphon in load_plan(path.read_bytes()).siphons]
ORCHARD = EXAMPLE.parent / "practice" / "bell-orchard.json"


def _model(plan: Plan, siphon: Siphon) -> SiphonModel:
    tail = plan.run_of(siphon)
    assert tail is not None
    return SiphonModel(plan, siphon, tail, layout_of(plan, water_at(20.0)).lines[tail.id])


def _numbers(points: str) -> list[tuple[float, float]]:
    pairs = [tuple(map(float, pair.split(","))) for pair in points.split()]
    return [(x, y) for x, y in pairs]


@pytest.mark.counted
@pytest.mark.parametrize(("path", "id_"), ALL, ids=[f"{path.stem} {id_}" for path, id_ in ALL])
@pytest.mark.parametrize("units", SYSTEMS)
def test_a_siphon_is_drawn_within_its_picture(path: Path, id_: str, units: System) -> None:
    """Whole, in either system of units, with each of its words once."""
    plan = load_plan(path.read_bytes())
    siphon = next(s for s in plan.siphons if s.id == id_)
    bed = plan.vessel(siphon.stands_in)
    scene = draw_siphon(bed, siphon, _model(plan, siphon), units)
    drawn = [spot for stroke in scene.strokes for spot in _numbers(stroke.points)]
    drawn += [spot for shape in scene.shapes for spot in _numbers(shape.points)]
    drawn += [(t.x, t.y) for t in scene.texts]
    drawn += [(r.x, r.y) for r in scene.rects]
    assert drawn
    for x, y in drawn:
        assert -2.0 <= x <= scene.width + 2.0
        assert -40.0 <= y <= scene.height + 2.0
    words = [t.words for t in scene.texts]
    assert len(set(words)) == len(words)
    assert all(words)


@pytest.mark.parametrize(("path", "id_"), ALL, ids=[f"{path.stem} {id_}" for path, id_ in ALL])
def test_heights_are_those_of_the_plan_from_above_down(path: Path, id_: str) -> None:
    """Each under the bed's rim and told once; across it, sizes are more than nothing."""
    plan = load_plan(path.read_bytes())
    siphon = next(s for s in plan.siphons if s.id == id_)
    section = facet(siphon, "section")
    told = section.heights(siphon)
    assert len(set(told)) == len(told)
    assert all(height >= 0.0 for _, height in told)
    assert told
    for _, value, quantity in section.sizes(siphon):
        assert value >= 0.0
        assert show(value, quantity, "us")


def _loop(**values: float) -> tuple[Plan, Siphon]:
    plan = load_plan(ORCHARD.read_bytes())
    edits = [Edit(f"siphons.X2.{name}", value) for name, value in values.items()]
    plan = apply_edits(plan, edits) if edits else plan
    return plan, next(s for s in plan.siphons if s.id == "X2")


def test_a_loop_that_can_be_set_shows_how_far() -> None:
    """Its crest between the lowest and the highest that the tube reaches, each drawn as a line."""
    plan, siphon = _loop()
    told = dict(facet(siphon, "section").heights(siphon))
    low, high = siphon.crest_range  # type: ignore[attr-defined]
    assert told["crest"] == siphon.crest_height
    assert told.get("highest", siphon.crest_height) == pytest.approx(max(high, siphon.crest_height))
    assert told.get("lowest", siphon.crest_height) == pytest.approx(min(low, siphon.crest_height))
    scene = draw_siphon(plan.vessel(siphon.stands_in), siphon, _model(plan, siphon), "metric")
    ranges = [s for s in scene.strokes if s.look == "range"]
    assert len(ranges) == len({low, high} - {siphon.crest_height})


def test_a_loop_and_a_bell_are_told_apart_in_the_picture() -> None:
    """A loop's tube is drawn with its wall; a bell has a cap; both say their bores."""
    plan = load_plan(ORCHARD.read_bytes())
    looks = {}
    for siphon in plan.siphons:
        bed = plan.vessel(siphon.stands_in)
        scene = draw_siphon(bed, siphon, _model(plan, siphon), "metric")
        looks[siphon.kind] = {s.look for s in scene.strokes} | {s.look for s in scene.shapes}
        bore = show(siphon.pipe_bore, "length", "metric")
        assert any(bore in t.words for t in scene.texts), siphon.kind
        assert all(re.search(r"\w", t.words) for t in scene.texts)
    assert looks["loop"] != looks["bell"]


def test_the_priming_level_of_a_drawn_siphon_is_that_of_its_figures() -> None:
    found: Evaluation = evaluate(load_plan(ORCHARD.read_bytes()))
    for bed in found.beds:
        model = _model(found.plan, bed.siphon)
        assert 0.0 < model.priming_level < bed.bed.shape.height
        assert model.priming_level >= bed.siphon.spills_from - 1e-9
