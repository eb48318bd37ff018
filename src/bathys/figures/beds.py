"""Figures of siphon beds."""

from collections.abc import Iterator, Sequence
from statistics import fmean

from bathys.evaluation.beds import CYCLE_DOUBT, BedResult
from bathys.figures import formulas as by
from bathys.figures import formulas_of_beds as of_beds
from bathys.figures.figure import Figure, Input
from bathys.plan.naming import within_sentence
from bathys.simulation import PumpedBedLoop

__all__ = ["bed_details", "cycle_figure", "cycles_figure", "siphon_figure"]

_NO_CYCLE = {
    "never_starts": "the siphon never starts",
    "holds": "the siphon never stops",
    "hangs": "the siphon hangs at its slots",
    "overflows": "the bed runs over",
    "starved": "the tank runs out first",
    "no_inflow": "no water arrives",
    "leaks": "water leaves by another way before the siphon starts",
    "uneven": "its water arrives at intervals; how often it fills shows over time",
}


def cycle_figure(bed: BedResult, headline: bool) -> Figure:
    """How often a siphon bed starts, and how long it fills and drains.

    Parameters
    ----------
    bed : BedResult
        The numbers of a bed
    headline : bool
        Whether it stands at the head of the page

    Returns
    -------
    Figure
        Time from start to start
    """
    cycle, key = bed.cycle, f"{bed.bed.id}.cycle"
    name = f"Cycle of {within_sentence(bed.bed.name)}"
    if cycle.period is None or cycle.fill_time is None or cycle.drain_time is None:
        told = f"no cycle: {_NO_CYCLE[cycle.verdict]}"
        return of_beds.CYCLE.of(key, bed.bed.id, (), told, headline=headline, label=name)
    return of_beds.CYCLE.of(
        key,
        bed.bed.id,
        (
            Input("inflow as it starts", cycle.start_inflow, "flow"),
            Input("peak flow of the siphon", cycle.peak_flow, "flow"),
            Input("filling", cycle.fill_time, "time"),
            Input("draining", cycle.drain_time, "time"),
        ),
        "fills in {fill:time}, drains in {drain:time}, moves {moved:volume} each time"
        + (
            ""
            if isinstance(bed.loop, PumpedBedLoop)
            else "; within {doubt:percent}, as if fed evenly"
        ),
        {
            "doubt": CYCLE_DOUBT,
            "fill": cycle.fill_time,
            "drain": cycle.drain_time,
            "moved": cycle.exchanged or 0.0,
        },
        value=cycle.period,
        headline=headline,
        label=name,
    )


def cycles_figure(beds: Sequence[BedResult]) -> Figure:
    """Of many beds, what the head of the page says in place of each one's cycle.

    Parameters
    ----------
    beds : sequence of BedResult
        The numbers of the beds

    Returns
    -------
    Figure
        How many of them start and stop as they should
    """
    periods = [b.cycle.period for b in beds if b.cycle.period is not None]
    key, place, label = "beds.cycle", beds[0].bed.id, f"Cycle of the {len(beds)} siphon beds"
    if not periods:
        return of_beds.CYCLES.of(
            key, place, (), "none of their siphons starts and stops", headline=True, label=label
        )
    low, high = min(periods), max(periods)
    told = "all their siphons start and stop"
    if len(periods) < len(beds):
        told = f"{len(periods)} of their siphons start and stop, {len(beds) - len(periods)} do not"
    return of_beds.CYCLES.of(
        key,
        place,
        (Input("shortest", low, "time"), Input("longest", high, "time")),
        f"{{low:time}} to {{high:time}}, within {{doubt:percent}}; {told}",
        {"low": low, "high": high, "doubt": CYCLE_DOUBT},
        value=fmean(periods),
        headline=True,
        label=label,
    )


def siphon_figure(bed: BedResult, headline: bool) -> Figure:
    """What comes to a siphon beside the flow that starts it.

    Parameters
    ----------
    bed : BedResult
        The numbers of a bed
    headline : bool
        Whether it stands at the head of the page

    Returns
    -------
    Figure
        The flow that starts it, beside the inflow
    """
    cycle, built = bed.cycle, bed.loop.built
    return of_beds.SIPHON_INFLOW.of(
        f"{bed.siphon.id}.window",
        bed.siphon.id,
        (
            Input("standpipe bore d", built.bore, "length"),
            Input("Fr at the start", bed.siphon.start_froude.value, "ratio"),
            Input("share at which it stops", bed.siphon.break_share.value, "ratio"),
            Input("intake over the bed’s floor", built.intake, "length"),
            Input("bed floor over the tail’s outlet", built.floor - built.outlet, "length"),
        ),
        "starts above {start:flow} (or {low:flow} to {high:flow}), stops up to {stop:flow} "
        "(or {stop_low:flow} to {stop_high:flow})",
        {
            "start": cycle.window.start.value,
            "low": cycle.window.start.low,
            "high": cycle.window.start.high,
            "stop": cycle.window.stop.value,
            "stop_low": cycle.window.stop.low,
            "stop_high": cycle.window.stop.high,
        },
        value=cycle.start_inflow,
        headline=headline,
        label=f"Inflow of {within_sentence(bed.siphon.name)}",
    )


def bed_details(bed: BedResult) -> Iterator[Figure]:
    """What the siphon bench tells besides.

    Parameters
    ----------
    bed : BedResult
        The numbers of a bed

    Yields
    ------
    Figure
        One figure after the other
    """
    cycle, built, id_ = bed.cycle, bed.loop.built, bed.siphon.id
    window = cycle.window
    yield of_beds.START.of(
        f"{id_}.start",
        id_,
        (
            Input("Fr at the start", bed.siphon.start_froude.value, "ratio"),
            Input("bore d", built.bore, "length"),
            Input("share that the last elbow leaves", bed.siphon.start_share.value, "ratio"),
        ),
        "or {low:flow} to {high:flow}",
        {"low": window.start.low, "high": window.start.high},
        label=f"{bed.siphon.name} starts above",
    )
    yield of_beds.STOP.of(
        f"{id_}.stop",
        id_,
        (
            Input("share at which it stops", bed.siphon.break_share.value, "ratio"),
            Input("full flow with the level at the intake", window.full_at_intake, "flow"),
        ),
        "or {low:flow} to {high:flow}",
        {"low": window.stop.low, "high": window.stop.high},
        label=f"{bed.siphon.name} stops up to",
    )
    low, high = bed.siphon.crest_range
    if high > low:
        storage = bed.loop.bed_storage
        for words, crest in (("lowest", low), ("highest", high)):
            yield by.MOVED_AT.of(
                f"{id_}.moved_{words}",
                id_,
                (
                    Input("crest", crest, "length"),
                    Input("intake", built.intake, "length"),
                ),
                value=storage.volume_at(crest) - storage.volume_at(built.intake),
                label=f"{bed.siphon.name} moves at its {words} setting",
            )
    if cycle.fill_time is None or cycle.drain_time is None:
        return
    moved = Input("water moved", cycle.exchanged or 0.0, "volume")
    yield of_beds.FILL.of(
        f"{id_}.fill",
        id_,
        (moved, Input("inflow as it starts", cycle.start_inflow, "flow")),
        value=cycle.fill_time,
        label=f"{bed.bed.name} fills in",
    )
    yield of_beds.DRAIN.of(
        f"{id_}.drain",
        id_,
        (
            moved,
            Input("peak flow of the siphon", cycle.peak_flow or 0.0, "flow"),
            Input("inflow as it stops", cycle.break_inflow, "flow"),
        ),
        value=cycle.drain_time,
        label=f"{bed.bed.name} drains in",
    )
