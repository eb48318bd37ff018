"""From a brief to a sized plan: sound, or refused with what frees it."""

import json
import re
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any

import pytest

from bathys.build.shopping import shopping_list
from bathys.cli import main
from bathys.design import (
    LAYOUTS,
    Answer,
    AtHand,
    BadBrief,
    DesignRefused,
    brief_from_data,
    changed,
    design,
    design_for,
    reasons_of,
    tradeoffs,
)
from bathys.design.finishing import finished, judged
from bathys.parts.bores import pipe_sizes
from bathys.parts.pumps import CatalogPump
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import dump_plan, load_plan
from bathys.shelf import Price, PriceList
from bathys.simulation import Abandoned
from bathys.units import fill_sentence
from tests.engine.random_briefs import BEDS, random_brief

_LITRES_AN_HOUR = 1.0 / 3.6e6
_GALLON = 3.785411784e-3


def _is_sound(answer: Answer) -> bool:
    """By a look of its own: no problem, steady and through a day from rest and a power cut."""
    found = assess(load_plan(dump_plan(answer.assessment.evaluation.plan).encode()))
    later = assess_dynamic(found, with_failures=False)
    return not any(f.severity == "fault" for f in (*found.findings, *later.findings))


@pytest.mark.parametrize("number", range(12))
def test_a_drawn_brief_is_sound_or_freed(number: int) -> None:
    """A plan without a problem, or a refusal whose change is accepted as it stands."""
    told = brief_from_data(random_brief(number))
    try:
        answer = design_for(told, "power")
    except DesignRefused:
        with pytest.raises(DesignRefused) as refused:
            design(told)
        assert fill_sentence(refused.value.sentence, refused.value.figures, "metric", {})
        assert refused.value.frees, refused.value.sentence
        answer = design_for(changed(told, refused.value.frees), "power")
    assert _is_sound(answer)


SOLVABLE: dict[str, dict[str, Any]] = {
    "tote pair": {
        "layout": "stacked_pair",
        "tank": {"container": "tote-1000-low"},
        "beds": {"count": 1, "container": "tote-1000-bed"},
    },
    "classroom": {
        "layout": "stacked_pair",
        "tank": {"container": "aquarium-180"},
        "beds": {"count": 1, "container": "crate-45"},
    },
    "flooded": {
        "layout": "constant_flood",
        "tank": {"container": "round-500"},
        "beds": {"count": 1, "container": "tub-90"},
    },
    "linked": {
        "layout": "linked_beds",
        "tank": {"container": "tote-1000"},
        "beds": {"count": 3, "container": "crate-65"},
    },
    "loop": {
        "layout": "single_loop",
        "tank": {"container": "tote-1000"},
        "beds": {"count": 3, "container": "tote-1000-bed"},
        "dig": 0.5,
    },
    "clock": {
        "layout": "two_pumps",
        "tank": {"container": "round-1000"},
        "beds": {"count": 2, "container": "tote-1000-bed"},
        "rafts": {"count": 1, "container": "liner-bed"},
        "dig": 0.4,
    },
    "garden": {
        "layout": "split_flow",
        "tank": {"container": "round-1000"},
        "beds": {"count": 2, "container": "tote-1000-bed"},
        "rafts": {"count": 1, "container": "liner-bed"},
        "dig": 0.5,
    },
    "two tanks": {
        "layout": "split_flow",
        "tank": {"container": "tote-1000", "count": 2},
        "beds": {"count": 4, "container": "tote-1000-bed"},
        "dig": 0.5,
        "highest": 2.0,
        "units": "us",
    },
    "class": {
        "layout": "bench_top",
        "tank": {"container": "aquarium-112"},
        "beds": {"count": 1, "container": "crate-45"},
        "species": "ornamental",
    },
    "bank": {
        "layout": "cascade",
        "tank": {"container": "round-1000"},
        "beds": {"count": 2, "container": "tote-1000-bed"},
        "dig": 0.5,
        "units": "us",
    },
    "manifold": {
        "layout": "twin_sumps",
        "tank": {"container": "round-1000"},
        "beds": {"count": 3, "container": "tote-1000-bed"},
        "rafts": {"count": 1, "container": "liner-bed"},
        "dig": 0.5,
    },
    "nursery": {
        "layout": "side_tanks",
        "tank": {"container": "round-1000"},
        "side_tanks": {"count": 3, "container": "aquarium-112"},
        "dig": 0.4,
    },
    "two waters": {
        "layout": "decoupled_pair",
        "tank": {"container": "round-2000"},
        "beds": {"count": 2, "container": "tote-1000-bed"},
        "rafts": {"count": 1, "container": "liner-bed"},
        "dig": 0.5,
        "place": "greenhouse",
        "hot_air": 36.0,
    },
    "lettuce": {
        "layout": "raft_line",
        "tank": {"container": "round-2000"},
        "rafts": {"count": 3, "container": "liner-bed"},
        "dig": 0.4,
        "highest": 2.2,
    },
}


