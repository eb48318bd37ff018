"""The pump bench: what the pump makes, what the pipes ask, and where the head goes."""

from dataclasses import dataclass
from typing import Any

from bathys.drawing.stations import name_of
from bathys.evaluation import Delivery, Duty
from bathys.plan import Plan
from bathys.sizing import SystemCurve, pump_line, system_curves
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest
from bathys_web.plans.benches.plots import Curve, Plot, Spot

__all__ = ["BENCH", "HeadBar"]

_WORDS = {"new": "as new", "season": "after a season", "neglected": "neglected"}
_LOOKS = {"new": "deep", "season": "good", "neglected": "clay"}


@dataclass(frozen=True, slots=True)
class HeadBar:
    """One share of a pump's head in a bar 100 wide."""

    x: float
    width: float
    look: str
    words: str
    label: str
    share: str
    as_pipe: str


def _head_bars(plan: Plan, delivery: Delivery, units: System) -> list[HeadBar]:
    """Where a pump's head goes on its way to one outlet, in the order of the water."""
    rows = [row for row in delivery.budget if row.head > 0.0]
    total = sum(row.head for row in rows)
    bars, at = [], 0.0
    for row in rows:
        wide = 100.0 * row.head / total
        name = name_of(plan, row.place)
        label = row.label.removesuffix(f" of {row.place}")
        label = label if row.kind == "lift" else f"{label}, {name}"
        bars.append(
            HeadBar(
                round(at, 2),
                round(wide, 2),
                row.kind,
                show(row.head, "length", units),
                label,
                show(row.head / total, "percent", units),
                show(row.as_pipe, "head", units) if row.as_pipe else "",
            )
        )
        at += wide
    return bars


def _plot(duty: Duty, curves: tuple[SystemCurve, ...], units: System) -> Plot:
    """The pump's curve and what the pipes ask, within what this pump can give."""
    line = pump_line(duty.pump)
    most = float(line.flows[-1])
    drawn = [Curve(f"{duty.pump.name} curve", line.flows.tolist(), line.heads.tolist(), "mark")]
    spots = []
    for curve in curves:
        rising = [i for i, q in enumerate(curve.flows) if q > 0.0]
        first = max((rising or [1])[0] - 1, 0)
        keep = [i for i in range(first, len(curve.flows)) if curve.flows[i] <= 1.05 * most]
        drawn.append(
            Curve(
                f"system curve, {_WORDS[curve.fouling]}",
                [float(curve.flows[i]) for i in keep],
                [float(curve.heads[i]) for i in keep],
                _LOOKS[curve.fouling],
                curve is not curves[0],
            )
        )
        # One figure by the lines is read at once, three lie over each other; the table has them.
        words = show(curve.duty_flow, "flow", units) if curve is curves[0] else ""
        spots.append(Spot(curve.duty_flow, curve.duty_head, words, _LOOKS[curve.fouling]))
    return Plot(
        f"Head of {duty.pump.name} against flow, with the system curve",
        ("flow", "flow"),
        ("head", "head"),
        tuple(drawn),
        (),
        tuple(spots),
    )


def _rows(curves: tuple[SystemCurve, ...], units: System) -> list[dict[str, str]]:
    now = curves[0].duty_flow if curves else 0.0
    return [
        {
            "state": _WORDS[c.fouling],
            "look": _LOOKS[c.fouling],
            "flow": show(c.duty_flow, "flow", units),
            "head": show(c.duty_head, "head", units),
            "share": show(c.duty_flow / now, "percent", units) if now > 0.0 else "–",
        }
        for c in curves
    ]


def _page(ask: BenchRequest) -> dict[str, Any]:
    evaluation, units = ask.found.evaluation, ask.units
    duties = evaluation.duties
    chosen = ask.asked.get("pump", "")
    duty = duties.get(chosen) or next(iter(duties.values()), None)
    if duty is None:
        return {"refusal": "This plan has no pump yet."}
    curves = system_curves(evaluation.balance, duty.pump)
    plan, own = evaluation.plan, duty.pump.id
    ways = [
        {
            "vessel": plan.vessel(d.vessel),
            "run": plan.part(d.run),
            "bars": _head_bars(plan, d, units),
            "flow": show(d.flow, "flow", units),
            "head": show(sum(r.head for r in d.budget), "head", units),
        }
        for d in duty.deliveries
    ]
    return {
        "pumps": [d.pump for d in duties.values()],
        "pump": duty.pump,
        "plot": _plot(duty, curves, units).as_json(units),
        "rows": _rows(curves, units),
        "ways": ways,
        "facts": [
            ("flow", show(duty.flow, "flow", units), f"{own}.flow"),
            ("head", show(duty.head, "head", units), f"{own}.head"),
            ("share of label flow", show(duty.label_share, "percent", units), f"{own}.label_share"),
            ("shut-off head", show(duty.shut_off_head, "head", units), f"{own}.top"),
            ("power", show(duty.power, "power", units), f"{own}.power"),
            ("efficiency", show(duty.efficiency, "percent", units), f"{own}.efficiency"),
            ("lost in valves", show(duty.valve_power, "power", units), f"{own}.valve_power"),
            ("running time", show(duty.share, "percent", units), f"{own}.runs"),
        ],
    }


BENCH = Bench(
    "pump",
    "Pump",
    "Pump duty and head losses",
    _page,
    lambda plan: bool(plan.pumps),
    "plans/benches/_pump_choice.html",
)
