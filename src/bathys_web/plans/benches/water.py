"""The bench of fish and water: what each vessel's water comes to, and what makes it so."""

import math
from typing import Any

from bathys.parts.crops import CROPS
from bathys.quality.alkalinity import alkalinity_of
from bathys.quality.budget import nitrogen_budget
from bathys.quality.feeding import feed_on_area, school_areas
from bathys.quality.grading import gradings_of
from bathys.quality.light import lights_of
from bathys.quality.pairs import pair_of
from bathys.quality.salt import Salt, salt_of
from bathys.quality.schools import stock_schools
from bathys.quality.sowing import feed_grown, rotas_of
from bathys.quality.stocking import TankStock
from bathys.quality.water import water_of
from bathys.quality.water_result import VesselWater, WaterResult
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest, ribbons_of

__all__ = ["BENCH"]

_DAY, _WEEK = 86400.0, 7.0
_MANY = 1e3  # mg/L that are as good as without end
_LEAST = 0.005  # of all oxygen, under which a row is left out


def _dissolved(value: float, units: System) -> str:
    return show(value, "dissolved", units) if value < _MANY else "climbs"


def _vessel(at: VesselWater, stock: TankStock | None, units: System) -> dict[str, Any]:
    fish = stock.species if stock is not None else None
    return {
        "part": at.vessel,
        "fish": fish.called if fish is not None else "",
        "tan": _dissolved(at.tan, units),
        "ammonia": _dissolved(at.ammonia, units),
        "nitrite": _dissolved(at.nitrite, units),
        "nitrate": _dissolved(at.nitrate, units),
        "oxygen": show(at.oxygen, "dissolved", units),
        "share": show(at.share, "percent", units),
        "dioxide": show(at.carbon_dioxide, "dissolved", units),
        "ph": f"{at.ph:.1f}",
        "ammonia_high": fish is not None and at.ammonia > fish.most_ammonia,
        "nitrite_high": fish is not None and at.nitrite > fish.most_nitrite,
        "oxygen_low": fish is not None and at.oxygen < fish.least_oxygen,
        "limits": ""
        if fish is None
        else f"at most {show(fish.most_ammonia, 'dissolved', units)} of harmful ammonia, "
        f"{show(fish.most_nitrite, 'dissolved', units)} of nitrite; "
        f"{show(fish.least_oxygen, 'dissolved', units)} of oxygen or more",
    }


def _shares(rows: dict[str, float], units: System) -> list[dict[str, Any]]:
    """Rows of a ledger with their share, the greatest first."""
    whole = sum(q for q in rows.values() if q > 0.0)
    return [
        {
            "name": name,
            "grams": f"{grams:.3g} g",
            "share": show(grams / whole, "percent", units),
            "wide": round(100.0 * grams / whole, 1),
        }
        for name, grams in sorted(rows.items(), key=lambda row: -row[1])
        if whole > 0.0 and grams > _LEAST * whole
    ]


def _nitrogen(ask: BenchRequest, water: WaterResult) -> list[dict[str, Any]]:
    """Where the nitrogen that is turned over goes."""
    names = ask.plan.names
    rows = {f"taken up in {names[id_]}": q for id_, q in water.taken_up.items()}
    rows["lost as gas"] = water.gas
    if water.nitrate_left > 0.0:
        rows["left over: nitrate climbs"] = water.nitrate_left
    else:
        rest = water.made - sum(rows.values())
        rows["leaves with water"] = max(rest, 0.0)
    return _shares(rows, ask.units)


def _salt(salt: Salt | None, units: System) -> dict[str, str]:
    """What fresh water leaves behind; empty where none is told."""
    if salt is None:
        return {}
    end = salt.in_the_end
    return {
        "week": show(salt.a_week, "dissolved", units),
        "end": show(end, "dissolved", units) if end is not None else "",
    }


def _rotas(ask: BenchRequest) -> list[dict[str, Any]]:
    """What is sown and harvested a week in each bed, and the light on it."""
    lights = {row.vessel.id: row for row in lights_of(ask.found.evaluation)}
    rows = []
    for rota in rotas_of(ask.found.evaluation):
        light = lights[rota.vessel.id]
        rows.append(
            {
                "part": rota.vessel,
                "crop": rota.vessel.crop.grows.name if rota.vessel.crop is not None else "",
                "area": show(rota.area, "surface", ask.units),
                "sites": f"{rota.sites:.0f}",
                "free": f"{rota.free:.0f} free" if rota.free >= 1.0 else "",
                "sown": f"{rota.sown:.1f}",
                "raised": f"{rota.raised:.0f}",
                "harvested": f"{rota.harvested:.1f}",
                "weeks": f"{rota.weeks:.1f}",
                "light": f"{light.sun + light.lamps:.0f}",
                "wants": f"{light.least:.0f} to {light.most:.0f}",
                "is_dark": light.sun + light.lamps < light.least,
                "lamps": show(light.lamp_energy, "energy", ask.units)
                if light.lamp_energy > 0.0
                else "",
            }
        )
    return rows


