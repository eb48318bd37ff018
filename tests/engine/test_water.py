"""What fish, bacteria, plants and air make of the water."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from bathys.drawing import draw_side_view
from bathys.drawing.ribbons import ribbon_chart
from bathys.drawing.stations import stations_of
from bathys.drawing.tints import tint_of
from bathys.edits import Edit, add_part, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.physics.air import line_loss
from bathys.physics.carbonate import constants, ph_of, unionised_share
from bathys.physics.nitrogen import AMMONIA, OXYGEN_FOR_NITROGEN
from bathys.physics.oxygen import bubble_transfer, fall_share, saturation
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.quality import solids_of
from bathys.quality.air import air_shares
from bathys.quality.alkalinity import alkalinity_of
from bathys.quality.budget import nitrogen_budget
from bathys.quality.cycling import cycled
from bathys.quality.dosing import SUBSTANCES, dose_of
from bathys.quality.feeding import feed_on_area, school_areas
from bathys.quality.heat import heat_of
from bathys.quality.power import battery_charge, power_of
from bathys.quality.reserve import first_limit, least_flows, meal_adds, reserve_of
from bathys.quality.schools import stock_schools
from bathys.quality.season import season_of
from bathys.quality.shades import shades_of
from bathys.quality.stocking import stock_of
from bathys.quality.surfaces import surfaces_of
from bathys.quality.survival import _Tank, bridge_of, outlive, survivals_of
from bathys.quality.transport import Constituent, FlowNet, Leg, steady, steady_with_uptake
from bathys.quality.water import water_of
from bathys.quality.water_result import Otherwise, WaterResult
from bathys.rules import judge
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

# Physics

# Standard Methods 4500-O, table of saturation at one atmosphere, no salt [mg/L] (memory).
TABLE = {0: 14.621, 5: 12.770, 10: 11.288, 15: 10.084, 20: 9.092, 25: 8.263, 30: 7.559, 35: 6.949}


@pytest.mark.parametrize(("warm", "holds"), TABLE.items())
def test_saturation_is_that_of_the_standard_table(warm: float, holds: float) -> None:
    assert saturation(warm) == pytest.approx(holds, abs=0.002)


def test_saturation_falls_with_height_and_salt() -> None:
    """At 20 °C and 1,524 m the table's factor is 0.83 (Standard Methods, memory); 10 g/kg of salt
    take 9.092 down to 8.56 (the same)."""
    assert saturation(20.0, 1524.0) / saturation(20.0) == pytest.approx(0.832, abs=0.004)
    assert saturation(20.0, 0.0, 10.0) == pytest.approx(8.56, abs=0.02)


# Emerson et al. 1975, table of the un-ionised share [%] (memory).
UNIONISED = [(20.0, 7.0, 0.396), (20.0, 8.0, 3.82), (25.0, 8.0, 5.38), (15.0, 7.5, 0.859)]


@pytest.mark.parametrize(("warm", "ph", "percent"), UNIONISED)
def test_the_harmful_share_of_ammonia(warm: float, ph: float, percent: float) -> None:
    assert 100.0 * unionised_share(ph, warm) == pytest.approx(percent, rel=0.01)


def test_carbonate_constants_and_a_pair_of_ph() -> None:
    """pK1 6.352, pK2 10.329, pKw 13.995 at 25 °C (Plummer and Busenberg 1982; Stumm and Morgan).
    Water of 100 mg/L of CaCO3 in balance with air stands near pH 8.3 (textbooks, memory)."""
    first, second, water = constants(25.0)
    assert first == pytest.approx(6.352, abs=0.002)
    assert second == pytest.approx(10.329, abs=0.002)
    assert water == pytest.approx(13.995, abs=0.005)
    assert ph_of(100.0, 0.55, 20.0) == pytest.approx(8.5, abs=0.25)
    by_hand = first + math.log10((100.0 / 50.04) / (8.0 / 44.01))
    assert ph_of(100.0, 8.0, 25.0) == pytest.approx(by_hand, abs=0.01)


def test_bubbles_and_falls() -> None:
    """1 m³/h of air, 1.5 % of its oxygen: 4.1 g/h in clean water at 20 °C without any (by hand).
    A fall of a metre in clean water at 20 °C makes up about half of what is short."""
    per_hour = 3600.0 * bubble_transfer(1.0 / 3600.0, 0.015, 20.0, 1.0) * 9.09
    assert per_hour == pytest.approx(276.5 * 0.015, rel=1e-6)
    assert fall_share(1.0, 20.0, 1.5, 1.0) == pytest.approx(0.49, abs=0.03)
    assert fall_share(0.0, 20.0, 1.5, 1.0) == 0.0


# Transport with uptake


def test_uptake_in_one_tank_is_the_root_of_a_quadratic() -> None:
    """S = Q C + V C/(K + C), by hand."""
    net = FlowNet(("T",), np.array([1.0]), (Leg("in", -1, 0, 0.5), Leg("out", 0, -1, 0.5)))
    carried, taken = steady_with_uptake(net, Constituent("x", {"T": 2.0}), {"T": 3.0}, 1.0)
    level = carried.concentrations["T"]
    b = 0.5 + 3.0 - 2.0  # of 0.5 C² + (0.5 + 3 − 2) C − 2 = 0
    root = (-b + math.sqrt(b * b + 4.0 * 0.5 * 2.0)) / (2.0 * 0.5)
    assert level == pytest.approx(root, rel=1e-9)
    assert taken["T"] + carried.leaves == pytest.approx(2.0, rel=1e-9)


def test_more_than_all_can_take_climbs() -> None:
    net = FlowNet(("T",), np.array([1.0]), ())
    carried, taken = steady_with_uptake(net, Constituent("x", {"T": 5.0}), {"T": 3.0}, 1.0)
    assert math.isinf(carried.concentrations["T"])
    assert carried.climbs == pytest.approx(2.0)
    assert taken["T"] == 3.0


@settings(max_examples=40, deadline=None)
@given(st.floats(0.01, 2.0), st.floats(0.1, 5.0), st.floats(1e-6, 5.0))
def test_a_plenty_of_uptake_is_a_straight_line(source: float, flow: float, most: float) -> None:
    """Where half of the most is taken only far over what there is, Monod is first order."""
    net = FlowNet(
        ("A", "B"),
        np.array([1.0, 2.0]),
        (Leg("x", -1, 0, flow), Leg("y", 0, 1, flow), Leg("z", 1, -1, flow)),
    )
    half = 1e7
    made = Constituent("x", {"A": source})
    carried, _ = steady_with_uptake(net, made, {"B": most * half}, half)
    (line,) = steady(net, [Constituent("x", {"A": source}, decay={"B": most / 2.0})])
    for place in ("A", "B"):
        assert carried.concentrations[place] == pytest.approx(line.concentrations[place], rel=1e-5)


# A plan


def _ordinary(count: int = 48, **vessels: Any) -> Plan:
    """A tank of about a cubic metre with 12 kg of fish on 120 g of feed a day, two clay beds of
    about 300 L, 20 L of carriers, 2,500 L/h, 24 °C."""
    data = lists_of(EXAMPLE.parent / "practice/bell-orchard.json")
    data["site"] |= {"water_temperature": 24.0}
    data["fish"] = [
        {"kind": "cohort", "id": "K1", "name": "Fish", "stands_in": "T1", "species": "warm",
         "count": count, "mean_mass": 0.25, "harvest_mass": 0.5, "eats": 0.01}
    ]  # fmt: skip
    data["air"] = [
        {"kind": "stone", "id": "A1", "name": "Stone", "stands_in": "T1", "flow": 1000e-3 / 3600.0}
    ]
    can = next(v for v in data["vessels"] if v["id"] == "C1")
    can["carriers"] = {"kind": "moving", "volume": 0.02}
    for id_, fields in vessels.items():
        next(v for v in data["vessels"] if v["id"] == id_).update(fields)
    return plan_from_data(data)


def _water(plan: Plan, feed: float = 1.0) -> tuple[Evaluation, WaterResult]:
    found = evaluate(plan)
    water = water_of(found, Otherwise(feed=feed))
    assert water is not None
    return found, water


def test_an_ordinary_system_comes_out_as_growers_know_it() -> None:
    """Common practice: ammonia about 0.45, nitrite about 0.15, solids 2 mg/L or so in the tank, and
    oxygen enough."""
    found, water = _water(_ordinary())
    tank = water.vessels["T1"]
    assert tank.tan == pytest.approx(0.45, abs=0.15)
    assert tank.nitrite == pytest.approx(0.15, abs=0.07)
    assert solids_of(found).in_water("T1") == pytest.approx(2.0, abs=1.0)
    assert 5.0 < tank.oxygen < water.holds
    assert 6.8 < tank.ph < 8.3


def test_nitrogen_and_oxygen_close() -> None:
    """Made is turned over, taken up, lost or left; used is brought: to 1e-6 and 1e-9."""
    plan = _ordinary(B1={"crop": {"kind": "leafy"}}, B2={"crop": {"kind": "fruiting"}})
    found, water = _water(plan)
    fed = sum(s.feed * s.protein * 0.092 for s in stock_of(found).values())
    rots = sum(solids_of(found).held(b) for b in ("B1", "B2")) * 0.028
    assert water.made == pytest.approx(fed + rots, rel=1e-9)
    assert sum(water.nitrified.values()) == pytest.approx(water.made, rel=1e-6)
    ends = sum(water.taken_up.values()) + water.gas + water.nitrate_left
    assert ends == pytest.approx(water.made, rel=1e-6)
    assert sum(water.oxygen_used.values()) == pytest.approx(
        sum(water.oxygen_brought.values()), rel=1e-9
    )
    assert water.oxygen_used["bacteria"] == pytest.approx(
        OXYGEN_FOR_NITROGEN * sum(water.nitrified.values())
    )


def test_what_a_surface_does_is_monod_by_hand() -> None:
    """In the can with carriers: 0.3 × 1.07⁴ × C/(1 + C) × O/(O + 2) for its square metres."""
    found, water = _water(_ordinary())
    can = water.vessels["C1"]
    share = can.tan / (1.0 + can.tan) * can.oxygen / (can.oxygen + 2.0)
    by_hand = 0.3 * 1.07**4 * share * surfaces_of(found)["C1"]
    assert water.nitrified["C1"] == pytest.approx(by_hand, rel=1e-3)
    assert AMMONIA.rate(1e9, 20.0, 1e9) == pytest.approx(0.3)


@settings(max_examples=12, deadline=None)
@given(st.integers(5, 80), st.floats(1.02, 1.5))
def test_more_feed_never_lowers_ammonia_nor_raises_oxygen(count: int, times: float) -> None:
    plan = _ordinary(count)
    found, one = _water(plan)
    two = water_of(found, Otherwise(feed=times))
    assert two is not None
    assert two.vessels["T1"].tan >= one.vessels["T1"].tan - 1e-9
    assert two.vessels["T1"].oxygen <= one.vessels["T1"].oxygen + 1e-9


@settings(max_examples=10, deadline=None)
@given(st.floats(1.05, 4.0), st.sampled_from(["fine", "medium", "coarse"]))
def test_more_air_never_lowers_oxygen(times: float, bubbles: str) -> None:
    plan = apply_edits(_ordinary(), [Edit("air.A1.bubbles", bubbles)])
    more = apply_edits(plan, [Edit("air.A1.flow", plan.part("A1").flow * times)])
    one, two = _water(plan)[1], _water(more)[1]
    for id_, at in one.vessels.items():
        assert two.vessels[id_].oxygen >= at.oxygen - 1e-9


def test_the_order_of_parts_does_not_matter() -> None:
    plan = _ordinary(B1={"crop": {"kind": "leafy"}})
    turned = plan.model_copy(
        update={"vessels": plan.vessels[::-1], "runs": plan.runs[::-1], "air": plan.air[::-1]}
    )
    one, two = _water(plan)[1], _water(turned)[1]
    for id_, at in one.vessels.items():
        assert two.vessels[id_].tan == pytest.approx(at.tan, rel=1e-6)
        assert two.vessels[id_].oxygen == pytest.approx(at.oxygen, rel=1e-6)


def test_what_could_yet_be_fed_is_where_a_limit_is_met() -> None:
    """A hair less holds all limits, a hair more does not."""
    found, _ = _water(_ordinary())
    reserve = reserve_of(found)
    assert reserve is not None
    assert reserve.times > 1.0
    under = water_of(found, Otherwise(feed=0.99 * reserve.times))
    over = water_of(found, Otherwise(feed=1.01 * reserve.times))
    assert under is not None
    assert over is not None
    assert first_limit(under) == ("", "")
    assert first_limit(over) == (reserve.limit, "T1")


def test_the_flow_that_each_limit_asks_for_is_where_it_is_met() -> None:
    """A tenth more holds it, a tenth less does not; with the beds idle less is turned over."""
    found = evaluate(apply_edits(_ordinary(90), [Edit("air.A1.flow", 1e-6)]))
    flows = least_flows(found)
    assert 0.0 < flows["oxygen"] < 10.0
    for times, is_enough in ((1.1, True), (0.9, False)):
        water = water_of(found, Otherwise(flow=times * flows["oxygen"]))
        assert water is not None
        assert (water.vessels["T1"].oxygen >= 3.0) is is_enough
    now, idle = water_of(found), water_of(found, Otherwise(beds=False))
    assert now is not None
    assert idle is not None
    assert idle.vessels["T1"].tan > now.vessels["T1"].tan


def test_fish_grow_by_what_they_eat() -> None:
    """Doubling at 1 % a day and 1.6 kg of feed a kilogram in the warmth they like best:
    ln 2/ln(1 + 0.01/1.6) = 111 days; the water has enough where the reserve says."""
    plan = apply_edits(_ordinary(), [Edit("site.water_temperature", 26.0)])
    found = evaluate(plan)
    season, reserve = season_of(found), reserve_of(found)
    assert season is not None
    assert reserve is not None
    assert season.harvest["K1"] == pytest.approx(math.log(2) / math.log(1 + 0.01 / 1.6), abs=1.0)
    assert season.mass[-1] == pytest.approx(24.0)
    assert season.feed[-1] == pytest.approx(240.0)
    for day, feed in zip(season.days, season.feed, strict=True):
        is_over = season.too_much is not None and day >= season.too_much
        assert (feed > reserve.feed) is is_over
    cold = season_of(evaluate(apply_edits(plan, [Edit("site.water_temperature", 22.5)])))
    assert cold is not None
    assert cold.harvest["K1"] is None or cold.harvest["K1"] > season.harvest["K1"]


def test_a_double_meal_by_hand() -> None:
    found, water = _water(_ordinary())
    volume = sum(v.volume for v in found.vessels.values())
    assert meal_adds(found, water) == pytest.approx(0.6 * 120.0 * 0.36 * 0.092 / volume)


def test_alkalinity_by_hand() -> None:
    """7.14 g for each gram nitrified, 3.57 back for what goes as gas; so many days down to two
    degrees; 2.00 g of potassium bicarbonate for one of CaCO3."""
    found, water = _water(_ordinary())
    told = alkalinity_of(found, water)
    lost = 7.14 * sum(water.nitrified.values()) - 3.57 * water.gas
    assert told.lost == pytest.approx(lost)
    volume = sum(v.volume for v in found.vessels.values())
    assert told.days == pytest.approx(volume * (100.0 - 2 * 17.85) / lost)
    assert told.potassium == pytest.approx(7.0 * 2.0 * lost / 1000.0)


def test_schools_of_stock_and_of_area_by_hand() -> None:
    """25 L of wet media for half a kilogram; a litre of moving carriers for half a kilogram; 120 g
    a day do for 2.4 to 3 m² of leafy greens at 40 to 50 g."""
    found, water = _water(_ordinary(B1={"crop": {"kind": "leafy"}}))
    told = {s.name: s for s in stock_schools(found)}
    carriers = next(s for n, s in told.items() if "carriers" in n)
    assert carriers.mass == pytest.approx(10.0)
    media = next(s for n, s in told.items() if "media" in n)
    assert media.mass == pytest.approx(media.has / 0.05)
    fao = school_areas(found, water)[0]
    assert (fao.least, fao.most) == (pytest.approx(2.4), pytest.approx(3.0))
    given_ = feed_on_area(found, water)
    assert given_ is not None
    assert given_.feed == pytest.approx(120.0 / given_.area)


def test_a_plan_without_fish_has_no_water_to_judge() -> None:
    plan = load_plan((EXAMPLE.parent / "practice/cannery-header.json").read_bytes())
    assert water_of(evaluate(plan)) is None


def test_fish_and_stones_go_with_their_vessel() -> None:
    """Added from the tank's menu; gone with it; refused where there is none."""
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    for kind in ("cohort", "stone"):
        plan = apply_edits(plan, add_part(plan, kind, "T1")[0])
    assert [p.stands_in for p in (*plan.fish, *plan.air)] == ["T1"] * 4
    with pytest.raises(Exception, match="no vessel called T9"):
        apply_edits(plan, [Edit("fish.K1.stands_in", "T9")])
    with pytest.raises(Exception, match="over the vessel's rim"):
        apply_edits(plan, [Edit("air.A1.height", 5.0)])


