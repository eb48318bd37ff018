"""Rotas, lengths of fish, what floats, airlifts, venturis, a season's water and a pair's pH."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import Edit, apply_edits, switch_kind
from bathys.evaluation import evaluate
from bathys.physics import GRAVITY
from bathys.physics.airlift import AirliftCurve, airlift_lift
from bathys.physics.carbonate import ph_of
from bathys.physics.venturi import venturi_air
from bathys.pipeline import assess, remedies_of
from bathys.plan import load_plan, plan_from_data
from bathys.quality.air import air_flows
from bathys.quality.air_settings import air_settings
from bathys.quality.cycling import DOSE, EXCHANGED, dose_with_fish
from bathys.quality.grading import THICKNESS, gradings_of, length_of
from bathys.quality.pairs import WEEKS, pair_course, pair_of, usual_let_down
from bathys.quality.reserve import idle_adds, meal_ph
from bathys.quality.salt import salt_of
from bathys.quality.season import season_of, season_water
from bathys.quality.sowing import feed_grown, rotas_of
from bathys.quality.starting import few_fish, ready_after
from bathys.quality.uptake import plant_uptake
from bathys.quality.venturis import drawn_airs
from bathys.quality.water import water_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

GARDEN = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())


def test_a_rota_of_lettuce_by_hand() -> None:
    """Six to seven weeks from seed (common practice); a quarter of a raft's heads a week, and a
    fifth more sown than is planted."""
    rota = next(r for r in rotas_of(evaluate(GARDEN)) if r.vessel.id == "G1")
    area = rota.vessel.shape.footprint
    assert 6.0 <= rota.weeks <= 7.0
    assert rota.sites == pytest.approx(20.0 * area)
    assert rota.harvested == pytest.approx(5.0 * area)
    assert rota.sown == pytest.approx(1.25 * rota.harvested)
    assert rota.raised == pytest.approx(2.5 * rota.harvested)
    assert rota.free == pytest.approx(0.0)
    own = {"demand": 0.3, "sites": 28.0, "weeks_in_bed": 3.0, "weeks_raised": 1.0}
    radish = apply_edits(
        GARDEN,
        [
            Edit("vessels.G1.crop.planted", 0.5),
            *(Edit(f"vessels.G1.crop.own.{k}", v) for k, v in own.items()),
        ],
    )
    rota = next(r for r in rotas_of(evaluate(radish)) if r.vessel.id == "G1")
    assert rota.sites == rota.free == pytest.approx(14.0 * area)
    assert rota.harvested == pytest.approx(14.0 * area / 3.0)
    assert plant_uptake(radish)["G1"] == pytest.approx(0.3 * 0.5 * 0.5 * area)


def test_what_floats_on_a_sump_takes_nitrate_and_feeds_the_fish() -> None:
    """Half grown over all of it: 4 g of dry feed on each square metre a day (memory). It counts as
    no area that must be fed, and it needs no sowing."""
    plan = switch_kind(GARDEN, "vessels.S1.crop", "duckweed").plan
    found, before = evaluate(plan), evaluate(GARDEN)
    area = plan.vessel("S1").shape.footprint
    assert feed_grown(found) == pytest.approx(0.001 * 7.0 * 8.0 * 0.5 * area)
    assert feed_grown(before) == 0.0
    now, then = water_of(before), water_of(found)
    assert now is not None
    assert then is not None
    assert then.taken_up["S1"] > 0.0
    assert then.nitrate_left < now.nitrate_left
    assert "S1" not in {r.vessel.id for r in rotas_of(found)}


@pytest.mark.parametrize(("mass", "stoutness", "length"), [(0.5, 1.8, 0.303), (0.001, 1.0, 0.0464)])
def test_the_length_of_a_fish_by_fultons_factor(
    mass: float, stoutness: float, length: float
) -> None:
    """K = 100 m/L³ in grams and centimetres, by hand."""
    assert length_of(mass, stoutness) == pytest.approx(length, rel=0.003)
    assert 100.0 * 1000.0 * mass / (100.0 * length_of(mass, stoutness)) ** 3 == pytest.approx(
        stoutness
    )


def test_fry_among_large_fish_are_told_and_which_mesh_holds_them() -> None:
    data = lists_of(EXAMPLE.parent / "fish-and-leaves.json")
    fry = {"id": "K2", "name": "Fry", "count": 50, "mean_mass": 0.0002, "harvest_mass": 0.5}
    data["fish"].append({**data["fish"][0], **fry})
    found = assess(plan_from_data(data))
    small, large = gradings_of(found.evaluation)[1], gradings_of(found.evaluation)[0]
    assert small.eaten_by == "K1"
    assert large.eaten_by == ""
    assert small.next_grade == pytest.approx(0.032)  # past ½ in, next at 1¼ in (common practice)
    assert large.next_grade is None
    assert small.mesh == pytest.approx(THICKNESS * small.length)
    told = next(f for f in found.findings if f.rule.id == "N15")
    assert told.place == "K2"
    assert not any(f.rule.id == "N15" for f in assess(GARDEN).findings)


def test_feed_that_is_grown_at_home_need_not_be_bought() -> None:
    grown = apply_edits(GARDEN, [Edit("fish.K1.home_grown", 0.25)]).fish[0]
    assert grown.feed_grown == pytest.approx(0.25 * grown.feed)
    assert GARDEN.fish[0].feed_grown == 0.0


def _litres(share: float, long: float = 1.0) -> float:
    """What a 40 mm airlift of 20 L/min carries [L/h], so much of its length under water."""
    curve = AirliftCurve(20.0 / 60000.0, 0.04, share * long)
    low, high = 0.0, curve.max_flow
    if curve.head(0.0)[0] < (1.0 - share) * long:
        return 0.0
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (
            (middle, high) if curve.head(middle)[0] >= (1.0 - share) * long else (low, middle)
        )
    return 3.6e6 * low


def test_an_airlift_carries_what_drift_flux_says() -> None:
    """40 mm and 20 L/min: nothing at half its length under water, 439 L/h at 0.6 and 2,051 at 0.8
    (worked once apart, with less friction; within a tenth)."""
    assert _litres(0.5) == 0.0
    assert _litres(0.6) == pytest.approx(439.0, rel=0.10)
    assert _litres(0.8) == pytest.approx(2051.0, rel=0.10)


@given(
    st.floats(1e-4, 2e-3),
    st.floats(0.02, 0.1),
    st.floats(0.3, 2.0),
    st.floats(0.0, 1e-3),
    st.floats(1e-5, 1e-3),
)
def test_an_airlift_falls_with_flow_and_never_makes_more_than_its_air(
    air: float, bore: float, deep: float, flow: float, more: float
) -> None:
    """The lift falls with flow; deeper is never worse; lifting power stays under what the air
    gives up by expanding from its depth."""
    here = airlift_lift(flow, air, bore, deep)
    assert airlift_lift(flow + more, air, bore, deep) < here
    if here > 0.0:
        assert airlift_lift(flow, air, bore, deep + 0.1) > here
        squeezed = 1.0 + 998.0 * GRAVITY * deep / 101_325.0
        assert 998.0 * GRAVITY * flow * here < air * 101_325.0 * math.log(squeezed)


def test_an_airlift_pumps_a_plan_and_is_told_when_it_stands_too_shallow_or_too_deep() -> None:
    """In the stacked pair: to half its way it lifts nothing, with the water to let air in deep
    enough it does; more than the tank is deep is a fault, with its remedy."""
    plan = load_plan(EXAMPLE.read_bytes())
    high = {"kind": "airlift", "air": 0.0006, "pipe_diameter": 0.05, "submergence": 0.4}
    shallow = assess(apply_edits(plan, [Edit("pumps.P1.curve", high)]))
    assert shallow.evaluation.duties["P1"].flow == pytest.approx(0.0, abs=1e-7)
    told = {f.rule.id: f for f in shallow.findings}
    assert told["N16"].figures["share"] < 0.6
    deep = {"kind": "airlift", "air": 0.001, "pipe_diameter": 0.05, "submergence": 2.5}
    lifted = assess(apply_edits(plan, [Edit("pumps.P1.curve", deep)]))
    duty = lifted.evaluation.duties["P1"]
    assert duty.flow > 1e-4
    assert duty.head == pytest.approx(duty.pump.curve.law.head(duty.flow)[0], rel=1e-6)
    fault = next(f for f in lifted.findings if f.rule.id == "N17")
    assert fault.severity == "fault"
    assert next(iter(remedies_of(lifted, fault))).cures


@given(st.floats(1e-5, 1e-3), st.floats(0.005, 0.03), st.floats(0.0, 2.0), st.floats(0.01, 1.0))
def test_a_venturi_draws_less_the_deeper_it_lies(
    flow: float, throat: float, depth: float, more: float
) -> None:
    """Never more than three tenths of its water; none where the pull does not reach (assumed)."""
    air = venturi_air(flow, throat, depth)
    assert 0.0 <= air <= 0.3 * flow
    assert venturi_air(flow, throat, depth + more) <= air
    speed = flow / (math.pi / 4.0 * throat**2)
    if 0.8 * speed**2 / (2.0 * GRAVITY) <= depth:
        assert air == 0.0


def test_a_venturi_in_a_plan_brings_oxygen_and_costs_flow() -> None:
    plan = switch_kind(GARDEN, "runs.R2.ends_in", "venturi").plan
    low = [Edit("vessels.T1.ports.inlet.height", 0.5), Edit("runs.R2.valve.angle", 0.0)]
    narrow = evaluate(apply_edits(plan, [*low, Edit("runs.R2.ends_in.throat", 0.012)]))
    open_end = evaluate(apply_edits(GARDEN, low))
    (drawn,) = drawn_airs(narrow)
    assert drawn.air > 0.0
    assert drawn.head > 0.0
    assert drawn.watts > drawn.air_pump_watts > 0.0
    assert narrow.runs["R2"].flow < open_end.runs["R2"].flow
    with_it, without = water_of(narrow), water_of(open_end)
    assert with_it is not None
    assert without is not None
    assert with_it.stones["T1"] == pytest.approx(without.stones["T1"] + drawn.transfer, rel=0.02)
    (above,) = drawn_airs(evaluate(plan))
    assert above.air == 0.0 or above.transfer > 0.0


def test_the_water_through_a_season_begins_as_it_is_and_gets_worse() -> None:
    found = evaluate(GARDEN)
    season, now = season_of(found), water_of(found)
    assert season is not None
    assert now is not None
    course = season_water(found, season)
    tank = now.vessels["T1"]
    share = season.feed[0] / sum(s.feed for s in now.stock.values())
    assert course.days[0] == 0.0
    assert course.days[-1] == season.days[-1]
    if share == pytest.approx(1.0):
        assert course.tan[0] == pytest.approx(tank.tan)
        assert course.oxygen[0] == pytest.approx(tank.oxygen)
    assert all(a > b for a, b in zip(course.oxygen, course.oxygen[1:], strict=False))
    assert all(a < b for a, b in zip(course.tan, course.tan[1:], strict=False))


def test_the_alkalinity_of_a_pair_is_that_of_two_mixed_tanks() -> None:
    """Closed form for the fish loop: A moves to A_tap − (spent − given)/L as e^(−L t/V); pH by
    carbonate from it. More let down holds it up."""
    found = evaluate(load_plan((EXAMPLE.parent / "decoupled-pair.json").read_bytes()))
    pair, water = pair_of(found), water_of(found)
    assert pair is not None
    assert water is not None
    let_down = 4.0 * usual_let_down(found, pair)
    course = pair_course(found, water, pair, let_down)
    site = found.plan.site
    spent = 7.14 * sum(water.nitrified.get(v, 0.0) for v in pair.fish)
    given = 3.57 * sum(water.taken_up.get(v, 0.0) for v in pair.fish)
    a_day, volume = let_down / 7.0, course.fish.volume
    end = site.tap_alkalinity - (spent - given) / a_day
    for week, level in zip(WEEKS, course.fish.alkalinity, strict=True):
        closed = end + (site.alkalinity - end) * math.exp(-a_day * 7.0 * week / volume)
        assert level == pytest.approx(max(closed, 1.0), rel=0.03, abs=1.0)
    dioxide = sum(water.vessels[v].carbon_dioxide for v in pair.fish) / len(pair.fish)
    for ph, level in zip(course.fish.ph, course.fish.alkalinity, strict=True):
        assert ph == pytest.approx(ph_of(level, dioxide, found.water.temperature))
    less = pair_course(found, water, pair, 0.5 * let_down)
    assert less.fish.alkalinity[-1] <= course.fish.alkalinity[-1]


def test_air_valves_set_as_said_give_the_air_that_was_said() -> None:
    """Through the manifold again: each stone its share, within a hundredth; one valve wide open."""
    found = evaluate(GARDEN)
    rows = air_settings(found, GARDEN.air_pumps[0])
    assert max(r.opening for r in rows) == pytest.approx(1.0, abs=1e-3)
    built = apply_edits(
        GARDEN, [Edit(f"air.{r.aerator.id}.valve_open", round(r.opening, 4)) for r in rows]
    )
    flows = air_flows(evaluate(built))
    for row in rows:
        assert flows[row.aerator.id] == pytest.approx(row.flow, rel=0.01)
        assert row.flow / row.aerator.flow == pytest.approx(rows[0].flow / rows[0].aerator.flow)
    weak = apply_edits(GARDEN, [Edit("air_pumps.AP1.max_pressure", 2000.0)])
    assert air_settings(evaluate(weak), weak.air_pumps[0]) == ()


@settings(max_examples=12, deadline=None)
@given(st.floats(14.0, 30.0), st.floats(0.3, 5.0), st.floats(0.2, 2.0))
def test_a_start_with_few_fish_keeps_to_what_they_stand(
    warm: float, tan: float, nitrite: float
) -> None:
    """With a fifth exchanged a day nothing can pass the dose over a fifth, bacteria or none: so
    much may be made at least. More of what they stand never means fewer fish."""
    dose = dose_with_fish(warm, tan, nitrite)
    assert dose >= 0.99 * min(EXCHANGED * min(tan, nitrite), DOSE)
    assert dose_with_fish(warm, tan, 1.5 * nitrite) >= dose
    assert dose_with_fish(warm, 1.5 * tan, nitrite) >= dose


def test_fish_that_come_before_the_water_is_ready_are_told_with_what_bridges_it() -> None:
    """A warning before the soonest day, a note within the band, silence after it; a note for who
    starts with fish. The remedy is the day on which it is surely ready."""
    ready, soonest, latest = ready_after(evaluate(GARDEN))
    assert ready is not None
    assert soonest is not None
    assert latest is not None
    assert soonest < ready < latest
    few = few_fish(evaluate(GARDEN))
    assert few is not None
    assert 0.02 < few.share < 0.5  # a few, not all
    assert few.mass == pytest.approx(few.share * GARDEN.fish[0].mass)

    def told(day: float, start: str = "open") -> list[str]:
        edits = [Edit("brief.stocked_after", 86400.0 * day), Edit("brief.start", start)]
        found = assess(apply_edits(GARDEN, edits))
        rows = [f for f in found.findings if f.rule.id == "N18"]
        assert all(next(iter(remedies_of(found, f))).cures for f in rows)
        return [f.severity for f in rows]

    assert told(soonest - 10.0) == ["warning"]
    assert told(soonest - 10.0, "with_fish") == ["note"]
    assert told(ready) == ["note"]
    assert told(latest + 2.0) == []
    assert not any(f.rule.id == "N18" for f in assess(GARDEN).findings)


def test_salt_of_fresh_water_by_a_mixed_tank() -> None:
    """300 mg/L: it climbs by what dries, and with a twentieth exchanged a week it ends where as
    much leaves as comes; nothing is said where none is told."""
    assert salt_of(evaluate(GARDEN)) is None
    plan = apply_edits(GARDEN, [Edit("site.tap_salt", 300.0)])
    found = evaluate(plan)
    water = sum(v.volume for v in found.vessels.values())
    salt = salt_of(found)
    assert salt is not None
    assert salt.in_the_end is None
    dries = salt.a_week * water / 300.0
    assert (
        0.05 * plan.site.dries
        < dries / 7.0
        < plan.site.dries * sum(v.shape.footprint for v in plan.vessels)
    )
    out = {"id": "Q1", "kind": "transfer", "name": "Out", "source": "S1", "volume": 0.08}
    moves = [Edit("transfers.+", {**out, "flow": 5e-4, "every": 604800.0})]
    ends = salt_of(evaluate(apply_edits(plan, moves)))
    assert ends is not None
    assert ends.in_the_end is not None
    level = 300.0
    for _ in range(4000):  # weeks, by hand
        level += (300.0 * (dries + 0.08) - level * 0.08) / water
    assert ends.in_the_end == pytest.approx(level, rel=0.02)


def test_too_many_fish_may_be_fewer_and_a_meal_lowers_the_ph() -> None:
    """The remedy keeps just as many as the water carries; a day without bacteria adds what is made;
    a double meal makes the water sourer for a while."""
    crowded = apply_edits(GARDEN, [Edit("fish.K1.count", 160)])
    found = assess(crowded)
    told = next(f for f in found.findings if f.rule.id in ("N1", "N2", "N3"))
    offers = [o for o in told.list_offers() if o.label.startswith("keep")]
    assert len(offers) == 1
    kept = apply_edits(crowded, offers[0].edits)
    assert 40 <= kept.fish[0].count < 160
    again = {f.rule.id for f in assess(kept).findings if f.severity == "warning"}
    assert not again & {"N1", "N2", "N3"}
    one_more = apply_edits(crowded, [Edit("fish.K1.count", int(1.1 * kept.fish[0].count))])
    assert {f.rule.id for f in assess(one_more).findings} & {"N1", "N2", "N3"}
    water = water_of(evaluate(GARDEN))
    assert water is not None
    tank, ph = meal_ph(evaluate(GARDEN), water)
    assert tank == "T1"
    assert 0.1 < water.vessels["T1"].ph - ph < 0.6
    volume = sum(v.volume for v in evaluate(GARDEN).vessels.values())
    assert idle_adds(evaluate(GARDEN), water) == pytest.approx(water.made / volume)


def test_air_that_is_put_forward_is_as_much_as_the_fish_want() -> None:
    """A tank without air: a stone that lets out so much that the finding is silent, and half of it
    would not do."""
    found = assess(load_plan((EXAMPLE.parent / "faults/no-air.json").read_bytes()))
    finding = next(f for f in found.findings if f.rule.id == "N3")
    offers = {o.label: o for o in finding.list_offers()}
    stone = next(o for label, o in offers.items() if label.startswith("hang an air stone"))
    better = assess(apply_edits(found.evaluation.plan, stone.edits))
    assert "N3" not in {f.rule.id for f in better.findings}
    half = [
        Edit(e.path, {**e.value, "flow": 0.5 * e.value["flow"]}) if "flow" in e.value else e
        for e in stone.edits
    ]
    assert any(h != e for h, e in zip(half, stone.edits, strict=True))
    still = assess(apply_edits(found.evaluation.plan, half))
    assert "N3" in {f.rule.id for f in still.findings}
    remedies = remedies_of(found, finding)
    assert remedies[0].cures
