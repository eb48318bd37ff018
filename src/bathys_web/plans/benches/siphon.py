"""The siphon bench: the siphon cut open, the window its inflow must lie in, its cycle, and what
else could be built."""

from dataclasses import replace
from typing import Any

from bathys.drawing.siphon_section import draw_siphon
from bathys.evaluation import BedResult
from bathys.figures.beds import bed_details
from bathys.kinds import kind_named
from bathys.pipeline import Assessment, DynamicAssessment
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.simulation import PumpedBedLoop
from bathys.sizing import (
    SiphonAsk,
    SiphonChoice,
    ask_of_bed,
    choice_edits,
    design_siphon,
)
from bathys.units import System, fill_sentence, show
from bathys_web.plans.benches.bench import Bench, BenchRequest
from bathys_web.plans.benches.plots import Curve, Mark, Plot
from bathys_web.plans.benches.siphon_variants import variant_form
from bathys_web.plans.benches.windows import WIDE, band_of, flow_axis
from bathys_web.plans.dynamic import resilience_of
from bathys_web.plans.sealed import seal_for

__all__ = ["BENCH"]

_MOST_CHOICES = 6


def _ask(found: Assessment, siphon: str) -> tuple[BedResult, SiphonAsk, str] | None:
    plan = found.evaluation.plan
    part = plan.part(siphon)
    tail = plan.run_of(part) if plan.group_of(siphon) == "siphons" else None
    if tail is None:
        return None
    bed = found.evaluation.bed(part.stands_in)
    if bed is None or bed.cycle.start_inflow <= 0.0:
        return None
    cycle = bed.cycle
    return bed, ask_of_bed(bed.loop.built, tail, cycle.start_inflow, cycle.break_inflow), tail.id


def _words(choice: SiphonChoice) -> str:
    extras = " with an air tube" * choice.has_tube + ", tail’s end turned up" * choice.is_turned_up
    return str(kind_named(choice.kind, "edits").in_words(choice.nominal, choice.bell)) + extras


def _tail_words(found: Assessment, bed: BedResult, tail: Run, units: System) -> str:
    """How its tail goes on below the picture, and where it ends."""
    plan, owner = found.evaluation.plan, tail.target
    height = plan.elevation(tail.end) or 0.0
    end = plan.part(owner)
    under = isinstance(end, Vessel) and found.evaluation.levels[owner].high > height
    into = "ends under water in" if under else "ends over"
    where = into if isinstance(end, Vessel) else "joins"
    pieces = [f.words for f in tail.fittings]
    along = [f"{show(tail.level_length, 'length', units)} along"] if tail.level_length else []
    fall = show(bed.bed.floor_height - height, "length", units)
    return ", ".join(
        [f"Its tail falls {fall} below the floor", *along, *pieces, f"and {where} {end.name}."]
    )


def _cycle_plot(bed: BedResult) -> Plot | None:
    """Depths through two cycles, so that the rhythm shows; none where it does not cycle."""
    trace, period = bed.cycle.trace, bed.cycle.period
    if trace is None or period is None:
        return None
    times = [t + k * period for k in (0, 1) for t in trace.times]
    curves = [Curve("depth in the bed", times, [*trace.bed_levels, *trace.bed_levels], "mark")]
    # Only where one tank gives and takes it all does its level follow the bed's alone.
    if isinstance(bed.loop, PumpedBedLoop):
        floor = bed.loop.tank.floor_height
        depths = [z - floor for z in trace.tank_levels]
        curves.append(Curve("depth in the tank", times, [*depths, *depths], "deep"))
    rises = [i for i in range(len(times)) if i == 0 or times[i] > times[i - 1]]
    return Plot(
        f"Depth through two cycles of {bed.bed.name}",
        ("time", "clock"),
        ("depth", "length"),
        tuple(
            replace(c, xs=[times[i] for i in rises], ys=[c.ys[i] for i in rises]) for c in curves
        ),
        (Mark(bed.loop.built.rim, bed.siphon.CREST), Mark(bed.loop.built.intake, "air gets in")),
    )


