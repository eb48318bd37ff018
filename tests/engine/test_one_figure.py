"""One figure, one value, one wording; none that rounds onto its limit, none in foreign units."""

import re
from pathlib import Path
from typing import Any

import pytest

from bathys.commands import balance as balance_command
from bathys.commands import check, resilience, size
from bathys.edits import EditRefused, set_volume, switch_kind
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import load_plan, plan_from_data
from bathys.units import fill_sentence, show
from tests.engine.one_vessel import one_vessel
from tests.plan_files import lists_of

EXAMPLES = sorted(p.stem for p in Path("examples").glob("*.json"))
METRIC = re.compile(r"(?<![\w“”])\d[\d,.]* ?(mm|cm|m|L|L/h|kg|kPa|m/s|m²|cm²|°C)(?![\w/²])")
US = re.compile(r"(?<![\w“”])\d[\d,.]* ?(in|ft|gal|gal/h|lb|psf|ft/s|°F)(?![\w/])")


def _data(name: str) -> dict[str, Any]:
    data: dict[str, Any] = lists_of(Path(f"examples/{name}.json"))
    return data


def test_figures_that_differ_never_look_the_same_in_a_sentence() -> None:
    """Common traps: weights a hair apart, a fall just under the least, a share on its limit."""
    words = fill_sentence("{a:mass} are more than {b:mass}", {"a": 12.52, "b": 12.48}, "metric", {})
    assert words == "12.52 kg are more than 12.48 kg"
    words = fill_sentence(
        "falls {a:percent}; wants {b:percent}", {"a": 0.0188, "b": 0.0208}, "us", {}
    )
    assert words == "falls 1.9%; wants 2.1%"
    same = fill_sentence("{a:mass} and {b:mass}", {"a": 12.5, "b": 12.5}, "metric", {})
    assert same == "12.5 kg and 12.5 kg"


def test_next_to_nothing_is_shown_as_nothing() -> None:
    assert show(8e-15, "flow", "metric") == "0 L/h"
    assert show(-5e-10, "length", "metric") == "0 mm"


@pytest.mark.parametrize("name", EXAMPLES)
@pytest.mark.parametrize(("units", "foreign"), [("us", METRIC), ("metric", US)])
def test_no_plan_prints_the_other_system(name: str, units: Any, foreign: re.Pattern[str]) -> None:
    """But nominal sizes, which are the pipes' names."""
    found = assess(load_plan(Path(f"examples/{name}.json").read_bytes()))
    texts = [
        check.as_text(found, units),
        balance_command.as_text(found, units),
        resilience.as_text(assess_dynamic(found, with_failures=False), units),
        size.valves_text(found.evaluation, units),
    ]
    texts += [size.pump_text(found.evaluation, p, units) for p in found.evaluation.plan.pumps]
    sizes = {r.bore.nominal for r in found.evaluation.plan.runs if r.bore.kind == "standard"}
    for text in texts:
        # What follows “in” or ends a fitting’s name is a pipe size, named as it is sold.
        before = r"(” in|from|to|in|under a|instead of|with a)"
        plain = re.sub(before + r" \d[\d /]* ?(mm|in)\b", "", text)
        plain = re.sub("make it of “[^”]*”", "", plain)  # containers, too
        for size_name in sizes:
            plain = plain.replace(size_name, "")
        assert not foreign.findall(plain), foreign.search(plain)


def test_a_drain_whose_end_is_drowned_is_told_full_and_slow_everywhere() -> None:
    """In the table, in the finding and in the figure alike."""
    data = one_vessel()
    data["vessels"][1]["job"] = "fish_tank"
    data["vessels"][0] |= {"job": "settler", "water_depth": 0.8, "floor_height": -0.5}
    data["vessels"][0]["ports"][0]["height"] = 0.5
    data["runs"][1]["bore"]["diameter"] = 0.1
    found = assess(plan_from_data(data))
    gravity = found.evaluation.runs["R2"].gravity
    assert gravity is not None
    assert gravity.is_drowned
    told = found.figure("R2.fill")
    assert told is not None
    assert told.value == gravity.fill == 1.0
    p2 = next(f for f in found.findings if f.rule.id == "P2" and f.place == "R2")
    assert p2.figures["fill"] == 1.0
    run = found.evaluation.runs["R2"]
    assert p2.figures["speed"] == run.velocity == pytest.approx(run.flow / (0.00785398))


def test_what_passes_is_never_more_than_what_could() -> None:
    """A pipe that begins within the freeboard still passes what it passes."""
    data = one_vessel()
    data["vessels"][1]["freeboard"] = 0.35
    found = assess(plan_from_data(data)).evaluation.runs["R2"]
    assert found.gravity is not None
    assert found.gravity.capacity >= found.flow > 0.0


def test_a_small_bucket_weighs_like_a_small_bucket() -> None:
    """A gallon can of plastic: 3.8 kg of water and some hundred grams."""
    data = one_vessel()
    data["vessels"][1] |= {
        "shape": {"kind": "cylinder", "diameter": 0.16, "height": 0.19},
        "ports": [{"name": "inlet", "height": 0.18}, {"name": "outlet", "height": 0.12}],
        "floor_height": 0.5,
    }
    found = assess(plan_from_data(data))
    told = next(f for f in found.findings if f.rule.id == "W1")
    assert 2.0 < told.figures["mass"] < 6.0