# The start


@pytest.mark.parametrize(("warm", "days"), [(20.0, 42.0), (22.0, 34.0), (24.0, 29.0)])
def test_a_start_lasts_as_long_as_growers_say(warm: float, days: float) -> None:
    """Four to six weeks (common practice), the warmer the sooner; about a week and a half with
    media brought in."""
    course = cycled(warm)
    assert course.ready == pytest.approx(days, abs=3.0)
    assert course.soonest is not None
    assert course.latest is not None
    assert course.soonest < days < course.latest + 3.0
    helped = cycled(warm, inoculated=True)
    assert helped.ready is not None
    assert helped.ready < 0.5 * days


def test_a_start_agrees_with_another_solver() -> None:
    """The same two-step growth written again for Radau: peaks of nitrite within 1 %."""

    def rates(_: float, y: np.ndarray) -> list[float]:
        tan, nitrite, _n, one, two = np.maximum(y, 0.0)
        fast = 1.1**2
        a = 0.94 * 0.6 * fast * one * tan / (1.0 + tan)
        b = 0.94 * 0.65 * fast * two * nitrite / (1.0 + nitrite)
        dose = min(max((3.0 - tan) / 0.3, 0.0), 1.0) * min(max((5.0 - nitrite) / 0.5, 0.0), 1.0)
        return [
            dose - a / 0.15, a / 0.15 - b / 0.05, b / 0.05, a - 0.1 * fast * one,
            b - 0.1 * fast * two,
        ]  # fmt: skip

    times = np.linspace(0.0, 90.0, 361)
    theirs = solve_ivp(
        rates, (0.0, 90.0), [0.0, 0.0, 0.0, 3e-4, 3e-4], "Radau", times, rtol=1e-7, atol=1e-9
    )
    ours = cycled(22.0)
    assert ours.nitrite.max() == pytest.approx(theirs.y[1].max(), rel=0.01)
    assert ours.days[ours.nitrite.argmax()] == pytest.approx(times[theirs.y[1].argmax()], abs=0.5)


