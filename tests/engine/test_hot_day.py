"""The hottest day, evaporation, light and watts: against IAPWS, an integrator and worked cases."""

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from iapws import IAPWS97
from scipy.integrate import solve_ivp

from bathys.edits import Edit, add_part, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.parts.climate import HUMIDITY, SHELTERS, SUN, WIND
from bathys.physics.evaporation import open_water_dries, saturated_vapour
from bathys.pipeline import assess, remedies_of
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.quality.heat import heat_of
from bathys.quality.hot_day import hot_day
from bathys.quality.light import lights_of
from bathys.quality.power import circuits_of, panel_watts, power_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

GARDEN = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
PAIR = load_plan(EXAMPLE.read_bytes())


def _with(plan: Plan, **site: Any) -> Evaluation:
    return evaluate(apply_edits(plan, [Edit(f"site.{k}", v) for k, v in site.items()]))


@pytest.mark.parametrize("temperature", [2.0, 10.0, 20.0, 25.0, 30.0, 40.0])
def test_saturated_vapour_is_that_of_the_steam_tables(temperature: float) -> None:
    """IAPWS-IF97, within half a per cent."""
    steam = 1e6 * IAPWS97(T=temperature + 273.15, x=0.0).P
    assert saturated_vapour(temperature) == pytest.approx(steam, rel=0.005)


def test_water_dries_as_growers_measure_it() -> None:
    """2 mm a day cool and damp, about 5 mild, 12 and more hot and dry (common practice)."""
    told = {}
    for name, air, humidity, wind in (
        ("cool", 17.0, "damp", "still"),
        ("mild", 25.0, "middle", "still"),
        ("hot", 38.0, "dry", "breeze"),
    ):
        site = _with(
            PAIR,
            hot_air=air,
            humidity=humidity,
            wind=wind,
            evaporation_from="climate",
            water_temperature=15.0 if name == "cool" else 20.0,
        ).plan.site
        told[name] = 1000.0 * site.dries
    assert 0.5 < told["cool"] < 3.0
    assert 3.0 < told["mild"] < 7.0
    assert 12.0 < told["hot"] < 35.0
    kept = _with(PAIR, hot_air=38.0, evaporation=0.004).plan.site
    assert kept.dries == pytest.approx(0.004)


@given(st.floats(0.0, 4000.0), st.floats(0.0, 10.0), st.floats(0.1, 500.0))
def test_dry_air_and_wind_never_dry_less(short: float, wind: float, more: float) -> None:
    """And nothing dries into air that is damper than the surface."""
    assert open_water_dries(short + more, wind) > open_water_dries(short, wind)
    assert open_water_dries(short + 1.0, wind + 0.1) > open_water_dries(short + 1.0, wind)
    assert open_water_dries(-more, wind) == 0.0


def _tank(**changes: Any) -> Plan:
    data = lists_of(EXAMPLE)
    data["site"] |= {"hot_air": 35.0, **changes}
    return plan_from_data(data)


@pytest.mark.parametrize("sun", ["indoors", "strong"])
def test_the_day_is_that_of_an_integrator_for_stiff_equations(sun: str) -> None:
    """Written apart from the heat balance in the notes, followed by Radau for twenty days."""
    found = evaluate(_tank(sun=sun, humidity="dry", wind="breeze"))
    day = hot_day(found)
    assert day is not None
    holds = walls = is_open = above = aside = 0.0
    for result in found.vessels.values():
        v, depth = result.vessel, result.levels.high - result.vessel.floor_height
        wet = v.shape.perimeter * depth + v.shape.footprint
        holds += result.volume * 998.0 * 4186.0
        walls += {"bare": 8.0, "insulated": 1.0, "dug_in": 2.0}[v.walls] * wet
        aside += {"bare": 0.7, "insulated": 0.1, "dug_in": 0.0}[v.walls] * (
            0.5 * v.shape.across * depth
        )
        if v.media is None and not v.use.has_rafts:
            bare = v.shape.footprint * (1.0 - v.covered)
            walls += 8.0 * (v.shape.footprint - bare)
            is_open, above = (
                is_open + bare,
                above + 0.9 * bare + 0.2 * v.shape.footprint * v.covered,
            )
        else:
            walls += 8.0 * v.shape.footprint
            above += v.shape.footprint * (0.3 if v.crop is not None or v.use.has_rafts else 0.6)

    def vapour(t: float) -> float:
        return 610.94 * math.exp(17.625 * t / (243.04 + t))

    def climbs(time: float, water: list[float]) -> list[float]:
        into = time % 86400.0
        air = 30.0 + 5.0 * math.sin(2.0 * math.pi * (into - 9.0 * 3600.0) / 86400.0)
        peak = SUN[sun] * 3.6e6 * math.pi / (2.0 * 43200.0)
        lit = math.sin(math.pi * (into - 21600.0) / 43200.0) if 21600.0 < into < 64800.0 else 0.0
        short = vapour(water[0]) - HUMIDITY["dry"] * vapour(30.0)
        dries = max((0.089 + 0.0782 * WIND["breeze"]) * short / 2.45e6, 0.0)
        lost = (walls + 15.0 * is_open) * (water[0] - air) + is_open * dries * 2.45e6
        return [(peak * lit * (above + aside) - lost) / holds]

    times = [19.0 * 86400.0 + 900.0 * k for k in range(97)]
    course = solve_ivp(
        climbs, (0.0, 20.0 * 86400.0), [25.0], "Radau", times, rtol=1e-6, max_step=1800.0
    )
    assert day.hottest == pytest.approx(float(max(course.y[0])), abs=0.2)
    assert day.coolest == pytest.approx(float(min(course.y[0])), abs=0.2)


