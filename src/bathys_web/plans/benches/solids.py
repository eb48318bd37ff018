"""The solids bench: how calm the water gets in each settler, what it catches, and where a day's
solids end."""

import math
from typing import Any

from bathys.drawing.settler_section import draw_settler
from bathys.evaluation import Evaluation
from bathys.parts.practice import OUTLET_CALM, SETTLER_HOLDS, SETTLER_RATE, WASTE_CARRIED
from bathys.quality import SettlerResult, SolidsResult, solids_of
from bathys.quality.beds import bed_solids, raft_solids
from bathys.quality.budget import solids_budget
from bathys.quality.filters import due_of
from bathys.quality.grains import FRESH
from bathys.quality.mineralising import mineralised
from bathys.quality.settling import (
    OUTLET_DRILL,
    calm_holes,
    calm_slit,
    capture_of,
    mass_caught,
    mass_caught_by_two,
)
from bathys.quality.sludge import Sludge, sludge_of
from bathys.quality.solids_lift import EASY_LIFT, solids_lifts
from bathys.quality.solids_lines import SETTLER_FALL, falls_to, solids_lines, time_shut
from bathys.units import System, own_system, show
from bathys_web.plans.benches.bench import Bench, BenchRequest, ribbons_of
from bathys_web.plans.benches.plots import Curve, Plot

__all__ = ["BENCH"]

_WIDE, _ROW, _LEFT = 430.0, 22.0, 105.0
_SLOWEST, _FASTEST = 1e-4, 1.0  # ends of the ladder [m/s]
_LONGEST = 2400.0  # end of the scale of retention [s]
_FINEST, _COARSEST, _POINTS = 1e-5, 1e-2, 60
_SLIT = 0.01  # gap of the slit that is told beside the holes [m]
_DAY, _WEEK = 86400.0, 604800.0
_RIPENS = 42.0  # days that solids are let in, where they are only at first (common practice)
_MANY = 1e12  # g/m³ that are as good as without end


def _across(speed: float) -> float:
    """Where a speed lies on the ladder, by its logarithm [px]."""
    share = math.log(max(speed, _SLOWEST) / _SLOWEST) / math.log(_FASTEST / _SLOWEST)
    return round(min(max(share, 0.0), 1.0) * (_WIDE - _LEFT - 140.0), 1)


def _other(units: System) -> System:
    """Inches for who reads millimetres, and the other way round."""
    return "us" if own_system(units, "slow_speed") == "metric" else "metric"


def _retention(stays: float) -> dict[str, Any]:
    def at(seconds: float) -> float:
        return round(min(seconds / _LONGEST, 1.0) * _WIDE, 1)

    return {
        "at": at(stays),
        "schools": [
            {
                "at": at(seconds),
                "words": words,
                "y": 34.0 + 14.0 * (len(SETTLER_HOLDS) - 1 - number),
            }
            for number, (seconds, words) in enumerate(SETTLER_HOLDS)
        ],
    }


def _capture_plot(settler: SettlerResult, viscosity: float) -> Plot:
    """What of each grain is caught, and how the waste is spread."""
    grains = [_FINEST * (_COARSEST / _FINEST) ** (k / _POINTS) for k in range(_POINTS + 1)]
    shares = [capture_of(settler.vessel, settler.rate, g, viscosity) for g in grains]
    return Plot(
        f"What {settler.vessel.name} catches of each grain",
        ("size of a grain", "length"),
        ("share", "percent"),
        (
            Curve("caught of each size", grains, shares, "mark"),
            Curve(
                "fresh waste that is finer", grains, [FRESH.under(g) for g in grains], "soft", True
            ),
        ),
        is_log=True,
    )


def _settler(
    found: Evaluation, solids: SolidsResult, settler: SettlerResult, units: System
) -> dict[str, Any]:
    viscosity = found.water.kinematic_viscosity
    level = found.vessels[settler.vessel.id].levels.high - settler.vessel.floor_height
    inside = settler.vessel.settler
    sludge = sludge_of(solids, settler.vessel)
    return {
        "vessel": settler.vessel,
        "cut": draw_settler(settler.vessel, level, units),
        "kind": inside.CHOICE if inside is not None else "not told how it is built: a plain can",
        "fitted": inside.FITTED if inside is not None else "assumed",
        "flow": show(settler.flow, "flow", units),
        "stays": show(settler.retention, "time", units),
        "rate": show(settler.rate, "slow_speed", units),
        "most_rate": show(SETTLER_RATE, "slow_speed", units),
        "is_fast": settler.is_fast,
        "caught": show(settler.caught, "percent", units),
        "low": show(settler.low, "percent", units),
        "high": show(settler.high, "percent", units),
        "grain": show(settler.grain, "length", units) if settler.grain is not None else "",
        "a_pass": show(solids.caught_by(settler.vessel.id), "percent", units),
        "ladder": [
            {
                "name": step.name,
                "y": _ROW * number + 8.0,
                "words_y": _ROW * number + 19.0,
                "wide": _across(step.speed),
                "speed": show(step.speed, "slow_speed", units),
                "other": show(step.speed, "slow_speed", _other(units)),
                "speed_x": _LEFT + _across(step.speed) + 8.0,
            }
            for number, step in enumerate(settler.ladder)
        ],
        "tall": _ROW * len(settler.ladder) + 12.0,
        "retention": _retention(settler.retention),
        "plot": _capture_plot(settler, viscosity).as_json(units),
        "ways": _ways(settler, viscosity, units),
        "shut": _shut(found, settler.vessel.id, units),
        "falls": _falls(found, settler.vessel.id, units),
        "outlet": _outlet(settler, units),
        "sludge": _sludge(sludge, units) if sludge is not None else None,
    }