def _gradings(ask: BenchRequest) -> list[dict[str, Any]]:
    """How long each cohort's fish are, and which mesh holds them."""
    names, units = ask.plan.names, ask.units
    return [
        {
            "part": row.stock,
            "length": show(row.length, "length", units),
            "harvest": show(row.length_at_harvest, "length", units),
            "mesh": show(row.mesh, "length", units),
            "grade": show(row.next_grade, "length", units) if row.next_grade is not None else "",
            "eaten_by": names.get(row.eaten_by, ""),
        }
        for row in gradings_of(ask.found.evaluation)
    ]


def _page(ask: BenchRequest) -> dict[str, Any]:
    found, units = ask.found.evaluation, ask.units
    water = water_of(found)
    if water is None:
        return {"has_fish": False}
    plan = ask.plan
    alkalinity = alkalinity_of(found, water)
    given = feed_on_area(found, water)
    feed = sum(s.feed for s in water.stock.values())
    crops = {v.crop.kind for v in plan.vessels if v.crop is not None}
    return {
        "has_fish": True,
        "shut": [r for r in plan.runs if r.is_usually_shut],
        "has_pair": pair_of(found) is not None,
        "is_told": bool(plan.fish),
        "tanks": [
            {
                "part": plan.vessel(id_),
                "mass": show(s.mass, "mass", units),
                "harvest": show(s.mass_at_harvest, "mass", units),
                "feed": f"{s.feed:.3g} g",
                "fish": s.species.called,
                "protein": show(s.protein, "percent", units),
            }
            for id_, s in water.stock.items()
        ],
        "vessels": [
            _vessel(at, water.stock.get(id_), units)
            for id_, at in water.vessels.items()
            if at.vessel.use.takes_up or found.vessels[id_].inflow > 0.0
        ],
        "holds": show(water.holds, "dissolved", units),
        "made": f"{water.made:.3g} g",
        "cleaners": _shares({plan.names[id_]: q for id_, q in water.nitrified.items()}, units),
        "able": [
            {
                "part": plan.vessel(id_),
                "able": f"{q:.3g} g",
                "does": f"{water.nitrified[id_]:.3g} g",
            }
            for id_, q in water.able.items()
            if q > 0.01 * max(water.able.values(), default=0.0)
        ],
        "nitrogen": _nitrogen(ask, water),
        "streams": ribbons_of(nitrogen_budget(found, water)),
        "used": _shares(water.oxygen_used, units),
        "brought": _shares(water.oxygen_brought, units),
        "oxygen": f"{sum(water.oxygen_used.values()):.3g} g",
        "lost": f"{alkalinity.lost:.3g} g",
        "grows": alkalinity.lost <= 0.0,
        "days": show(alkalinity.days * _DAY, "interval", units)
        if alkalinity.days is not None and math.isfinite(alkalinity.days)
        else "",
        "potassium": show(alkalinity.potassium, "dose", units),
        "sodium": show(alkalinity.sodium, "dose", units),
        "area": show(given.area, "surface", units) if given is not None else "",
        "on_area": f"{given.feed:.3g} g" if given is not None else "",
        "crops": ", ".join(CROPS[c].name for c in sorted(crops)),
        "areas": [
            {
                "school": s.school,
                "area": show(s.least, "surface", units)
                if s.least == s.most
                else f"{show(s.least, 'surface', units)} to {show(s.most, 'surface', units)}",
            }
            for s in school_areas(found, water)
        ],
        "salt": _salt(salt_of(found), units),
        "rotas": _rotas(ask),
        "gradings": _gradings(ask),
        "floats": show(feed_grown(found), "mass", units) if feed_grown(found) > 0.0 else "",
        "bought": show(_WEEK * sum(s.feed - s.feed_grown for s in plan.fish), "mass", units)
        if plan.fish
        else "",
        "grown": show(_WEEK * sum(s.feed_grown for s in plan.fish), "mass", units)
        if any(s.feed_grown > 0.0 for s in plan.fish)
        else "",
        "schools": [
            {
                "name": s.name,
                "has": show(s.has, "volume", units),
                "mass": show(s.mass, "mass", units),
            }
            for s in stock_schools(found)
        ],
        "feed": f"{feed:.3g} g",
    }


BENCH = Bench(
    "water",
    "Fish and water",
    "What the water comes to, and what makes it so",
    _page,
    lambda plan: any(v.use.keeps_fish for v in plan.vessels),
)
