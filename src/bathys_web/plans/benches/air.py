"""The bench of air and power: what each stone gets, how long fish last without, what it draws."""

from typing import Any

from bathys.plan.site import Site
from bathys.quality.air import air_flows, air_shares
from bathys.quality.heat import Heat, heat_of
from bathys.quality.hot_day import HotDay, hot_day
from bathys.quality.power import battery_charge, circuits_of, panel_watts, power_of, watts_needed
from bathys.quality.survival import about, survivals_of
from bathys.quality.venturis import drawn_airs
from bathys.quality.water import water_of
from bathys.quality.water_result import WaterResult
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]

_WEEK, _MONTH = 7.0, 30.0
_NIGHT = 8.0 * 3600.0  # for which a battery is shown where no power cut is told [s]


def _time(value: float | None, units: System) -> str:
    return show(about(value), "time", units) if value is not None else "it lasts"


def _money(value: float, currency: str) -> str:
    return f"{value:,.0f} {currency}" if value >= 100.0 else f"{value:.3g} {currency}"


def _power(ask: BenchRequest) -> dict[str, Any]:
    plan, units = ask.plan, ask.units
    rows = power_of(ask.found.evaluation)
    must = watts_needed(rows)
    cut = plan.brief.power_cut or _NIGHT
    hours = cut / 3600.0
    energy = sum(c.energy for c in rows)
    currency = plan.site.currency
    return {
        "consumers": [
            {
                "part": plan.part(c.id),
                "watts": show(c.watts, "power", units),
                "circuit": c.circuit,
                "hours": f"{c.hours:.3g} h",
                "night": f"{c.night_hours:.3g} h" if c.night_hours else "",
                "energy": show(c.energy, "energy", units),
                "cost": _money(c.cost, currency),
            }
            for c in rows
        ],
        "circuits": [
            {
                "name": c.name or "all the rest",
                "watts": show(c.watts, "power", units),
                "energy": show(c.energy, "energy", units),
                "week": show(_WEEK * c.energy, "energy", units),
                "cost": _money(c.cost, currency),
            }
            for c in circuits_of(rows)
        ],
        "has_circuits": any(c.circuit for c in rows),
        "week": show(_WEEK * energy, "energy", units),
        "all_watts": show(sum(c.watts for c in rows), "power", units),
        "sun_watts": show(panel_watts(energy, plan.site.sun), "power", units),
        "energy": show(energy, "energy", units),
        "cost": _money(sum(c.cost for c in rows), currency),
        "must": show(must, "power", units),
        "has_air_pump": any(c.must_run for c in rows),
        "is_told": bool(plan.brief.power_cut),
        "cut": show(cut, "hours", units),
        "lead": show(battery_charge(must, hours, "lead"), "charge", units),
        "lithium": show(battery_charge(must, hours, "lithium"), "charge", units),
    }


def _oxygen(water: WaterResult | None, vessel: str) -> dict[str, str]:
    """Oxygen used in a vessel a day, and what all its stones together bring."""
    if water is None:
        return {"used": "", "brings": ""}
    return {
        "used": f"{water.used_in.get(vessel, 0.0):.3g} g a day",
        "brings": f"{water.brought_by_stones(vessel):.3g} g a day",
    }


def _air(ask: BenchRequest) -> dict[str, Any]:
    plan, found, units = ask.plan, ask.found.evaluation, ask.units
    water = water_of(found)
    flows = air_flows(found)
    return {
        "venturis": [
            {
                "part": row.run,
                "air": show(row.air, "flow", units),
                "head": show(row.head, "head", units),
                "watts": show(row.watts, "power", units) if row.watts > 0.0 else "",
                "pump": show(row.air_pump_watts, "power", units),
                "draws": row.air > 0.0,
            }
            for row in drawn_airs(found)
        ],
        "pumps": [
            {
                "part": plan.part(share.pump),
                "pressure": show(share.pressure, "pressure", units),
                "flow": show(share.flow, "flow", units),
                "label": show(plan.part(share.pump).most_flow, "flow", units),
            }
            for share in air_shares(found)
        ],
        "stones": [
            {
                "part": stone,
                "vessel": plan.names[stone.stands_in],
                "flow": show(flows[stone.id], "flow", units),
                "by": plan.names.get(stone.fed_by, "") if stone.fed_by else "as told",
                "is_dry": flows[stone.id] <= 1e-8,
                **_oxygen(water, stone.stands_in),
            }
            for stone in plan.air
        ],
    }


def _heat(heat: Heat, site: Site, units: System) -> dict[str, Any]:
    rows = {
        "walls and floors": heat.walls,
        "open water": heat.surface,
        "evaporation": heat.evaporation,
        "fresh water": heat.fresh,
    }
    return {
        "rows": [
            {"name": name, "watts": show(watts, "power", units)}
            for name, watts in rows.items()
            if abs(watts) >= 1.0
        ],
        "pumps": show(heat.pumps, "power", units),
        "wanted": show(heat.wanted, "power", units),
        "heater": show(heat.heater, "power", units),
        "energy": show(heat.energy, "energy", units),
        "cooling": f"{3600.0 * heat.cooling * (1.8 if units == 'us' else 1.0):.2g}",
        "degree": "°F" if units == "us" else "°C",
        "is_wanted": heat.wanted > 1.0,
        "hours": f"{heat.hours:.0f} h",
        "month": _money(_MONTH * heat.energy * site.tariff, site.currency),
    }


def _hot(day: HotDay | None, units: System) -> dict[str, Any]:
    """The hottest day; empty where its air is not told."""
    if day is None:
        return {}
    return {
        "hottest": show(day.hottest, "temperature", units),
        "coolest": show(day.coolest, "temperature", units),
        "given_back": show(day.given_back, "energy", units),
        "measures": [
            {"name": m.name, "hottest": show(m.hottest, "temperature", units)} for m in day.measures
        ],
    }


def _page(ask: BenchRequest) -> dict[str, Any]:
    found, units, plan = ask.found.evaluation, ask.units, ask.plan
    water = water_of(found)
    return {
        **_power(ask),
        **_air(ask),
        "hot": _hot(hot_day(found), units),
        "hot_air": show(plan.site.hot_air, "temperature", units)
        if plan.site.hot_air is not None
        else "",
        "dries": show(plan.site.dries, "length", units),
        "is_worked_out": plan.site.evaporation_from == "climate",
        "heat": _heat(heat_of(found), plan.site, units),
        "water_temperature": show(plan.site.water_temperature, "temperature", units),
        "air_temperature": show(plan.site.air_temperature, "temperature", units),
        "tanks": [
            {
                "part": plan.vessel(s.vessel),
                "least": show(s.least, "dissolved", units),
                "no_flow": _time(s.no_flow, units),
                "no_air": _time(s.no_air, units),
                "neither": _time(s.neither, units),
            }
            for s in (survivals_of(found, water) if water is not None else ())
        ],
    }


BENCH = Bench(
    "air",
    "Air and power",
    "What each stone gets, how long fish last without, and what it draws",
    _page,
    lambda plan: bool(plan.pumps or plan.air),
)