# Air


def _aired(*heights: float, **pump: float) -> Evaluation:
    """The ordinary system with stones at heights in its tank, all on one air pump."""
    data = lists_of(EXAMPLE.parent / "practice/bell-orchard.json")
    data["air_pumps"] = [
        {"kind": "air_pump", "id": "AP1", "name": "Air pump", "max_flow": 1e-3,
         "max_pressure": 30000.0, "power": 25.0} | pump
    ]  # fmt: skip
    data["air"] = [
        {"kind": "stone", "id": f"A{k}", "name": f"Stone {k}", "stands_in": "T1", "flow": 1e-6,
         "fed_by": "AP1", "height": h}
        for k, h in enumerate(heights, start=1)
    ]  # fmt: skip
    return evaluate(plan_from_data(data))


def test_an_air_line_loses_what_tables_say() -> None:
    """10 L/min through a metre of 4 mm line cost 1.1 kPa (common practice). Through 6 mm they pass
    at a Reynolds number of 2,360, between laminar (94 Pa) and turbulent (158 Pa, Blasius)."""
    flow = 10e-3 / 60.0
    assert line_loss(flow, 0.004, 1.0) == pytest.approx(1100.0, rel=0.15)
    assert 94.0 < line_loss(flow, 0.006, 1.0) < 158.0
    assert line_loss(0.5 * flow, 0.006, 1.0) == pytest.approx(
        128.0 * 1.8e-5 * 0.5 * flow / (math.pi * 0.006**4), rel=1e-6
    )  # Hagen–Poiseuille


