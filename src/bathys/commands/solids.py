"""``bathys solids``: what settlers catch, and where a day's solids end."""

import math
from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.quality import solids_of
from bathys.quality.sludge import sludge_of
from bathys.units import System, show

__all__ = ["as_data", "as_text"]


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
    ends = [(plan.part(p).name, f"{grams:.3g} g") for p, grams in solids.ends.items()]
    if ends:
        lines += ["", *table(("A day’s solids end in", "Dry"), ends)]
    if solids.climbs > 0.0:
        lines.append(f"Nothing takes out {solids.climbs:.3g} g a day.")
    return "\n".join(lines)


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
        "ends_a_day": solids.ends,
        "leaves_a_day": solids.leaves,
        "climbs_a_day": solids.climbs,
        "in_water": {v.id: in_water(v.id) for v in found.plan.vessels},
    }