def _range(bed: BedResult, units: System) -> list[dict[str, str]]:
    """What it moves at its lowest and highest setting, where its crest may be set."""
    told = {f.key: f for f in bed_details(bed)}
    rows = []
    for words, crest in zip(("lowest", "highest"), bed.siphon.crest_range, strict=True):
        figure = told.get(f"{bed.siphon.id}.moved_{words}")
        if figure is not None:
            moved = show(figure.value, figure.quantity, units)
            rows.append({"key": figure.key, "crest": show(crest, "length", units), "moved": moved})
    return rows


def _cycles(dynamic: DynamicAssessment, units: System) -> list[dict[str, Any]]:
    """Every siphon's cycle once the plan repeats itself."""
    plan = dynamic.assessment.evaluation.plan
    return [
        {
            "id": c.siphon,
            "name": plan.part(c.siphon).name,
            "period": show(c.period, "time", units),
            "least": show(c.shortest, "time", units),
            "most": show(c.longest, "time", units),
            "fills": show(c.fill_time, "time", units),
            "drains": show(c.drain_time, "time", units),
            "wet": show(c.wet_share, "percent", units),
            "moves": show(c.exchanged, "volume", units),
            "starts": c.starts,
        }
        for c in dynamic.resilience.periodic.cycles
    ]


def _page(ask: BenchRequest) -> dict[str, Any]:
    """One siphon: cut open, its window with its inflow on it, its cycle, and others that would
    do."""
    plan, units = ask.plan, ask.units
    chosen = ask.asked.get("siphon", "")
    if plan.group_of(chosen) != "siphons":
        chosen = plan.siphons[0].id if plan.siphons else ""
    page: dict[str, Any] = {"siphons": plan.siphons, "siphon": chosen}
    wanted = _ask(ask.found, chosen)
    if wanted is None:
        words = (
            "This siphon needs a tail pipe and some inflow first. Then its window is calculated."
        )
        none = (
            "This plan has no siphon. Add one to a grow bed: select the bed, then Add or connect."
        )
        return {**page, "refusal": words if chosen else none}
    bed, design_ask, tail = wanted
    design = design_siphon(design_ask)
    window, inflow = bed.cycle.window, bed.cycle.start_inflow
    choices = design.choices[:_MOST_CHOICES]
    most = 1.12 * max(
        [inflow, window.stop.high, window.start.high, *(c.window.stop.value for c in choices[:3])]
    )
    scale, ticks = flow_axis(most, units)
    plot, answer, seal = _cycle_plot(bed), resilience_of(ask.context, plan), seal_for(plan)
    return {
        **page,
        "name": bed.siphon.name,
        "bed": bed.bed,
        "ticks": ticks,
        "wide": WIDE,
        "cut": draw_siphon(bed.bed, bed.siphon, bed.loop.built, units),
        **variant_form(ask.found, bed, units),
        "tail_words": _tail_words(ask.found, bed, plan.part(tail), units),
        "plot": plot.as_json(units) if plot else "",
        "answer": answer,
        "cycles": _cycles(answer.result, units) if answer.is_done else [],
        "now": band_of(window, inflow, scale),
        "inflow": show(inflow, "flow", units),
        "start": show(window.start.value, "flow", units),
        "stop": show(window.stop.value, "flow", units),
        "peak": show(window.full_at_intake, "flow", units),
        "fills": show(bed.cycle.fill_time, "time", units),
        "drains": show(bed.cycle.drain_time, "time", units),
        "period": show(bed.cycle.period, "time", units),
        "range": _range(bed, units),
        "refused": fill_sentence(design.refusal, design.figures or {}, units, plan.names),
        "rows": [
            {
                "offer": seal(choice_edits(bed.siphon, c, tail), f"{bed.siphon.name}: {_words(c)}"),
                "words": _words(c),
                "start": show(c.window.start.value, "flow", units),
                "stop": show(c.window.stop.value, "flow", units),
                "peak": show(c.peak, "flow", units),
                "fits": c.fits,
                "fits_all": c.fits_all,
                "band": band_of(c.window, inflow, scale),
            }
            for c in choices
        ],
    }


BENCH = Bench(
    "siphon",
    "Siphons",
    "Siphon start and stop",
    _page,
    lambda plan: bool(plan.siphons),
    "plans/benches/_siphon_choice.html",
)
