"""A builder's own limits, the schools' ways side by side, a hose that slips out, and moving it."""

from typing import Any

import pytest

from bathys.evaluation.moving import moving_of
from bathys.parts.practice import PRACTICES
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import plan_from_data
from bathys.rules import CAUTIONS, cautions_for
from bathys.wording.practice import done_in
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of


def _split() -> dict[str, Any]:
    return lists_of(EXAMPLE.parent / "split-flow.json")


@pytest.mark.parametrize(
    ("group", "at", "field", "limit", "kept"),
    [
        ("vessels", 0, "least_turnover", 2.0 / 3600.0, 0.5 / 3600.0),
        ("vessels", 0, "most_turnover", 0.5 / 3600.0, 2.0 / 3600.0),
        ("vessels", 1, "least_hold", 3600.0, 30.0),
        ("vessels", 3, "lowest", 0.4, 0.05),
        ("vessels", 3, "highest", 0.2, 0.59),
        ("vessels", 3, "least_days", 300.0, 0.5),
        ("runs", 1, "slowest", 5.0, 0.05),
        ("runs", 1, "fastest", 0.1, 5.0),
        ("pumps", 0, "least_reserve", 0.9, 0.01),
    ],
)
def test_an_own_limit_is_judged_as_a_schools_is(
    group: str, at: int, field: str, limit: float, kept: float
) -> None:
    """One that is missed is a warning that tells both figures; one that is kept says nothing."""
    for value, is_missed in ((limit, True), (kept, False)):
        document = _split()
        part = document[group][at]
        part["own"] = {field: value}
        told = [f for f in assess(plan_from_data(document)).findings if f.rule.id == "L1"]
        assert [(f.severity, f.place) for f in told] == [("warning", part["id"])] * is_missed
        if is_missed:
            assert told[0].figures["limit"] == value


def test_no_way_of_a_practice_is_faulted() -> None:
    """Whichever is chosen, the findings are the same; only what belongs to another way is no
    longer told as a caution."""
    document = _split()
    before = [f.id for f in assess(plan_from_data(document)).findings]
    assert len(cautions_for(plan_from_data(document).brief)) == len(CAUTIONS)
    for key, practice in PRACTICES.items():
        assert len(practice.ways) >= 2
        for way in practice.ways:
            document["brief"] = {**_split()["brief"], key: way}
            plan = plan_from_data(document)
            assert [f.id for f in assess(plan).findings] == before
            left_out = [c.topic for c in CAUTIONS if c not in cautions_for(plan.brief)]
            expected = {"ring": ["Beds"], "center": ["Beds"], "glued": ["Tails"]}
            assert left_out == expected.get(way, [])


def test_what_a_plan_does_of_them_is_counted() -> None:
    document = _split()
    document["siphons"][0]["end_elbow"] = 45.0
    document["runs"][4]["ends_in"] = {
        "kind": "ring", "ring_diameter": 0.5, "holes": 12, "diameter": 0.006,
    }  # fmt: skip
    document["transfers"] = [
        {
            "kind": "exchange",
            "id": "Z1",
            "name": "Z1",
            "stands_in": "S1",
            "share": 0.5,
            "flow": 1e-4,
        }
    ]
    found = assess(plan_from_data(document)).evaluation
    told = done_in(found)
    assert told["draining"] == "Beds of this plan: 2 by bell siphon."
    assert told["tail_joints"].endswith("ends 1 of 2 tails.")
    assert told["feed_place"] == "Fed by a ring or a bar of holes: 1 of 2 beds."
    assert told["bacteria"] == "This plan has 1 biofilter and 2 media beds."
    water = sum(v.rest_volume for v in found.vessels.values())
    share = 0.5 * 1.6 * 1.1 * 0.44 / water
    assert f" {100 * share:.0f} %" in told["exchange"]


def test_a_hose_that_slips_out_empties_the_sump() -> None:
    """What the run brought is lost, no more than the sump had over its pump, and the tank gets no
    fresh water (mass)."""
    found = assess_dynamic(assess(plan_from_data(_split())))
    slipped = {
        o.failure.place: o for o in found.resilience.outcomes if o.failure.kind == "slips_out"
    }
    main = slipped["R2"]
    assert "T1" in main.starved
    assert main.air_in == "P1"
    sump = found.assessment.evaluation.vessels["S1"]
    over = 1.6 * 1.1 * (sump.levels.high - sump.vessel.floor_height - 0.05)
    beds = 2 * 1.15 * 0.95 * 0.3 * 0.45 + 0.3  # what drains down to it besides, and the tank's film
    assert 0.3 * over < main.spilled < over + beds


def test_moving_it_tells_litres_weights_and_joints() -> None:
    """Beds first and the fish tank last; all the water is led off or bailed; media weigh their heap
    (450 kg/m3, common practice); a run with a union comes apart, a glued one is cut."""
    document = _split()
    document["outlets"][1]["removable"] = True
    found = assess(plan_from_data(document)).evaluation
    moving = moving_of(found)
    order = [d.vessel.id for d in moving.drained]
    assert order[-1] == "T1"
    assert set(order[:2]) == {"B1", "B2"}
    for row in moving.drained:
        assert row.by_itself + row.bailed == pytest.approx(row.water)
        assert row.water == pytest.approx(found.vessels[row.vessel.id].rest_volume)
    bed = next(d for d in moving.drained if d.vessel.id == "B1")
    assert bed.media_mass == pytest.approx(1.15 * 0.95 * 0.3 * 450.0)
    assert bed.is_too_heavy
    raft = next(d for d in moving.drained if d.vessel.id == "G1")
    assert raft.is_pulled
    assert raft.bailed == pytest.approx(0.0, abs=1e-9)
    assert moving.water == pytest.approx(sum(v.rest_volume for v in found.vessels.values()))
    by = {p.run.id: p.by for p in moving.parted}
    assert by["R1"] == "unions"
    assert by["R3"] == "cut"
    assert moving.cuts == sum(way == "cut" for way in by.values())