@cache
def answers_of(name: str) -> tuple[Answer, ...]:
    """All answers to one of the briefs that can be solved."""
    return design(brief_from_data(SOLVABLE[name]))


COUNTED = ("linked", "loop", "nursery", "lettuce")  # layouts that nothing else here builds


@pytest.mark.parametrize(
    "name",
    [pytest.param(n, marks=[pytest.mark.counted] if n in COUNTED else []) for n in SOLVABLE],
)
def test_what_can_be_solved_is_solved_for_every_aim(name: str) -> None:
    """Each aim has its answer; the frugal one draws the fewest watts; each size has its reason, in
    full words."""
    told, answers = brief_from_data(SOLVABLE[name]), answers_of(name)
    assert sorted(aim for a in answers for aim in a.aims) == ["cost", "margin", "power"]
    assert min(answers, key=lambda a: a.watts).watts == next(
        a.watts for a in answers if "power" in a.aims
    )
    assert _is_sound(answers[0])
    for answer in answers:
        assert not answer.faults
        plan = answer.assessment.evaluation.plan
        told_of = {r.part for r in reasons_of(told, answer)}
        assert {p.id for p in plan.pumps} | {s.id for s in plan.siphons} <= told_of
        for reason in reasons_of(told, answer):
            words = fill_sentence(reason.sentence, reason.figures, told.units, plan.names)
            assert "{" not in words


def test_what_makes_each_layout_is_there() -> None:
    """A float that lifts in the cascade; two sumps level within a centimetre; side tanks on one
    drain; a let-down by the clock, with new water in its place, between two loops."""
    names = ("bank", "manifold", "nursery", "two waters", "class")
    plans = {name: answers_of(name)[0].assessment.evaluation for name in names}
    (lift,) = plans["bank"].plan.pumps
    assert lift.band is not None
    one, two = (v for v in plans["manifold"].vessels.values() if v.vessel.name.endswith("sump"))
    assert abs(one.levels.high - two.levels.high) < 0.01
    nursery = plans["nursery"].plan
    assert len([v for v in nursery.vessels if v.name.startswith("Side tank")]) == 3
    assert len([r for r in nursery.runs if r.end.endswith(".side")]) == 1
    pair = plans["two waters"].plan
    assert len(pair.pumps) == 2
    assert pair.transfers
    assert pair.top_ups
    (unit,) = plans["class"].plan.pumps
    assert unit.power < 10.0


LIMITED: dict[str, tuple[dict[str, Any], str]] = {
    "tank too long for its room": ({"room_length": 1.1, "room_width": 1.0}, "room_length"),
    "no room to walk": ({"room_length": 1.3, "room_width": 1.2}, "room_length"),
    "watts": ({"most_watts": 10.0}, "most_watts"),
    "load": ({"most_load": 3000.0}, "most_load"),
    "small pump": ({"own_pump": "Low watt 400"}, "own_pump"),
    "no such pump": ({"own_pump": "Whirl"}, "own_pump"),
    "quiet": ({"is_quiet": True}, "is_quiet"),
}


@pytest.mark.parametrize("name", LIMITED)
def test_a_limit_is_kept_or_named(name: str) -> None:
    """The change that frees it is accepted, and the plan then keeps the new limit."""
    told, wish = LIMITED[name]
    brief = brief_from_data(SOLVABLE["tote pair"] | told)
    with pytest.raises(DesignRefused) as refused:
        design(brief)
    assert refused.value.wish == wish
    assert fill_sentence(refused.value.sentence, refused.value.figures, "us", {})
    freed = changed(brief, refused.value.frees)
    answer = design_for(freed, "power")
    assert freed.most_watts is None or answer.watts <= freed.most_watts


def test_a_budget_counts_what_has_a_price_and_an_own_pump_is_taken() -> None:
    """Without prices a budget says nothing; with them the sum over it is named."""
    told = SOLVABLE["tote pair"] | {"budget": 100.0, "own_pump": "Old pump"}
    pump = CatalogPump("Old pump", 0.0008, 3.0, 2.0, 60.0, is_own=True)
    answer = design_for(brief_from_data(told), "power", AtHand((pump,)))
    assert [p.name for p in answer.assessment.evaluation.plan.pumps] == ["Old pump"]
    assert answer.cost(brief_from_data(told), PriceList.empty()) is None
    item = shopping_list(answer.assessment.evaluation, 5.0).lines[0].item
    prices = PriceList("EUR", {item.key: Price(item, 180.0)})
    with pytest.raises(DesignRefused) as refused:
        design(brief_from_data(told), AtHand((pump,), prices))
    assert refused.value.wish == "budget"
    assert refused.value.figures["allowed"] == "100.00 EUR"
    assert refused.value.frees["budget"] >= 180.0