@settings(max_examples=15, deadline=None)
@given(
    st.sampled_from(list(SUN)),
    st.sampled_from(list(HUMIDITY)),
    st.sampled_from(list(WIND)),
    st.sampled_from(list(SHELTERS)),
    st.floats(15.0, 45.0),
)
def test_more_sun_never_cools_and_no_measure_heats(
    sun: str, humidity: str, wind: str, shelter: str, hot: float
) -> None:
    """Whatever the climate; and hotter air makes hotter water."""
    of = {"sun": sun, "humidity": humidity, "wind": wind, "shelter": shelter, "hot_air": hot}
    day = hot_day(_with(GARDEN, **of))
    brighter = hot_day(_with(GARDEN, **{**of, "sun": "strong"}))
    warmer = hot_day(_with(GARDEN, **{**of, "hot_air": hot + 3.0}))
    assert day is not None
    assert brighter is not None
    assert warmer is not None
    assert day.coolest <= day.hottest <= brighter.hottest + 1e-9
    assert warmer.hottest > day.hottest
    assert all(m.hottest < day.hottest for m in day.measures)
    assert day.given_back >= 0.0


def test_without_a_told_summer_nothing_is_said_of_it() -> None:
    assert hot_day(evaluate(GARDEN)) is None
    assert not any(f.rule.id == "N12" for f in assess(GARDEN).findings)


def test_winter_dries_less_than_summer_where_the_climate_tells_it() -> None:
    """The heater’s evaporation is that of the coldest air, not of the hottest."""
    climate = {"evaporation_from": "climate", "air_temperature": 5.0}
    mild, hot = _with(GARDEN, hot_air=26.0, **climate), _with(GARDEN, hot_air=40.0, **climate)
    assert mild.plan.site.dries < hot.plan.site.dries
    assert heat_of(mild).evaporation == pytest.approx(heat_of(hot).evaporation)
    site = hot.plan.site
    told = _with(GARDEN, air_temperature=5.0, evaporation=site.dries_in(5.0, 24.0))
    assert site.water_temperature == pytest.approx(24.0)
    assert heat_of(told).evaporation == pytest.approx(heat_of(hot).evaporation)


def test_water_that_gets_too_hot_is_told_with_what_helps() -> None:
    """Netting and wraps are worked out, each by itself; the roots beside it."""
    found = assess(_with(GARDEN, hot_air=40.0, sun="strong").plan)
    told = next(f for f in found.findings if f.rule.id == "N12")
    assert told.figures["hottest"] > told.figures["warmest"]
    after = [
        hot_day(evaluate(apply_edits(found.evaluation.plan, o.edits))) for o in told.list_offers()
    ]
    assert len(after) == 2
    assert all(day is not None and day.hottest < told.figures["hottest"] - 0.5 for day in after)
    (roots,) = [f for f in found.findings if f.rule.id == "N13"]
    assert "and 2 more" in roots.sentence
    assert not any(f.rule.id in ("N12", "N13") for f in assess(GARDEN).findings)


def test_light_of_sun_and_lamps_by_hand() -> None:
    """4.5 kWh/m² are 33 mol/m² (McCree 1972, memory); 100 W of LED for 14 h over 1.09 m² add 8."""
    bed = next(v for v in GARDEN.vessels if v.crop is not None)
    edits, lamp = add_part(GARDEN, "appliance", bed.id)
    plan = apply_edits(GARDEN, edits)
    assert plan.part(lamp).use == "lamp"
    light = next(row for row in lights_of(evaluate(plan)) if row.vessel.id == bed.id)
    assert light.sun == pytest.approx(4.5 * 3.6 * 2.04)
    assert light.lamps == pytest.approx(100.0 * 2.2e-6 * 0.8 * 14.0 * 3600.0 / bed.shape.footprint)
    assert light.lamp_energy == 0.0


