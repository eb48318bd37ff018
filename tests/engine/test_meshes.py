"""Meshes against fish: who gets through what, and the screen that keeps them back."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import Edit, apply_edits
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from bathys.quality.grading import THICKNESS
from bathys.rules import Finding
from tests.conftest import EXAMPLE

NAMES = ("split-flow", "raft-line", "small-settler", "fish-and-leaves", "two-pump-timed")
PLANS = {n: load_plan((EXAMPLE.parent / f"{n}.json").read_bytes()) for n in NAMES}


def _with_fish(plan: Plan, length: float) -> Plan:
    """The same, with its smallest fish so long [m]."""
    return apply_edits(plan, [Edit("brief.smallest_fish", length)])


def _open_to(plan: Plan) -> list[Finding]:
    return [f for f in assess(plan).findings if f.rule.id == "D13"]


@pytest.mark.counted
@pytest.mark.parametrize("name", NAMES)
def test_a_run_is_told_exactly_where_its_opening_is_wider_than_the_fish(name: str) -> None:
    """An eighth of its length is the thickness of a fish (common practice); what begins in a tank
    of fish is open to them unless a mesh or a filter before it is finer than they are."""
    plan = _with_fish(PLANS[name], 0.08)
    told = {f.place: f for f in _open_to(plan)}
    for run in plan.runs:
        owner = plan.owner_of(run.start)
        from_fish = owner is not None and plan.vessel(owner).use.keeps_fish
        by_strainer = plan.group_of(run.source) == "pumps" and run.filter is None
        if not from_fish or by_strainer:
            assert run.id not in told
            continue
        mesh = getattr(plan.part(run.source), "mesh", None)
        cut = run.filter.cut if run.filter is not None else None
        finest = min(x for x in (run.bore.inside, mesh, cut) if x is not None)
        assert (run.id in told) == (finest > THICKNESS * 0.08), run.id
        if run.id in told:
            assert told[run.id].figures["open"] == pytest.approx(finest)
            assert told[run.id].figures["width"] == pytest.approx(0.01)


@pytest.mark.counted
@pytest.mark.parametrize("name", NAMES)
def test_the_screen_that_is_put_forward_keeps_them_back(name: str) -> None:
    """Taken, nothing more is said of that run; its openings are no wider than they are thick, and
    can be bought to the millimetre."""
    plan = _with_fish(PLANS[name], 0.06)
    for finding in _open_to(plan):
        for offer in finding.list_offers():
            mesh = offer.figures["mesh"]
            assert mesh <= THICKNESS * 0.06 + 1e-9
            assert mesh == pytest.approx(round(mesh, 3))
            after = apply_edits(plan, offer.edits)
            assert finding.place not in {f.place for f in _open_to(after)}


@settings(max_examples=30)
@given(st.sampled_from(NAMES), st.floats(0.005, 1.5), st.floats(0.005, 1.5))
def test_larger_fish_get_through_no_more(name: str, one: float, two: float) -> None:
    """And fish as thick as the widest pipe get through none."""
    short, long = sorted((round(one, 3), round(two, 3)))
    of_short, of_long = (
        {f.place for f in _open_to(_with_fish(PLANS[name], length))} for length in (short, long)
    )
    assert of_long <= of_short
    widest = max(run.bore.inside for run in PLANS[name].runs)
    if long * THICKNESS > widest:
        assert not of_long


def test_where_no_fish_is_told_nothing_is_said() -> None:
    for plan in PLANS.values():
        assert not _open_to(_with_fish(plan, 0.0))


def test_a_finer_screen_behind_a_wide_pipe_is_what_counts() -> None:
    """A screen of 5 mm before a drain: fish of 4 cm are as thick, longer ones stay."""
    plan = PLANS["raft-line"]
    run = _open_to(_with_fish(plan, 0.08))[0].place
    screen = {"kind": "screen", "diameter": 0.1, "length": 0.1, "cut": 0.005}
    offered = _open_to(_with_fish(plan, 0.08))[0].list_offers()
    made = dict(offered[0].edits[0].value) if offered else screen
    screened = apply_edits(plan, [Edit(f"runs.{run}.filter", {**made, "cut": 0.005})])
    assert run in {f.place for f in _open_to(_with_fish(screened, 0.039))}
    assert run not in {f.place for f in _open_to(_with_fish(screened, 0.041))}