def test_what_is_beaten_in_everything_is_told_from_what_is_not() -> None:
    """Of all that was tried, those that are best in something are never beaten; the frugal answer
    of the search draws as little as the least of all (exhaustive enumeration)."""
    told = brief_from_data(SOLVABLE["tote pair"])
    rows = tradeoffs(told)
    assert len(rows) > 1
    free = [r for r in rows if not r.is_beaten]
    assert min(r.watts for r in rows) == min(r.watts for r in free)
    assert max(r.spare for r in rows) == max(r.spare for r in free)
    for row in rows:
        better = [o for o in rows if o.watts < row.watts and o.spare > row.spare]
        assert row.is_beaten or not better
    assert design_for(told, "power").watts == pytest.approx(min(r.watts for r in rows), abs=0.1)


def test_the_search_tells_how_far_it_is() -> None:
    """Shares never fall, and a search that is not wanted stops."""
    shares = list[float]()

    def tell(share: float) -> bool:
        shares.append(share)
        return len(shares) < 8

    with pytest.raises(Abandoned):
        design(brief_from_data(SOLVABLE["garden"]), tell=tell)
    assert shares == sorted(shares)
    assert 0.0 <= shares[0] <= shares[-1] <= 1.0


def test_the_same_brief_gives_the_same_plans() -> None:
    again = design(brief_from_data(SOLVABLE["garden"]))
    first, second = (
        [dump_plan(a.assessment.evaluation.plan) for a in answers]
        for answers in (answers_of("garden"), again)
    )
    assert first == second


def test_the_sump_is_the_smallest_that_does() -> None:
    """As trying every smaller one says; and more beds never have a smaller one."""
    sizes = []
    for beds in (1, 2, 4):
        told = brief_from_data(SOLVABLE["garden"] | {"beds": {"count": beds, "container": BEDS[0]}})
        answer = design_for(told, "cost")
        chosen = answer.choice.sump
        assert chosen is not None
        sizes.append(chosen.capacity)
        for sump in LAYOUTS[told.layout].sumps_for(told):
            if sump == chosen:
                break
            choice = replace(answer.choice, sump=sump)
            try:
                drawn = LAYOUTS[told.layout].draw(told, choice).plan()
                tried = judged(finished(drawn, choice, told))
                later = assess_dynamic(tried, with_failures=False)
            except DesignRefused:
                continue
            assert any(f.severity == "fault" for f in (*tried.findings, *later.findings))
    assert sizes == sorted(sizes)


def test_more_fish_never_have_less_air_or_a_smaller_filter() -> None:
    air, carriers = list[float](), list[float]()
    for mass in (4.0, 12.0, 20.0):
        told = brief_from_data(SOLVABLE["garden"] | {"fish": mass})
        plan = design_for(told, "cost").assessment.evaluation.plan
        air.append(sum(a.flow for a in plan.air))
        carriers.append(sum(v.carriers.volume for v in plan.vessels if v.carriers is not None))
    assert air == sorted(air)
    assert carriers == sorted(carriers)


def test_what_practice_builds_comes_out_of_its_briefs() -> None:
    """A 500 L bed twice an hour takes about 1,000 L/h; a bell is twice its standpipe's nominal size
    or wider; in a 14 in bed with 12 in of media the standpipe is about 11 in; tails fall 12 to
    24 in; a 25 gal bed beside a 50 gal tank runs on a pump labelled about 130 gal/h (common
    practice)."""
    shape = {"kind": "box", "length": 1.3, "width": 1.1, "height": 14 * 0.0254}
    told = brief_from_data(
        {
            "layout": "stacked_pair",
            "tank": {"container": "tote-1000"},
            "beds": {"shape": shape},
            "schools": ["frugal"],
            "highest": 2.0,
        }
    )
    plan = design_for(told, "power").assessment.evaluation.plan
    assert plan.runs[-1].wanted_flow == pytest.approx(1000 * _LITRES_AN_HOUR, rel=0.07)
    (bed,) = (v for v in plan.vessels if v.media is not None)
    assert bed.media is not None
    assert bed.media.top == pytest.approx(12 * 0.0254, abs=0.003)
    siphon: Any = plan.siphons[0]
    assert siphon.rim_height == pytest.approx(11 * 0.0254, abs=0.006)
    bells = {s.nominal: s.bore for s in pipe_sizes("ASTM D1785 Schedule 40")}
    assert siphon.bell_bore.inside >= 1.9 * siphon.standpipe_bore.inside
    assert siphon.bell_bore.inside in bells.values()
    tail = plan.run_of(siphon)
    end = plan.elevation(tail.end) if tail is not None else None
    assert end is not None
    assert 0.3 <= bed.floor_height - end <= 0.61
    small = brief_from_data(
        {
            "layout": "stacked_pair",
            "tank": {"shape": {"kind": "cylinder", "diameter": 0.7, "height": 0.5}},
            "beds": {"shape": {"kind": "box", "length": 0.8, "width": 0.4, "height": 0.3}},
        }
    )
    pump: Any = design_for(small, "power").assessment.evaluation.plan.pumps[0]
    label = pump.curve.max_flow / _GALLON * 3600.0
    assert 80.0 <= label <= 220.0


