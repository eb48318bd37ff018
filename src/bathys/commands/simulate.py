"""``bathys simulate``: a plan through time, told in plain words."""

import csv
import io
from typing import Any

from bathys.commands.tables import table
from bathys.simulation import SimulationResult
from bathys.units import System, show
from bathys.wording.scenarios import clock, event_words

__all__ = ["as_csv", "as_data", "as_text"]

_MOST_EVENTS = 60


def as_text(found: SimulationResult, units: System) -> str:
    """Cycles, levels and what happened.

    Parameters
    ----------
    found : SimulationResult
        A run through time
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    plan = found.plan
    lines = [plan.name, ""]
    rows = []
    for siphon in plan.siphons:
        cycle = found.cycle(siphon.id)
        rows.append(
            (
                siphon.id,
                siphon.name,
                str(len(found.times_of("starts", siphon.id))),
                str(len(found.times_of("breaks", siphon.id))),
                show(cycle, "time", units),
            )
        )
    if rows:
        lines += [*table(("", "siphon", "starts", "stops", "cycle"), rows, 2), ""]
    levels = []
    for vessel in plan.vessels:
        level = found.level(vessel.id) - vessel.floor_height
        levels.append(
            (
                vessel.id,
                vessel.name,
                *(
                    show(float(z), "length", units)
                    for z in (level.min(), level.mean(), level.max())
                ),
            )
        )
    lines += table(("", "vessel", "lowest", "mean", "highest"), levels, 2)
    lines += [
        "",
        *(f"{p.name} ran for {show(found.running[p.id], 'time', units)}" for p in plan.pumps),
    ]
    for id_, volume in found.spills.items():
        name = plan.vessel(id_).name
        lines.append(f"{show(volume, 'volume', units)} ran over the rim of {name}")
    if abs(found.supplied) > 1e-4:
        word = "came from" if found.supplied > 0.0 else "went"
        lines.append(f"{show(abs(found.supplied), 'volume', units)} {word} outside")
    if found.cut_short:
        reached = show(float(found.times[-1]), "time", units)
        lines += ["", f"Over {reached} only. {found.cut_short}"]
    lines += ["", "What happened"]
    if not found.events:
        lines.append("  nothing was switched, started or ran over: every level settled")
    lines += [f"{clock(e.time)}  {event_words(plan, e)}" for e in found.events[:_MOST_EVENTS]]
    if len(found.events) > _MOST_EVENTS:
        lines.append(f"… and {len(found.events) - _MOST_EVENTS} more; --json lists them all")
    return "\n".join(lines)


def as_data(found: SimulationResult) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : SimulationResult
        A run through time

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    return {
        "plan": found.plan.name,
        "siphons": [
            {
                "id": s.id,
                "cycle": found.cycle(s.id),
                "starts": found.times_of("starts", s.id),
                "breaks": found.times_of("breaks", s.id),
            }
            for s in found.plan.siphons
        ],
        "vessels": [
            {
                "id": v.id,
                "low": float(found.level(v.id).min()),
                "high": float(found.level(v.id).max()),
                "end": float(found.level(v.id)[-1]),
            }
            for v in found.plan.vessels
        ],
        "running": found.running,
        "spilled": found.spilled,
        "spills": found.spills,
        "supplied": found.supplied,
        "cut_short": found.cut_short,
        "events": [{"time": e.time, "kind": e.kind, "place": e.place} for e in found.events],
    }


def as_csv(found: SimulationResult) -> str:
    """Time [s] and the level of every vessel over the datum [m], one sample a line.

    Parameters
    ----------
    found : SimulationResult
        A run through time

    Returns
    -------
    str
        A head line, then one line a sample
    """
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    vessels = [v.id for v in found.plan.vessels]
    writer.writerow(["time_s", *(f"{v}_m" for v in vessels)])
    for number, time in enumerate(found.times):
        writer.writerow([f"{time:.0f}", *(f"{found.level(v)[number]:.4f}" for v in vessels)])
    return text.getvalue()