def test_a_dark_crop_gets_lamps_that_are_just_enough() -> None:
    found = assess(_with(GARDEN, sun="indoors").plan)
    dark = [f for f in found.findings if f.rule.id == "N14"]
    assert len(dark) == 3
    for told in dark:
        remedy = next(iter(remedies_of(found, told)))
        assert remedy.cures
        built = apply_edits(found.evaluation.plan, remedy.offer.edits)
        light = next(row for row in lights_of(evaluate(built)) if row.vessel.id == told.place)
        assert light.least <= light.sun + light.lamps < 1.1 * light.least


def test_a_plug_meter_by_hand() -> None:
    """60 W round the clock are 525.6 kWh a year, a third of it in eight hours of night; 3.5 kWh in
    about a day for two pumps, one by the clock, and a large air pump (common practice)."""
    data = lists_of(EXAMPLE)
    data["site"] |= {"tariff": 0.40, "night_tariff": 0.10}
    data["pumps"][0] |= {"power": 60.0, "circuit": "Shed"}
    data["pumps"][0].pop("switch", None)
    (pump,) = power_of(evaluate(plan_from_data(data)))
    assert 365.0 * pump.energy == pytest.approx(525.6)
    assert pump.night_hours == pytest.approx(8.0)
    assert pump.cost == pytest.approx(525.6 * (2.0 / 3.0 * 0.40 + 1.0 / 3.0 * 0.10))
    data["air_pumps"] = [
        {"id": "AP1", "kind": "air_pump", "name": "Air", "max_flow": 0.002, "max_pressure": 3e4}
        | {"power": 85.0, "circuit": "Shed"}
    ]
    data["appliances"] = [
        {"id": "L1", "kind": "appliance", "name": "Lamp", "use": "lamp", "stands_in": "B1"}
        | {"power": 40.0, "begins": 20.0 * 3600.0, "runs": 4.0 * 3600.0},
        {"id": "L2", "kind": "appliance", "name": "Late", "use": "other", "stands_in": "B1"}
        | {"power": 10.0, "begins": 4.0 * 3600.0, "runs": 20.0 * 3600.0},
    ]
    rows = {c.id: c for c in power_of(evaluate(plan_from_data(data)))}
    assert rows["L1"].night_hours == pytest.approx(2.0)
    assert rows["L2"].night_hours == pytest.approx(4.0)  # from 4 to 6, and from 22 to midnight
    assert rows["AP1"].must_run
    assert not rows["L1"].must_run
    assert sum(c.energy for c in rows.values()) == pytest.approx(1.44 + 2.04 + 0.16 + 0.2)
    shed, rest = circuits_of(list(rows.values()))
    assert (shed.name, rest.name) == ("Shed", "")
    assert shed.watts == pytest.approx(145.0)
    assert shed.energy + rest.energy == pytest.approx(3.84)
    assert panel_watts(3.5, "middle") == pytest.approx(3500.0 / (4.5 * 0.75))


@settings(max_examples=40, deadline=None)
@given(
    st.integers(0, 47), st.integers(1, 48), st.integers(0, 47), st.integers(0, 47), st.floats(1, 99)
)
def test_hours_by_night_and_day_make_up_the_whole(
    begins: int, lasts: int, night: int, day: int, watts: float
) -> None:
    """Counted half hour by half hour, however spell and night lie round midnight."""
    data = lists_of(EXAMPLE)
    data["site"] |= {
        "night_tariff": 0.1,
        "night_begins": 1800.0 * night,
        "night_ends": 1800.0 * day,
    }
    head = {"id": "L1", "kind": "appliance", "name": "Lamp", "use": "other", "stands_in": "B1"}
    spell = {"power": watts, "begins": 1800.0 * begins, "runs": 1800.0 * lasts}
    data["appliances"] = [head | spell]
    rows = {c.id: c for c in power_of(evaluate(plan_from_data(data)))}
    on = {(begins + k) % 48 for k in range(lasts)}
    dark = {(night + k) % 48 for k in range((day - night) % 48)}
    assert rows["L1"].hours == pytest.approx(0.5 * lasts)
    assert rows["L1"].night_hours == pytest.approx(0.5 * len(on & dark))


def test_a_bed_in_full_sun_with_wrapped_walls_is_still_worked_out() -> None:
    """Nothing but thin walls to lose heat by: very hot, and told."""
    plan = _tank(sun="strong", humidity="damp", wind="still")
    wrapped = apply_edits(
        plan,
        [
            *(Edit(f"vessels.{v.id}.walls", "insulated") for v in plan.vessels),
            *(Edit(f"vessels.{v.id}.covered", 1.0) for v in plan.vessels),
        ],
    )
    day, bare = hot_day(evaluate(wrapped)), hot_day(evaluate(plan))
    assert day is not None
    assert bare is not None
    assert math.isfinite(day.hottest)
    assert day.hottest > bare.coolest
