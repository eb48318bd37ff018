"""The week bench: what runs when, and what is done by hand."""

from typing import Any

from bathys.evaluation.timetable import WEEK, Timed, week_of
from bathys.plan import Plan
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]

_WIDE, _ROW, _LEFT = 700.0, 22.0, 44.0  # of the seven days, of a row, left of Monday [px]
_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
_WHAT = {
    "pump": "pump runs",
    "valve": "valve is open",
    "water": "water is moved",
    "hand": "topped up by hand",
}
_THIN = 1.2  # a span is drawn at least so wide


def _row(plan: Plan, timed: Timed, number: int, units: System) -> dict[str, Any]:
    bars = [
        {
            "x": round(_LEFT + begin / WEEK * _WIDE, 2),
            "wide": round(max((end - begin) / WEEK * _WIDE, _THIN), 2),
        }
        for begin, end in timed.stretches
    ]
    return {
        "part": plan.part(timed.part),
        "what": _WHAT[timed.kind],
        "kind": timed.kind,
        "y": _ROW * number + 4.0,
        "words_y": _ROW * number + 15.0,
        "bars": bars,
        "is_dense": timed.is_dense,
        "hours": show(3600.0 * timed.hours, "time", units) if timed.hours else "",
        "energy": f"{timed.energy:.2g} kWh" if timed.energy else "",
        "volume": show(timed.volume, "volume", units) if timed.volume else "",
    }


def _page(ask: BenchRequest) -> dict[str, Any]:
    rows = [
        _row(ask.plan, timed, number, ask.units)
        for number, timed in enumerate(week_of(ask.found.evaluation))
    ]
    return {
        "rows": rows,
        "wide": _LEFT + _WIDE,
        "left": _LEFT,
        "tall": _ROW * len(rows) + 22.0,
        "foot": _ROW * len(rows) + 4.0,
        "days": [
            {"name": name, "x": _LEFT + (k + 0.5) * _WIDE / 7.0, "edge": _LEFT + k * _WIDE / 7.0}
            for k, name in enumerate(_DAYS)
        ],
        "words_at": _ROW * len(rows) + 18.0,
    }


def _has_any(plan: Plan) -> bool:
    return bool(
        plan.transfers
        or any(p.clock is not None for p in plan.pumps)
        or any(r.valve_clock is not None for r in plan.runs)
        or any(t.visit is not None for t in plan.top_ups)
    )


BENCH = Bench("week", "The week", "What runs when, and what is done by hand", _page, _has_any)