def test_a_manifold_is_in_balance() -> None:
    """What the pump gives at the manifold's pressure is what all take; each takes what asks for
    just that pressure."""
    found = _aired(0.05, 0.05, 0.4)
    (share,) = air_shares(found)
    pump = found.plan.part("AP1")
    assert share.flow == pytest.approx(sum(share.flows.values()))
    assert pump.pressure(share.flow) == pytest.approx(share.pressure, rel=1e-4)
    level = found.vessels["T1"].levels.high - found.plan.vessel("T1").floor_height
    for stone in found.plan.air:
        asks = stone.asks(share.flows[stone.id], level, found.water.density)
        assert asks == pytest.approx(share.pressure, rel=1e-3)
    assert share.flows["A1"] == pytest.approx(share.flows["A2"])
    assert share.flows["A3"] > share.flows["A1"]


def test_a_label_at_no_depth_is_never_reached() -> None:
    """At 0.8 m of water a pump for 3 m gives less than its label; one for half a metre nothing."""
    (deep,) = air_shares(_aired(0.05))
    assert 0.0 < deep.flow < 1e-3
    (weak,) = air_shares(_aired(0.05, max_pressure=5000.0))
    assert weak.flow == pytest.approx(0.0, abs=1e-9)
    assert weak.asked["A1"] > 5000.0