BAD: tuple[tuple[dict[str, Any], str], ...] = (
    ({"layout": "stacked_pair"}, "tank"),
    ({"tank": {"container": "boat"}}, "tank"),
    ({"tank": {"container": "round-500", "count": 0}}, ""),
    ({"tank": {"count": 1}}, "tank"),
    ({"tank": {"shape": {"kind": "ark"}}}, "tank"),
    ({"tank": {"shape": {"kind": "cylinder", "diameter": -1.0, "height": 1.0}}}, "tank"),
    ({"tank": {"container": "round-500"}, "dig": float("1e9")}, "dig"),
    ({"tank": {"container": "round-500"}, "pipe": "bamboo"}, ""),
    ({"tank": {"container": "round-500"}, "boats": 3}, "boats"),
    ({"tank": {"container": "round-500"}, "budget": 0.0}, "budget"),
    ({"tank": {"container": "round-500"}, "room_length": 3.0}, ""),
    ({"tank": {"container": "round-500"}, "schools": []}, "schools"),
    ({"tank": {"container": "round-500"}, "name": ""}, "name"),
    ({"tank": {"container": "round-500", "count": 40}}, "tank.count"),
)


@pytest.mark.parametrize(("told", "place"), BAD)
def test_no_brief_is_a_sentence(told: dict[str, Any], place: str) -> None:
    with pytest.raises(BadBrief) as bad:
        brief_from_data({"layout": "stacked_pair"} | told)
    assert any(f.path.startswith(place) for f in bad.value.faults)
    assert not [
        f.sentence for f in bad.value.faults if re.search("[Ii]nput|String|Tuple", f.sentence)
    ]


CONTRARY: dict[str, tuple[dict[str, Any], str]] = {
    "nothing grows": ({"beds": {"count": 0}}, "beds"),
    "rafts in a pair": ({"rafts": {"count": 1, "container": "liner-bed"}}, "rafts"),
    "two tanks in a pair": ({"tank": {"container": "round-500", "count": 2}}, "tank"),
    "no such layout": ({"layout": "labyrinth"}, "layout"),
    "under a low roof": ({"highest": 0.9}, "highest"),
    "side tanks in a pair": (
        {"side_tanks": {"count": 1, "container": "aquarium-54"}},
        "side_tanks",
    ),
    "no side tank": ({"layout": "side_tanks"}, "side_tanks"),
    "two beds on a bench": (
        {"layout": "bench_top", "beds": {"count": 2, "container": "crate-20"}},
        "beds",
    ),
    "thirsty beds": ({"beds": {"count": 4, "container": "tote-1000-bed"}}, "beds"),
}


@pytest.mark.parametrize("name", CONTRARY)
def test_a_brief_that_cannot_be_says_which_wish_is_in_the_way(name: str) -> None:
    told, wish = CONTRARY[name]
    brief = brief_from_data(SOLVABLE["tote pair"] | told)
    with pytest.raises(DesignRefused) as refused:
        design(brief)
    assert refused.value.wish == wish
    assert fill_sentence(refused.value.sentence, refused.value.figures, "us", {})


def test_the_command_writes_the_plan_and_tells_why(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """The first plan goes to a file that is a plan; reasons are told; a refusal tells what frees
    it; what is no brief is told with its place."""
    told, plan = tmp_path / "brief.json", tmp_path / "plan.json"
    told.write_text(json.dumps(SOLVABLE["tote pair"]))
    assert main(["design", str(told), "-o", str(plan)]) == 0
    words = capsys.readouterr().out
    assert "least power" in words
    assert "Fish: " in words
    assert load_plan(plan.read_bytes()).siphons
    assert main(["design", str(told), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert data["answers"][0]["plan"]["parts"]
    told.write_text(json.dumps(SOLVABLE["tote pair"] | {"highest": 1.0}))
    assert main(["design", str(told)]) == 1
    assert '"highest": 1.35' in capsys.readouterr().err
    told.write_text("{")
    assert main(["design", str(told)]) == 2
    assert main(["design", str(tmp_path / "none.json")]) == 2
    capsys.readouterr()
    assert main(["schema", "--brief"]) == 0
    assert "tank" in json.loads(capsys.readouterr().out)["properties"]
