"""The build bench: levels, holes, marks and fittings, for the drill and the level."""

from typing import Any

from bathys.build import BUCKET, bases_of, fitting_counts, holes_of, marks_of, readings_of
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]

_READINGS = {
    "bucket": ("bucket fills in", "time"),
    "cycle": ("from start to start of its siphon", "time"),
    "low": ("low water", "length"),
    "high": ("high water", "length"),
    "cut": ("water with the pump off", "length"),
    "watts": ("draws", "power"),
}
_CLOSE = 0.02  # of a hole's edge to a rim or a floor, that is told [m]


def _optional(value: float | None, units: System) -> str:
    return show(value, "length", units) if value is not None else "–"


def _page(ask: BenchRequest) -> dict[str, Any]:
    found, units = ask.found.evaluation, ask.units
    holes = holes_of(found)
    return {
        "datum": ask.plan.datum,
        "faults": sum(f.severity == "fault" for f in ask.found.findings),
        "bases": [
            {
                "part": row.vessel,
                "how": "stands on a base of"
                if row.stands
                else "is dug in by"
                if row.is_dug_in
                else "stands on the ground",
                "height": show(abs(row.height), "length", units)
                if row.stands or row.is_dug_in
                else "–",
                "dug": show(row.dug, "volume", units) if row.dug > 0.0 else "–",
                "full": show(found.vessels[row.vessel.id].rest_volume, "volume", units),
            }
            for row in bases_of(found)
        ],
        "holes": [
            {
                "part": row.vessel,
                "run": row.run,
                "name": row.name,
                "place": "in the floor" if row.is_in_floor else show(row.height, "length", units),
                "datum": show(row.over_datum, "length", units),
                "pipe": show(row.pipe, "length", units),
                "size": row.run.bore.size.nominal
                if row.run.bore.size is not None
                else f"{show(row.run.bore.inside, 'length', units)} inside",
                "water": "–"
                if row.to_water is None
                else f"{show(abs(row.to_water), 'length', units)} "
                f"{'over' if row.to_water > 0.0 else 'under'} high water",
                "is_close": not row.is_in_floor and min(row.clears_rim, row.clears_floor) < _CLOSE,
            }
            for row in holes
        ],
        "marks": [
            {
                "part": row.vessel,
                "safe": _optional(row.safe, units),
                "low": show(row.low, "length", units),
                "high": show(row.high, "length", units),
                "rest": show(row.at_rest, "length", units),
                "sludge": _optional(row.sludge, units),
            }
            for row in marks_of(found)
        ],
        "bucket": show(BUCKET, "volume", units),
        "readings": [
            {
                "part": ask.plan.part(row.part),
                "what": _READINGS[row.what][0],
                "expected": show(row.expected, _READINGS[row.what][1], units),
                "low": show(row.low, _READINGS[row.what][1], units),
                "high": show(row.high, _READINGS[row.what][1], units),
            }
            for row in readings_of(found)
        ],
        "fittings": [
            {
                "name": row.name,
                "size": row.size or f"{show(row.bore, 'length', units)} inside",
                "count": row.count,
            }
            for row in fitting_counts(found)
        ],
        "valves": [
            {"part": run, "angle": show(run.valve.angle, "angle", units)}
            for run in ask.plan.runs
            if run.valve is not None and hasattr(run.valve, "angle")
        ],
    }


BENCH = Bench(
    "build",
    "Build",
    "What to level, drill, mark and buy",
    _page,
    lambda plan: bool(plan.vessels),
)