@settings(max_examples=15, deadline=None)
@given(st.floats(0.1, 1.0), st.floats(0.05, 0.7))
def test_turning_a_valve_down_gives_the_others_more(opened: float, height: float) -> None:
    found = _aired(0.05, height)
    turned = evaluate(apply_edits(found.plan, [Edit("air.A2.valve_open", opened)]))
    (before,), (after,) = air_shares(found), air_shares(turned)
    assert after.flows["A1"] >= before.flows["A1"] - 1e-9
    assert after.flows["A2"] <= before.flows["A2"] + 1e-9


@pytest.mark.parametrize(
    ("name", "told"),
    [
        ("overstocked", {"N1", "N3"}),
        ("no-air", {"N3"}),
        ("no-alkalinity", {"N5"}),
        ("beds-shut", {"N1"}),
    ],
)
def test_a_plan_with_something_wrong_is_told_of_it(name: str, told: set[str]) -> None:
    """And the remedy of each fault of the water does what it says."""
    plan = load_plan((EXAMPLE.parent / f"faults/{name}.json").read_bytes())
    findings = {f.rule.id: f for f in assess(plan).findings if f.severity != "note"}
    assert told <= set(findings)
    _, before = _water(plan)
    for id_ in told & {"N1", "N3"}:
        offers = findings[id_].list_offers()
        if not offers:
            continue
        _, after = _water(apply_edits(plan, offers[0].edits))
        if id_ == "N3":
            assert after.vessels["T1"].oxygen > before.vessels["T1"].oxygen
        else:  # more bacteria turn over more, and take some oxygen for it
            assert sum(after.nitrified.values()) > sum(before.nitrified.values())