def test_a_sump_too_small_either_way_is_told_so() -> None:
    """Not to fill it lower in one line and higher in the next."""
    dynamic = assess_dynamic(
        assess(load_plan(Path("examples/faults/dry-start.json").read_bytes())), with_failures=False
    )
    hints = {
        f.hint for f in dynamic.findings if f.rule.id in ("U7", "U8") and f.place in ("S1", "P1")
    }
    assert not (
        any("lower" in h and "higher" not in h for h in hints)
        and any("higher" in h and "lower" not in h for h in hints)
    )


def test_a_gurgle_that_ends_in_a_break_is_no_hang() -> None:
    for name in EXAMPLES:
        plan = load_plan(Path(f"examples/{name}.json").read_bytes())
        if not plan.siphons:
            continue
        found = assess_dynamic(assess(plan), with_failures=False).resilience.periodic.through
        for siphon in plan.siphons:
            breaks = found.times_of("breaks", siphon.id)
            for hang in found.times_of("hangs", siphon.id):
                assert not any(0.0 <= t - hang < 60.0 for t in breaks), (name, siphon.id)


def test_a_failure_is_told_with_its_own_figures() -> None:
    dynamic = assess_dynamic(assess(load_plan(Path("examples/bench-top.json").read_bytes())))
    told = next(f for f in dynamic.findings if f.rule.id == "U9")
    rows = [w for w in dynamic.resilience.outcomes if w.half_after]
    first = min(rows, key=lambda w: w.half_after or 0.0)
    assert told.figures["left"] == first.tank_left


def test_fish_are_held_against_media_that_work_and_told_what_was_left_out() -> None:
    data = _data("split-flow")
    data["brief"]["fish_mass"] = 60.0
    both = next(f for f in assess(plan_from_data(data)).findings if f.rule.id == "S1")
    assert both.severity == "note"  # a filter and a raft carry some too
    assert "{F1:words}" in both.sentence
    assert "{G1:words}" in both.sentence
    next(r for r in data["runs"] if r["id"] == "R5")["valve"] = {"kind": "ball", "angle": 90.0}
    less = next(f for f in assess(plan_from_data(data)).findings if f.rule.id == "S1")
    assert less.figures["wetted"] < both.figures["wetted"]
    assert "{B1:words}" in less.sentence


def test_another_medium_brings_its_own_void_fraction() -> None:
    plan = plan_from_data(_data("stacked-pair"))
    assert plan.vessel("B1").media is not None
    after = switch_kind(plan, "vessels.B1.media", "lava").plan.vessel("B1").media
    assert after is not None
    assert after.void_fraction == 0.5


@pytest.mark.parametrize(
    "shape",
    [
        {"kind": "box", "length": 1.2, "width": 0.8, "height": 0.5},
        {"kind": "cylinder", "diameter": 0.9, "height": 0.8},
        {"kind": "cone", "diameter": 0.9, "height": 1.0, "cone_height": 0.3},
        {"kind": "dish", "diameter": 0.9, "height": 0.9, "dish_height": 0.2},
        {"kind": "tote", "height": 0.7},
    ],
)
def test_a_typed_volume_scales_the_dimension_picked(shape: dict[str, Any]) -> None:
    data = one_vessel()
    data["vessels"][0] |= {
        "shape": shape,
        "water_depth": 0.2,
        "ports": [{"name": "back", "height": 0.85}],
    }
    plan = plan_from_data(data)
    old = plan.vessel("S1").shape
    for dimension in ("height", "length", "diameter"):
        if dimension not in type(old).model_fields:
            with pytest.raises(EditRefused):
                set_volume(plan, "S1", 0.5, dimension)
            continue
        for share in (0.8, 1.7):
            wanted = share * old.capacity
            new = set_volume(plan, "S1", wanted, dimension).plan.vessel("S1").shape
            assert new.capacity == pytest.approx(wanted, rel=1e-4)
            kept = {k: v for k, v in old.model_dump().items() if k != dimension}
            assert {k: v for k, v in new.model_dump().items() if k != dimension} == kept


def test_what_is_taken_out_stands_beside_what_dries_off() -> None:
    """The days a sump lasts follow from the figures of its own sentence."""
    data = _data("side-tanks")
    data["transfers"] = [
        {"id": "Z1", "name": "Water change", "source": "N1", "volume": 0.4, "flow": 0.002}
    ]
    told = next(f for f in assess(plan_from_data(data)).findings if f.rule.id == "U4")
    assert "is taken out" in told.sentence
    figures = {k: float(v) for k, v in told.figures.items()}
    assert figures["taken"] == pytest.approx(0.4)
    leaves = figures["dries"] + figures["taken"] - figures["comes"]
    assert figures["lasts"] == pytest.approx(figures["reserve"] / leaves)
