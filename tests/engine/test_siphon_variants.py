"""A siphon tried otherwise does what it would do if the plan were built so."""

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import EditRefused, apply_edits
from bathys.evaluation import BedResult
from bathys.parts.bores import pipe_sizes
from bathys.pipeline import assess
from bathys.plan import Plan, plan_from_data
from bathys.sizing import SiphonVariant, Tried, sizes_for, try_variant, variant_edits, variant_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

LITRE_AN_HOUR = 1.0 / 3.6e6


def _plan(name: str = "split-flow", **changed: Any) -> Plan:
    document = lists_of(EXAMPLE.parent / f"{name}.json")
    return plan_from_data({**document, **changed})


def _try(plan: Plan, bed: BedResult, variant: SiphonVariant) -> Tried:
    built = bed.loop.built
    tailwater = float(bed.loop.tank_level(built.intake))
    return try_variant(
        plan,
        bed.siphon,
        variant,
        tailwater,
        bed.cycle.start_inflow,
        bed.cycle.break_inflow,
        built.line.viscosity,
    )


@pytest.fixture(scope="module")
def stands() -> tuple[Plan, BedResult, SiphonVariant]:
    """A bed whose tail ends over its sump, and its siphon as it stands."""
    plan = _plan()
    bed = assess(plan).evaluation.beds[0]
    return plan, bed, variant_of(plan, bed.siphon)


def test_as_it_stands_nothing_changes(stands: tuple[Plan, BedResult, SiphonVariant]) -> None:
    """No edits, and the window the plan is told."""
    plan, bed, now = stands
    assert variant_edits(plan, bed.siphon, now) == ()
    assert _try(plan, bed, now).window == bed.cycle.window
    assert now.fall == pytest.approx(0.55)
    assert now.elbows == 2


variants = st.builds(
    SiphonVariant,
    st.sampled_from(["3/4 in", "1 in", "1 1/4 in", "1 1/2 in"]),
    st.floats(0.1, 0.9),
    st.integers(0, 6),
    st.booleans(),
    st.one_of(st.none(), st.floats(0.0, 90.0)),
)


@settings(max_examples=25)
@given(variant=variants)
def test_built_so_the_plan_says_the_same(
    stands: tuple[Plan, BedResult, SiphonVariant], variant: SiphonVariant
) -> None:
    """The edits made, the plan is worked out again: its bed has the window that was tried, and does
    with its inflow what was told of it."""
    plan, bed, _ = stands
    tried = _try(plan, bed, variant)
    built = assess(apply_edits(plan, variant_edits(plan, bed.siphon, variant))).evaluation
    found = next(b for b in built.beds if b.siphon.id == bed.siphon.id)
    assert tried.window.start == found.cycle.window.start
    # Under water the sump's level counts, and moves a little with what the plan was changed to.
    highest = max(float(b.loop.tank_level(b.loop.built.intake)) for b in (found, bed))
    under = found.loop.built.outlet < highest
    near = 5e-3 if under else 1e-9
    assert tried.window.stop.value == pytest.approx(found.cycle.window.stop.value, rel=near)
    if abs(found.cycle.start_inflow - bed.cycle.start_inflow) < 1e-9:
        told = {"works": "cycles", "little_to_start": "cycles", "little_to_stop": "cycles"}
        verdict = found.cycle.verdict
        assert told.get(tried.outcome, tried.outcome) == verdict or verdict == "slow"
    assert variant_of(built.plan, found.siphon).elbows == variant.elbows


