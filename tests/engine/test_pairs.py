"""Two loops apart: closed forms of mixed tanks, mass, and what goes through an opened valve."""

import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.evaluation import evaluate
from bathys.plan import load_plan
from bathys.quality import Constituent, FlowNet, Leg, steady
from bathys.quality.letting_down import letting_down
from bathys.quality.pairs import WEEKS, pair_course, pair_of, usual_let_down
from bathys.quality.transport import steady_with_uptake
from bathys.quality.water import water_of
from bathys.vessels.storage import storage_of
from tests.conftest import EXAMPLE

PLAN = load_plan((EXAMPLE.parent / "decoupled-pair.json").read_bytes())
FOUND = evaluate(PLAN)
PAIR, WATER = pair_of(FOUND), water_of(FOUND)
_WEEK = 604800.0
ROUND, DOWN = 5e-4, 5e-7  # flow in each loop, and from one to the other [m³/s]
LEGS = (Leg("a", 0, 1, ROUND), Leg("b", 1, 0, ROUND), Leg("c", 2, 3, ROUND), Leg("d", 3, 2, ROUND))
HANDED = (Leg("down", 0, 2, DOWN), Leg("fresh", -1, 0, DOWN))
PLACES, VOLUMES = ("F", "G", "P", "Q"), np.array([1.0, 0.5, 0.5, 1.0])


def test_two_loops_that_nothing_joins_are_worked_out_apart() -> None:
    """What climbs in the one is not told of the other, nor do its plants take it up."""
    net = FlowNet(PLACES, VOLUMES, LEGS)
    of = Constituent("nitrate", {"F": 1e-4})
    (plain,) = steady(net, [of])
    carried, taken = steady_with_uptake(net, of, {"P": 1e-3}, 2.0)
    for found in (plain, carried):
        assert found.concentrations == {"F": math.inf, "G": math.inf, "P": 0.0, "Q": 0.0}
        assert found.climbs == pytest.approx(1e-4, rel=1e-12)
    assert taken == {"P": 0.0}


@pytest.mark.parametrize(("wants", "climbs"), [(0.0, 1e-4), (4e-5, 6e-5), (1e-3, 0.0)])
def test_what_is_let_down_one_way_ends_in_the_second_loop(wants: float, climbs: float) -> None:
    """Closed form of two mixed tanks: the first stands at S/L whatever the second does; in that,
    plants stop the climb where they can take all of S."""
    net = FlowNet(PLACES, VOLUMES, LEGS + HANDED)
    made = 1e-4
    carried, taken = steady_with_uptake(net, Constituent("nitrate", {"G": made}), {"Q": wants}, 2.0)
    level = carried.concentrations
    assert level["F"] == pytest.approx(made / DOWN, rel=1e-9)
    assert carried.climbs == pytest.approx(climbs, rel=1e-9, abs=1e-15)
    assert taken["Q"] == pytest.approx(made - climbs, rel=1e-9, abs=1e-15)
    if climbs:
        assert level["P"] == math.inf
    else:
        # Monod: made = wants C/(2 + C)
        assert level["Q"] == pytest.approx(2.0 * made / (wants - made), rel=1e-9)


def test_the_fish_loop_goes_as_one_mixed_tank() -> None:
    """Closed form: C = (S/L)(1 − exp(−L t/V)), salt c0 exp(−L t/V); 2 %, since the loop is three
    vessels that the pump turns over fifteen times a day."""
    assert PAIR is not None
    assert WATER is not None
    assert (PAIR.carrier, PAIR.fish, PAIR.plants) == ("R4", ("T1", "F1", "S1"), ("S2", "G1"))
    course = pair_course(FOUND, WATER, PAIR, 0.4)
    for k, week in enumerate(WEEKS):
        left = math.exp(-0.4 * week / course.fish.volume)
        assert course.fish.nitrate[k] == pytest.approx(course.in_the_end * (1 - left), rel=0.02)
        assert course.fish.salt[k] == pytest.approx(1000.0 * left, rel=0.02)
    assert course.in_the_end == pytest.approx(course.made / 0.4, rel=1e-12)
    assert course.drift * course.plants.volume == pytest.approx(
        course.made - course.taken_up, rel=1e-12
    )


@pytest.mark.uncounted
@settings(max_examples=8, deadline=None)
@given(st.floats(0.02, 3.0))
def test_salt_is_kept_and_more_let_down_lowers_the_nitrate_of_fish(let_down: float) -> None:
    """In both loops together it stays what was put in."""
    assert PAIR is not None
    assert WATER is not None
    course = pair_course(FOUND, WATER, PAIR, let_down)
    fish, plants = course.fish, course.plants
    for one, other in zip(fish.salt, plants.salt, strict=True):
        assert one * fish.volume + other * plants.volume == pytest.approx(
            1000.0 * fish.volume, rel=1e-5
        )
    more = pair_course(FOUND, WATER, PAIR, 1.2 * let_down)
    assert more.fish.nitrate[-1] < fish.nitrate[-1]
    assert more.plants.salt[-1] > plants.salt[-1]


def test_a_valve_is_opened_until_what_is_wanted_has_gone_through() -> None:
    """To a hundredth; the plant sump holds all of it but what its pump has taken on meanwhile."""
    wanted = (0.02, 0.06, 0.1)
    found = [letting_down(PLAN, "R4", v) for v in wanted]
    assert [f.volume for f in found] == pytest.approx(wanted, rel=0.01)
    # About as fast all the time: the pump keeps the tank full.
    rates = [f.volume / f.seconds for f in found]
    assert max(rates) < 1.1 * min(rates)
    sump = PLAN.vessel("S2")
    name, rise = found[1].rises
    assert name == "S2"
    storage, level = storage_of(PLAN, sump), FOUND.vessels["S2"].levels.low - sump.floor_height
    held = storage.volume_at(level + rise) - storage.volume_at(level)
    assert held == pytest.approx(0.06, rel=0.1)
    assert not any(f.spilled or f.dry for f in found)


def test_usual_is_a_tenth_where_no_clock_lets_down() -> None:
    """A plan without two loops has no pair."""
    assert PAIR is not None
    assert usual_let_down(FOUND, PAIR) == pytest.approx(
        0.1 * sum(FOUND.vessels[m].volume for m in PAIR.fish), rel=1e-12
    )
    assert pair_of(evaluate(load_plan(EXAMPLE.read_bytes()))) is None


def test_what_a_clock_lets_down_is_followed_and_counted() -> None:
    """A valve open for a minute twice a day lets down twice what one opening of a minute does."""
    clock = {"kind": "spells", "spells": [{"begins": b, "ends": b + 60.0} for b in (0.0, 43200.0)]}
    data = json.loads((EXAMPLE.parent / "decoupled-pair.json").read_bytes())
    for part in data["parts"]:
        if part["id"] == "R4":
            part |= {"valve": {"kind": "ball", "angle": 0.0}, "valve_clock": clock}
    found = evaluate(load_plan(json.dumps(data).encode()))
    pair = pair_of(found)
    assert pair is not None
    once = letting_down(PLAN, "R4", 0.0596)
    assert once.seconds == pytest.approx(60.0, rel=0.03)
    assert usual_let_down(found, pair) == pytest.approx(14.0 * 0.0596, rel=0.03)
