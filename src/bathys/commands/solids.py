"""``bathys solids``: what settlers catch, and where a day's solids end."""

import math
from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.quality import solids_of
from bathys.quality.beds import bed_solids
from bathys.quality.filters import FilterResult, due_of
from bathys.quality.mineralising import mineralised
from bathys.quality.over_time import over_time
from bathys.quality.sludge import sludge_of
from bathys.units import System, show
from bathys.wording.over_time import happening_words

__all__ = ["as_data", "as_text", "days_as_data", "days_as_text"]


def as_text(found: Evaluation, units: System) -> str:
    """Settlers and where solids end, for a terminal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    solids, plan = solids_of(found), found.plan
    lines = [f"{show(solids.feed, 'mass', units)} of feed a day make {solids.made:.3g} g of solids"]
    rows = [
        (
            s.vessel.name,
            show(s.flow, "flow", units),
            show(s.retention, "time", units),
            show(s.rate, "slow_speed", units),
            f"{show(s.caught, 'percent', units)} ({show(s.low, 'percent', units)} to "
            f"{show(s.high, 'percent', units)})",
        )
        for s in solids.settlers
    ]
    if rows:
        lines += ["", *table(("Settler", "Flow", "Stays", "Rises at", "Catches"), rows)]
    for settler in solids.settlers:
        lines += ["", f"Velocities in {settler.vessel.name}"]
        lines += [
            f"  {step.name:<20} {show(step.speed, 'slow_speed', units):>12}"
            for step in settler.ladder
        ]
        sludge = sludge_of(solids, settler.vessel)
        if sludge is not None and sludge.days is not None:
            lines.append(f"  sludge at its mark after {sludge.days:.0f} days")
    lines += _filter_lines(found, units)
    ends = [(plan.part(p).name, f"{grams:.3g} g") for p, grams in solids.ends.items()]
    if ends:
        lines += ["", *table(("A day’s solids end in", "Dry"), ends)]
    if solids.climbs > 0.0:
        lines.append(f"Nothing takes out {solids.climbs:.3g} g a day.")
    lines += [
        f"{bed.vessel.name} comes to hold {show(0.001 * bed.level, 'mass', units)} dry, "
        f"{show(bed.filled, 'percent', units)} of the room between its media"
        for bed in bed_solids(found, solids)
    ]
    lines += [
        f"{plan.vessel(row.drum).name} hands back {show(row.litres, 'volume', units)} and "
        f"{row.nitrogen:.2g} g of nitrogen a week"
        for row in mineralised(found, solids)
    ]
    return "\n".join(lines)


def _filter_lines(found: Evaluation, units: System) -> list[str]:
    solids = solids_of(found)
    rows = []
    for result in solids.filters:
        held = solids.held(result.run.id)
        due = due_of(result, held, found.water.kinematic_viscosity)
        rows.append(
            (
                result.run.name,
                result.filter.CHOICE,
                f"{held:.3g} g",
                show(result.head, "head", units),
                f"{due.days:.1f} days" if due.days is not None else "never",
            )
        )
    if not rows:
        return []
    return ["", *table(("Filter of", "Kind", "Holds a day", "Loses", "Full after"), rows)]


def days_as_text(found: Evaluation) -> str:
    """What happens with nobody cleaning, for a terminal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    str
        Lines for a terminal
    """
    course = over_time(found.plan)
    if not course.happenings:
        return "With nobody cleaning, nothing happens."
    rows = [(f"{h.day:.1f} days", happening_words(found.plan, h)) for h in course.happenings]
    return "\n".join(table(("After", "What"), rows))


def days_as_data(found: Evaluation) -> dict[str, Any]:
    """The same as JSON data: days, and shares from 0 to 1.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to object
        JSON data
    """
    course = over_time(found.plan)
    return {
        "happenings": [{"day": h.day, "kind": h.kind, "place": h.place} for h in course.happenings],
        "moments": [
            {
                "day": m.day,
                "loads": m.loads,
                "sludge": m.sludge,
                "levels": m.levels,
                "flows": m.flows,
                "held": m.held,
            }
            for m in course.moments
        ],
    }


def as_data(found: Evaluation) -> dict[str, Any]:
    """The same as JSON data, in SI units, masses in grams.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to object
        JSON data
    """
    solids = solids_of(found)

    def in_water(place: str) -> float | None:
        value = solids.in_water(place)
        return value if math.isfinite(value) else None

    return {
        "feed_a_day": solids.feed,
        "solids_made_a_day": solids.made,
        "settlers": [
            {
                "vessel": s.vessel.id,
                "flow": s.flow,
                "retention": s.retention,
                "overflow_rate": s.rate,
                "caught": {"value": s.caught, "low": s.low, "high": s.high},
                "grain_95": s.grain,
                "ladder": [{"name": x.name, "area": x.area, "speed": x.speed} for x in s.ladder],
            }
            for s in solids.settlers
        ],
        "filters": [_filter_data(found, r) for r in solids.filters],
        "beds": [
            {"vessel": b.vessel.id, "held_a_day": b.held, "level": b.level, "filled": b.filled}
            for b in bed_solids(found, solids)
        ],
        "mineralised": [
            {"drum": m.drum, "volume_a_week": m.litres, "nitrogen_a_week": m.nitrogen}
            for m in mineralised(found, solids)
        ],
        "ends_a_day": solids.ends,
        "leaves_a_day": solids.leaves,
        "climbs_a_day": solids.climbs,
        "in_water": {v.id: in_water(v.id) for v in found.plan.vessels},
    }


def _filter_data(found: Evaluation, result: FilterResult) -> dict[str, Any]:
    held = solids_of(found).held(result.run.id)
    due = due_of(result, held, found.water.kinematic_viscosity)
    return {
        "run": result.run.id,
        "kind": result.filter.kind,
        "held_a_day": held,
        "head": result.head,
        "through": result.through,
        "full_after_days": due.days,
        "why": due.why,
    }