def test_the_garden_with_everything_told_has_no_problem() -> None:
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    assert {f.severity for f in assess(plan).findings} == {"note"}


# When something stops


def test_oxygen_without_air_and_flow_runs_out_as_by_hand() -> None:
    """Both off: dC/dt = (own (Cs − C) − demand)/V, solved by its exponential; with air it lasts
    longer than without."""
    found, water = _water(_ordinary())
    (row,) = survivals_of(found, water)
    tank = found.vessels["T1"]
    now, demand = water.vessels["T1"].oxygen, water.used_in["T1"] / 86400.0
    own = 0.45 / 86400.0 * tank.vessel.shape.footprint * (1.0 - tank.vessel.covered)
    ends = water.holds - demand / own
    by_hand = tank.volume / own * math.log((now - ends) / (3.0 - ends))
    assert row.neither == pytest.approx(by_hand, rel=1e-6)
    assert row.no_flow is None or row.no_flow > row.neither
    assert row.no_air is None or row.no_air > row.neither


def test_nothing_stopped_stays_as_it_is() -> None:
    """The inflow that is worked out holds the tank where the long run has it."""
    found, water = _water(_ordinary())
    tank = _Tank(found, water, "T1")
    assert tank._lasts(tank.stones, tank.flow) is None
    gives = (
        tank.stones * (tank.holds - tank.lacks) + tank.own * tank.holds
        + tank.flow * tank.enters - tank.taken
    )  # fmt: skip
    assert gives / (tank.stones + tank.own + tank.flow) == pytest.approx(tank.now, rel=1e-9)