@settings(max_examples=25)
@given(
    variant=variants, fall=st.floats(0.1, 0.5), lower=st.floats(0.02, 0.25), more=st.integers(1, 2)
)
def test_what_helps_a_siphon_to_stop(
    stands: tuple[Plan, BedResult, SiphonVariant],
    variant: SiphonVariant,
    fall: float,
    lower: float,
    more: int,
) -> None:
    """Over the water a longer fall and an air tube raise the inflow it stops with, elbows lower it;
    none of them moves its start. The tube by 0.8 over 0.6, its two shares (assumed)."""
    plan, bed, _ = stands
    plain = replace(variant, fall=fall, has_tube=False, turned_up=None)
    one = _try(plan, bed, plain).window
    longer = _try(plan, bed, replace(plain, fall=fall + lower)).window
    bent = _try(plan, bed, replace(plain, elbows=variant.elbows + more)).window
    tubed = _try(plan, bed, replace(plain, has_tube=True)).window
    assert longer.stop.value > one.stop.value > bent.stop.value
    # Air gets in a centimetre higher then, which lends a little head besides.
    assert 1.0 < tubed.stop.value / one.stop.value * 0.6 / 0.8 < 1.05
    assert {w.start.value for w in (longer, bent, tubed)} == {one.start.value}


def test_sizes_start_where_the_froude_number_says(
    stands: tuple[Plan, BedResult, SiphonVariant],
) -> None:
    """Fr (π/4) d² √(g d) at 0.31, derived from the self-venting criterion (Simpson 1968; Hills
    1983, memory): 174, 318, 631, 928 and 1,734 L/h for ¾ to 2 in Schedule 40. An
    elbow turned straight up takes 0.6 of it (assumed)."""
    plan, bed, now = stands
    printed = {"3/4 in": 174, "1 in": 318, "1 1/4 in": 631, "1 1/2 in": 928, "2 in": 1734}
    bores = {s.nominal: s.bore for s in pipe_sizes("ASTM D1785 Schedule 40")}
    assert set(printed) <= set(sizes_for(bed.siphon))
    for nominal, flow in printed.items():
        start = _try(plan, bed, replace(now, nominal=nominal)).window.start.value
        d = bores[nominal]
        exact = 0.31 * math.pi / 4 * d**2 * math.sqrt(9.80665 * d)
        assert start == pytest.approx(exact, rel=1e-6)
        assert start / LITRE_AN_HOUR == pytest.approx(flow, abs=1.0)
        trapped = _try(plan, bed, replace(now, nominal=nominal, turned_up=90.0)).window.start.value
        assert trapped == pytest.approx(0.6 * start, rel=1e-9)


def test_a_loop_keeps_the_level_it_starts_at() -> None:
    """Its crest comes down as its tube grows wider."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    siphon = document["siphons"][0]
    bore = siphon["standpipe_bore"]
    document["siphons"][0] = {
        "id": siphon["id"],
        "name": "Loop",
        "kind": "loop",
        "stands_in": siphon["stands_in"],
        "bore": bore,
        "bulkhead_height": 0.03,
        "crest_height": 0.24,
    }
    plan = plan_from_data(document)
    loop = plan.siphons[0]
    now = variant_of(plan, loop)
    wider = apply_edits(plan, variant_edits(plan, loop, replace(now, nominal="1 1/4 in"))).siphons[
        0
    ]
    for before, after in ((loop, wider),):
        tops = [s.crest_height + 0.69 * s.pipe_bore for s in (before, after)]  # type: ignore[union-attr]
        assert tops[0] == pytest.approx(tops[1], abs=1e-3)


def test_what_cannot_be_built_is_refused_with_a_sentence(
    stands: tuple[Plan, BedResult, SiphonVariant],
) -> None:
    """Below the sump's floor; of no such pipe; of too many elbows; a tail that joins another has
    no fall of its own."""
    plan, bed, now = stands
    for variant, said in (
        (replace(now, fall=3.0), "outside Sump"),
        (replace(now, nominal="6 in"), "6 in"),
        (replace(now, elbows=40), "elbows"),
    ):
        with pytest.raises(EditRefused, match=said):
            variant_edits(plan, bed.siphon, variant)
    joined = _plan("twin-sumps")
    assert variant_of(joined, joined.siphons[0]).fall is None
    document = plan.model_dump(mode="json", by_alias=True)
    tails = [r for r in document["runs"] if r["from"].endswith(".tail")]
    tails[1]["to"] = tails[0]["to"]  # both through one hole: one cannot be led lower alone
    shared = plan_from_data(document)
    assert variant_of(shared, shared.siphons[0]).fall is None