def _ways(settler: SettlerResult, viscosity: float, units: System) -> list[dict[str, str]]:
    """One of it, two in parallel, and two in series."""
    vessel, rate, stays = settler.vessel, settler.rate, settler.retention
    half = mass_caught(vessel, 0.5 * rate, FRESH, viscosity)
    both = mass_caught_by_two(vessel, rate, FRESH, viscosity)
    return [
        {
            "name": name,
            "rate": show(rises, "slow_speed", units),
            "stays": show(each, "time", units),
            "caught": show(caught, "percent", units),
        }
        for name, rises, each, caught in (
            ("one, as now", rate, stays, settler.caught),
            ("two in parallel, each with half of the flow", 0.5 * rate, 2.0 * stays, half),
            ("two in series, each with all of it", rate, stays, both),
        )
    ]


def _shut(found: Evaluation, settler: str, units: System) -> dict[str, str] | None:
    """How long the way to it may stay shut for cleaning."""
    shut = time_shut(found, settler)
    if shut is None:
        return None
    return {"tank": found.plan.vessel(shut[0]).name, "time": show(shut[1], "time", units)}


def _falls(found: Evaluation, settler: str, units: System) -> list[dict[str, Any]]:
    """How far water falls from each tank to it, what of this the pipes take, and what lacks."""
    return [
        {
            "tank": found.plan.names[way.tank],
            "fall": show(way.fall, "length", units),
            "lost": show(way.lost, "head", units),
            "wanted": show(SETTLER_FALL, "length", units),
            "deeper": show(way.deeper, "length", units) if way.deeper > 0.0 else "",
        }
        for way in falls_to(found, settler)
    ]


def _outlet(settler: SettlerResult, units: System) -> dict[str, Any]:
    """Its outlet, and the holes or the slit that would be calm."""
    inside = settler.vessel.settler
    rows = inside.hole_rows if inside is not None else ()
    has_slit = inside is not None and inside.slit_length > 0.0 and inside.slit_gap > 0.0
    return {
        "holes": " and ".join(
            f"{row.count} holes of {show(row.diameter, 'length', units)}" for row in rows
        ),
        "slit": f"{show(inside.slit_length, 'length', units)} by "
        f"{show(inside.slit_gap, 'length', units)}"
        if inside is not None and has_slit
        else "",
        "speed": show(settler.outlet_speed, "slow_speed", units)
        if settler.outlet_speed is not None
        else "",
        "calm": show(OUTLET_CALM, "slow_speed", units),
        "count": calm_holes(settler.flow),
        "drill": show(OUTLET_DRILL, "length", units),
        "gap": show(_SLIT, "length", units),
        "long": show(calm_slit(settler.flow, _SLIT), "length", units),
    }


def _lifts(found: Evaluation, units: System) -> list[dict[str, Any]]:
    """Every pipe that lifts waste from a tank's floor, and how surely it does."""
    return [
        {
            "part": lift.outlet,
            "tank": found.plan.names[lift.outlet.stands_in],
            "speed": show(lift.speed, "slow_speed", units),
            "other": show(lift.speed, "slow_speed", _other(units)),
            "ratio": show(lift.ratio, "ratio", units),
            "is_slow": lift.ratio < EASY_LIFT,
            "gap": show(lift.gap, "length", units),
            "gap_speed": show(lift.gap_speed, "slow_speed", units)
            if lift.gap_speed is not None
            else "",
            "easy": show(lift.easy, "length", units),
        }
        for lift in solids_lifts(found)
    ]


def _sludge(sludge: Sludge, units: System) -> dict[str, Any]:
    def days(value: float | None) -> str:
        return f"{value:.0f} days" if value is not None and value < 999.0 else "never"

    return {
        "dry": f"{sludge.dry:.3g} g",
        "volume": show(sludge.volume, "volume", units),
        "mark": show(sludge.mark, "length", units),
        "room": show(sludge.room, "volume", units),
        "days": days(sludge.days),
        "soonest": days(sludge.soonest),
        "latest": days(sludge.latest),
        "purge": show(sludge.purge, "volume", units),
    }


_DUE = {
    "past": "then water goes past it",
    "high": "then {vessel} is full to its freeboard",
    "full": "then it can hold little more",
}