def test_a_power_cut_that_oxygen_does_not_surely_outlast_asks_for_a_battery() -> None:
    """The battery carries what must go on for as long as the cut, by hand: W h over 12 V, a tenth
    lost, half of lead or four fifths of lithium used. Half as long again must be safe, since
    oxygen is known to a third."""
    found, water = _water(_ordinary())
    row = survivals_of(found, water)[0]
    assert row.neither is not None
    assert bridge_of(found) is None
    long, short = 1.2 * row.neither, row.neither / 1.6
    told = [
        evaluate(apply_edits(found.plan, [Edit("brief.power_cut", cut)])) for cut in (long, short)
    ]
    bridge = bridge_of(told[0])
    assert bridge is not None
    assert bridge.lead == pytest.approx(bridge.watts * long / 3600.0 / (12.0 * 0.5 * 0.9))
    assert bridge.lithium < bridge.lead
    assert bridge_of(told[1]) is None
    assert outlive([row], short)
    assert not outlive([row], 0.9 * row.neither)
    assert [f.id for f in judge(told[0], "N10")] == ["N10.oxygen_in_your_cut"]
    assert not judge(told[1], "N10")


# Watts, heat and doses


def test_check_values_of_power() -> None:
    """60 W round the clock are 525.6 kWh a year (arithmetic); 25 W for 8 h at 12 V, half of a lead
    battery used, are 37 Ah (by hand)."""
    found = _aired(0.05, power=60.0)
    row = next(c for c in power_of(found) if c.id == "AP1")
    assert 365.0 * row.energy == pytest.approx(525.6)
    assert row.cost == pytest.approx(525.6 * found.plan.site.tariff)
    assert battery_charge(25.0, 8.0, "lead") == pytest.approx(25 * 8 / (12 * 0.5 * 0.9))


