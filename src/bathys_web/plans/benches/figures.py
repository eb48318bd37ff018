"""Every run and vessel in figures, and every part in words: all that the side view shows."""

from typing import Any

from bathys.drawing.stations import Station, numbers_of, stations_of
from bathys.evaluation import Evaluation, RunResult
from bathys.plan import Plan
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest
from bathys_web.plans.inspector import rows_of, shown_value

__all__ = ["BENCH"]

_WHAT = {
    "runs": "pipe",
    "pumps": "pump",
    "siphons": "siphon",
    "outlets": "outlet",
    "junctions": "joint",
    "top_ups": "float valve",
    "transfers": "carried water",
    "fish": "fish",
    "air": "air",
    "air_pumps": "air pump",
    "appliances": "plugged in",
}
_NOTHING = ("", "none", "none is named")


def _part_row(plan: Plan, station: Station, units: System) -> dict[str, Any]:
    """A part as it is built: every box of its inspector that says something."""
    part = plan.part(station.id)
    boxes = [
        (row.label, shown_value(row))
        for row in rows_of(plan, part, f"{station.group}.{station.id}", units)
        if row.label != "Name" and row.kind not in ("pick", "points", "marks")
    ]
    return {
        "station": station,
        "what": part.use.name.lower() if station.group == "vessels" else _WHAT[station.group],
        "built": [(label, value) for label, value in boxes if value not in _NOTHING],
    }


def _run_rows(found: Evaluation, units: System) -> list[dict[str, Any]]:
    rows = []
    for result in found.runs.values():
        gravity = result.gravity
        rows.append(
            {
                "run": result.run,
                "flow": show(result.flow, "flow", units),
                "velocity": show(result.velocity, "speed", units),
                "regime": result.regime,
                "loss": show(abs(result.loss), "length", units),
                "valve": _valve(result, units),
                "fill": show(gravity.fill, "percent", units) if gravity else "",
                "over": show(max(gravity.head_over, 0.0), "length", units) if gravity else "",
                "spare": show(gravity.capacity, "flow", units) if gravity else "",
                "drop": (gravity.drop or "") if gravity and result.flow > 0.0 else "",
            }
        )
    return rows


def _valve(result: RunResult, units: System) -> str:
    if result.run.valve is None:
        return ""
    return show(result.valve_loss, "length", units) if result.flow else "–"


def _vessel_rows(found: Evaluation, units: System) -> list[dict[str, Any]]:
    rows = []
    for result in found.vessels.values():
        floor, levels = result.vessel.floor_height, result.levels
        rows.append(
            {
                "vessel": result.vessel,
                "low": show(levels.low - floor, "length", units),
                "high": show(levels.high - floor, "length", units),
                "rest": show(levels.at_rest - floor, "length", units),
                "rim": show(result.vessel.shape.height, "length", units),
                "holds": show(result.volume, "volume", units),
                "flow": show(result.inflow, "flow", units),
                "turnover": show(result.turnover, "per_hour", units)
                if result.inflow > 0.0
                else "–",
            }
        )
    return rows


def _page(ask: BenchRequest) -> dict[str, Any]:
    found, numbers = ask.found.evaluation, numbers_of(ask.plan)
    return {
        "runs": sorted(_run_rows(found, ask.units), key=lambda r: numbers[r["run"].id]),
        "vessels": sorted(_vessel_rows(found, ask.units), key=lambda r: numbers[r["vessel"].id]),
        "parts": [_part_row(ask.plan, s, ask.units) for s in stations_of(ask.plan)],
    }


BENCH = Bench("figures", "All figures", "Every run, vessel and part", _page)