def _filters(found: Evaluation, solids: SolidsResult, units: System) -> list[dict[str, Any]]:
    """Every filter: what it holds, what it loses, and when it is to be cleaned."""
    rows = []
    for result in solids.filters:
        held = solids.held(result.run.id)
        due = due_of(result, held, found.water.kinematic_viscosity)
        every = result.filter.clean_every
        rows.append(
            {
                "run": result.run,
                "kind": result.filter.CHOICE,
                "held": f"{held:.3g} g",
                "head": show(result.head, "head", units),
                "through": show(result.through, "percent", units),
                "days": show(due.days * _DAY, "interval", units)
                if due.days is not None
                else "never",
                "why": _DUE[due.why].format(vessel=found.plan.names.get(result.rises_in, ""))
                if due.days is not None
                else "",
                "every": show(every, "interval", units) if every is not None else "not settled",
                "is_late": every is not None and due.days is not None and every > due.days * _DAY,
                "how": result.filter.CLEANING,
            }
        )
    return rows


def _lines(found: Evaluation, units: System) -> list[dict[str, Any]]:
    """Pipes that carry waste which nothing has settled yet."""
    return [
        {
            "run": line.run,
            "tank": found.plan.names[line.tank],
            "speed": show(line.speed, "speed", units),
            "is_slow": line.speed < WASTE_CARRIED,
            "by": "a pump" if line.is_pumped else "gravity",
            "clean_out": line.has_clean_out,
        }
        for line in solids_lines(found)
    ]


def _kept(found: Evaluation, solids: SolidsResult, units: System) -> dict[str, Any]:
    """What beds and rafts come to hold."""
    return {
        "beds": [
            {
                "part": bed.vessel,
                "held": f"{bed.held:.3g} g",
                "level": show(0.001 * bed.level, "mass", units),
                "time": show(bed.days * _DAY, "interval", units),
                "filled": show(bed.filled, "percent", units),
                "young": show(0.001 * bed.after(_RIPENS), "mass", units)
                if found.plan.brief.solids == "first_weeks"
                else "",
            }
            for bed in bed_solids(found, solids)
        ],
        "rafts": [
            {"part": vessel, "week": f"{week:.3g} g"} for vessel, week in raft_solids(found, solids)
        ],
    }


def _let_out(found: Evaluation, solids: SolidsResult, units: System) -> dict[str, Any]:
    """Sludge that is let out by the clock, and what a mineralising drum hands back."""
    plan = found.plan
    purges = [
        {
            "part": plan.part(move.id),
            "from": plan.vessel(str(move.source)).name,
            "to": plan.names.get(move.target, "") if move.target is not None else "",
            "volume": show(move.volume, "volume", units),
            "every": show(move.every, "interval", units),
            "week": show(move.volume * _WEEK / move.every, "volume", units),
        }
        for transfer in plan.transfers
        for move in plan.moves
        if move.id == transfer.id
        and move.source is not None
        and move.source == transfer.takes_sludge
    ]
    drums = [
        {
            "part": plan.part(row.id),
            "drum": plan.vessel(row.drum).name,
            "to": plan.names[row.target] if row.target is not None else "outside",
            "litres": show(row.litres, "volume", units),
            "days": show(row.days * _DAY, "interval", units),
            "share": show(row.share, "percent", units),
            "nitrogen": f"{row.nitrogen:.2g} g",
        }
        for row in mineralised(found, solids)
    ]
    return {"purges": purges, "drums": drums}


def _page(ask: BenchRequest) -> dict[str, Any]:
    found = ask.found.evaluation
    solids, plan, units = solids_of(found), ask.plan, ask.units
    made = max(solids.made, 1e-9)
    on_runs = {r.id: r.filter.CHOICE for r in plan.runs if r.filter is not None}
    ends = [
        {
            "part": plan.part(place),
            "filter": on_runs.get(place, ""),
            "grams": f"{grams:.3g} g",
            "share": show(grams / made, "percent", units),
        }
        for place, grams in solids.ends.items()
        if grams > 1e-3 * made
    ]
    tanks = [v for v in plan.vessels if v.use.keeps_fish]
    return {
        "feed": show(solids.feed, "mass", units),
        "made": f"{solids.made:.3g} g",
        "has_feed": solids.made > 0.0,
        "wide": _WIDE,
        "left": _LEFT,
        "settlers": [_settler(found, solids, s, units) for s in solids.settlers],
        "ends": ends,
        "leaves": f"{solids.leaves:.3g} g" if solids.leaves > 1e-3 * made else "",
        "climbs": f"{solids.climbs:.3g} g" if solids.climbs > 1e-3 * made else "",
        "waters": [
            {
                "part": v,
                "words": f"{solids.in_water(v.id):.2g} mg/L"
                if solids.in_water(v.id) < _MANY
                else "climbs",
            }
            for v in tanks
        ],
        "streams": ribbons_of(solids_budget(found, solids)),
        "filters": _filters(found, solids, units),
        "lifts": _lifts(found, units),
        "lines": _lines(found, units),
        **_kept(found, solids, units),
        **_let_out(found, solids, units),
        "mashed": [plan.vessel(t).name for t in solids.mashed] if solids.settlers else [],
    }


BENCH = Bench(
    "solids",
    "Solids",
    "How calm the water gets, and where solids end",
    _page,
    lambda plan: any(v.use.keeps_fish for v in plan.vessels),
)