def test_heat_by_hand() -> None:
    """Bare walls lose eight times what insulated ones do; evaporation takes 2.45 MJ for a kilogram;
    in warm air nothing but evaporation is lost."""
    plan = apply_edits(_ordinary(), [Edit("site.air_temperature", 14.0)])
    found = evaluate(plan)
    heat = heat_of(found)
    lined = [Edit(f"vessels.{v.id}.walls", "insulated") for v in plan.vessels]
    assert heat.walls == pytest.approx(8.0 * heat_of(evaluate(apply_edits(plan, lined))).walls)
    open_water = sum(
        v.shape.footprint * (1.0 - v.covered)
        for v in plan.vessels
        if v.media is None and not v.use.has_rafts
    )
    assert heat.evaporation == pytest.approx(open_water * 0.005 * 998.0 / 86400.0 * 2.45e6)
    assert heat.surface == pytest.approx(15.0 * open_water * 10.0)
    warm = heat_of(evaluate(apply_edits(plan, [Edit("site.air_temperature", 24.0)])))
    assert warm.walls == warm.surface == 0.0


@pytest.mark.parametrize(
    ("key", "grams"),
    [
        ("baking_soda", 1.68 * 17.85),  # 1 °dH of a cubic metre (handbooks, memory)
        ("potassium_bicarbonate", 2.0 * 17.85),
        ("salt", 1000.0),
        ("iron", 2.0 / 0.11),
        ("potassium_sulfate", 10.0 * 174.26 / (2 * 39.10)),  # molar masses
        ("calcium_chloride", 10.0 * 147.01 / 40.08),
        ("urea", 60.06 / 28.01),
    ],
)
def test_doses_for_a_cubic_metre(key: str, grams: float) -> None:
    substance = SUBSTANCES[key]
    assert 1000.0 * dose_of(substance, substance.step, 1.0) == pytest.approx(grams, rel=0.01)


def test_of_a_hundred_grams_fed_all_is_found_again() -> None:
    """What comes into the middle goes out of it; ends add up to 100 g."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    found, water = _water(plan)
    streams = nitrogen_budget(found, water)
    starts = {s.start for s in streams}
    for name in starts - {"feed"}:
        into = sum(s.grams for s in streams if s.end == name)
        assert sum(s.grams for s in streams if s.start == name) == pytest.approx(into, abs=0.2)
    assert sum(s.grams for s in streams if s.end not in starts) == pytest.approx(100.0, abs=0.3)
    chart = ribbon_chart([(s.start, s.end, s.grams) for s in streams])
    tall = {b.name: b.tall for b in chart.bars}
    assert tall["fish"] / tall["feed"] == pytest.approx(0.305, rel=0.02)
    assert all(0.0 <= b.y <= chart.height for b in chart.bars)


def test_the_water_is_shaded_by_how_good_it_is() -> None:
    """At the limit the worst shade, at saturation the best; each vessel with water has its figure
    within its walls."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    found, water = _water(plan)
    shades = {s.key: s for s in shades_of(found, water)}
    oxygen = shades["oxygen"]
    by_hand = (water.vessels["T1"].oxygen - 3.0) / (water.holds - 3.0)
    assert oxygen.goodness["T1"] == pytest.approx(by_hand)
    scene = draw_side_view(found, stations_of(plan), "metric")
    ends = {id_: (0.0 if id_ == "T1" else 1.0) for id_ in oxygen.values}
    tint = tint_of(scene, "x", "x", ends, dict.fromkeys(ends, "1"))
    looks = {r.part: r.look for r in tint.rects}
    assert looks["T1"] == "tint-0"
    assert set(looks.values()) == {"tint-0", "tint-4"}
    assert len(tint.texts) == len({*looks, *(s.part for s in tint.shapes)})
    tank = next(r for r in tint.rects if r.part == "T1")
    assert any(tank.x < t.x < tank.x + tank.width for t in tint.texts)


def test_own_limits_take_the_place_of_the_usual_ones() -> None:
    """A limit that a builder sets judges the fish; the others stay."""
    plan = apply_edits(_ordinary(), [Edit("fish.K1.own.least_oxygen", 8.2)])
    fish = plan.part("K1").stands
    assert (fish.least_oxygen, fish.most_nitrite) == (8.2, 1.0)
    told = {f.rule.id: f.severity for f in assess(plan).findings}
    assert told["N3"] == "fault"
    assert "N3" not in {f.rule.id for f in assess(_ordinary()).findings}
