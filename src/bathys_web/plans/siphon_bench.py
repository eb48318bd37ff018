"""The siphon bench: the window its inflow must lie in, and what else could be built."""

from dataclasses import dataclass
from typing import Any

from django.http import QueryDict

from bathys.evaluation import BedResult
from bathys.pipeline import Assessment
from bathys.plan import EditRefused, Plan
from bathys.simulation import Window
from bathys.sizing import (
    START_MARGIN,
    STOP_MARGIN,
    SiphonAsk,
    SiphonChoice,
    ask_of_bed,
    choice_edits,
    design_siphon,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.charts import Tick
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["siphon_list", "take_siphon"]

_WIDE, _EDGE = 520.0, 14.0
_MOST_CHOICES = 6


@dataclass(frozen=True, slots=True)
class WindowBand:
    """A working window on an axis of flow, in picture units."""

    start: float
    stop: float
    start_low: float
    start_high: float
    stop_low: float
    stop_high: float
    good_from: float
    good_to: float
    inflow: float


def _flow_axis(most: float, units: System) -> tuple[float, list[Tick]]:
    """Picture units for one m³/s, and ticks."""
    scale = (_WIDE - 2.0 * _EDGE) / most
    unit = (1.0 / 3.6e6) if units == "metric" else (3.785411784e-3 / 3600.0)
    shown = most / unit
    step = next(s for s in (10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 1e9)
                if shown / s <= 6)  # fmt: skip
    return scale, [
        Tick(round(_EDGE + k * step * unit * scale, 1), show(k * step * unit, "flow", units))
        for k in range(int(shown / step) + 1)
    ]


def _band(window: Window, inflow: float, scale: float) -> WindowBand:
    def x(flow: float) -> float:
        return round(min(max(_EDGE + flow * scale, 0.0), _WIDE), 1)

    start, stop = window.start, window.stop
    return WindowBand(
        x(start.value), x(stop.value), x(start.low), x(start.high), x(stop.low), x(stop.high),
        x(START_MARGIN * start.value), x(STOP_MARGIN * stop.value), x(inflow),
    )  # fmt: skip


def _ask(found: Assessment, siphon: str) -> tuple[BedResult, SiphonAsk, str] | None:
    plan = found.evaluation.plan
    part, tail = plan.part(siphon), plan.run_from(f"{siphon}.tail")
    if plan.group_of(siphon) != "siphons" or tail is None:
        return None
    bed = found.evaluation.bed(part.stands_in)
    if bed is None or bed.cycle.start_inflow <= 0.0:
        return None
    cycle = bed.cycle
    return bed, ask_of_bed(bed.loop.built, tail, cycle.start_inflow, cycle.break_inflow), tail.id


def _words(choice: SiphonChoice) -> str:
    extras = " with an air tube" * choice.has_tube + ", tail’s end turned up" * choice.has_trap
    if choice.kind == "loop":
        return f"loop of {choice.nominal} tube"
    return f"{choice.nominal} standpipe, {choice.bell} bell{extras}"


def siphon_list(found: Assessment, asked: QueryDict, units: System, own: object) -> dict[str, Any]:
    """The window of a siphon with its inflow on it, and the siphons that would do."""
    siphon = asked.get("siphon", "")
    ask = _ask(found, siphon)
    if ask is None:
        return {"refusal": "Give it a tail and some inflow first; then its window can be told."}
    bed, wanted, _ = ask
    design = design_siphon(wanted)
    window, inflow = bed.cycle.window, bed.cycle.start_inflow
    choices = design.choices[:_MOST_CHOICES]
    most = 1.12 * max([inflow, window.stop.high, window.start.high,
                       *(c.window.stop.value for c in choices[:3])])  # fmt: skip
    scale, ticks = _flow_axis(most, units)
    return {
        "siphon": siphon, "name": bed.siphon.name, "ticks": ticks, "wide": _WIDE,
        "now": _band(window, inflow, scale), "inflow": show(inflow, "flow", units),
        "start": show(window.start.value, "flow", units),
        "stop": show(window.stop.value, "flow", units),
        "refused": fill_sentence(design.refusal, design.figures or {}, units),
        "rows": [
            {"index": i, "words": _words(c), "start": show(c.window.start.value, "flow", units),
             "stop": show(c.window.stop.value, "flow", units), "peak": show(c.peak, "flow", units),
             "fits": c.fits, "fits_all": c.fits_all, "band": _band(c.window, inflow, scale)}
            for i, c in enumerate(choices)
        ],
    }  # fmt: skip


def take_siphon(plan: Plan, posted: QueryDict, units: System, own: object) -> Offered:
    """Build one of them in the siphon's place."""
    siphon, index = posted.get("siphon", ""), posted.get("index", "")
    ask = _ask(assessment_of_plan(plan), siphon)
    if ask is not None and index.isdigit() and len(index) < 4:
        bed, wanted, tail = ask
        choices = design_siphon(wanted).choices
        if int(index) < len(choices):
            choice = choices[int(index)]
            return choice_edits(bed.siphon, choice, tail), f"{bed.siphon.name}: {_words(choice)}"
    raise EditRefused("That offer no longer stands; here is the plan as it is.")
