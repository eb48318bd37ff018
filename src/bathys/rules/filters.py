"""Filters, meshes, purges, and solids that beds and rafts come to hold: rules D11 to D18."""

import math
from collections.abc import Iterator
from typing import Any

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.kinds import model_named
from bathys.parts.rounding import mark_above, mark_below
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.quality import solids_of
from bathys.quality.beds import bed_solids, raft_solids
from bathys.quality.filters import FilterResult, due_of
from bathys.quality.sludge import sludge_of
from bathys.quality.solids_lines import reached_from
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_DAY = 86400.0
_WHY = {
    "past": "then water goes past it",
    "high": "then the water before it stands at its freeboard",
    "full": "then it can hold little more",
}


def _filter_named(run: Run) -> str:
    """A filter by what it is and where, in the middle of a sentence."""
    assert run.filter is not None  # noqa: S101 - only asked of runs with one
    return f"the filter of {named(run)} ({run.filter.CHOICE})"


def _filters(evaluation: Evaluation) -> Iterator[tuple[FilterResult, Any]]:
    """Every filter, with when it is due."""
    solids = solids_of(evaluation)
    viscosity = evaluation.water.kinematic_viscosity
    for result in solids.filters:
        yield result, due_of(result, solids.held(result.run.id), viscosity)


def _whole_days(days: float) -> float:
    """So many whole days, half a day at least."""
    return max(math.floor(days), 0.5)


@rule(
    Rule(
        "D11",
        "A filter is cleaned in time",
        "What it holds shuts it; before that it is taken out and cleaned.",
        "derived",
        "what fills it is assumed; fibre under load takes 5 to 7 days (common practice)",
        limits={"least": 3.0 * _DAY},
    )
)
def _cleaned(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, due in _filters(evaluation):
        if due.days is None:
            continue
        time = due.days * _DAY
        every = result.filter.clean_every
        wanted = _whole_days(0.75 * due.days) * _DAY
        figures = {"time": time, "wanted": wanted, **data.limits}
        path = f"runs.{result.run.id}.filter.clean_every"
        remedy = (
            "Clean it every {wanted:time}, or let less reach it: a settler before it, or a larger "
            "filter."
        )
        if every is not None and every > time:
            yield Finding(
                data,
                "cleaned_too_late",
                "warning",
                result.run.id,
                f"It is cleaned every {{every:time}}, and {_filter_named(result.run)} is full "
                f"after {{time:time}}: {_WHY[due.why]}.",
                remedy,
                {"every": every, **figures},
                (
                    Offer(
                        "clean it every {wanted:time}",
                        (Edit(path, wanted),),
                        "",
                        {"wanted": wanted},
                    ),
                )
                if wanted < time
                else (),
            )
        elif time < data.limits["least"]:
            yield Finding(
                data,
                "clogs_soon",
                "note",
                result.run.id,
                f"At its load, {_filter_named(result.run)} is full after {{time:time}}: "
                f"{_WHY[due.why]}.",
                remedy,
                figures,
            )


@rule(
    Rule(
        "D12",
        "Water has a way past a filter",
        "A filter that shuts must not shut the way of the water.",
        "common practice",
    )
)
def _way_past(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for result, _ in _filters(evaluation):
        highest = result.head + result.room
        if not result.rises_in or 0.0 < result.filter.past_head <= highest:
            continue
        others = [
            r
            for r in plan.runs
            if plan.owner_of(r.start) == result.rises_in
            and r.id != result.run.id
            and r.id not in evaluation.balance.layout.pressure
            and r.filter is None
        ]
        if others:
            continue
        vessel = plan.vessel(result.rises_in)
        head = mark_below(0.6 * highest)
        path = f"runs.{result.run.id}.filter.past_head"
        yield Finding(
            data,
            "no_way_past",
            "warning",
            result.run.id,
            f"Once {_filter_named(result.run)} is full, {named(vessel)} runs over: "
            + (
                "water gets past it only {past:length} higher."
                if result.filter.past_head > 0.0
                else "no water gets past it."
            ),
            "Give it a hole or an open top {head:length} over the water behind it, where it shows.",
            {"head": head, "past": result.filter.past_head},
            (Offer("let water past it at {head:length}", (Edit(path, head),), "", {"head": head}),)
            if head > 0.0
            else (),
        )


@rule(
    Rule(
        "D13",
        "Fish stay where they are",
        "A fish passes an opening as wide as its body.",
        "common practice",
        limits={"width": 0.125},
    )
)
def _fish(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    length = plan.brief.smallest_fish
    width = data.limits["width"] * length
    if width <= 0.0:
        return
    for run in plan.runs:
        owner = plan.owner_of(run.start)
        if owner is None or not plan.vessel(owner).use.keeps_fish:
            continue
        if plan.group_of(run.source) == "pumps" and run.filter is None:
            continue  # a pump's own strainer is not told
        screen = getattr(plan.part(run.source), "screen", None)
        open_to = min(
            run.bore.inside,
            run.filter.cut if run.filter is not None else math.inf,
            screen.mesh if screen is not None else math.inf,
        )
        if open_to <= width:
            continue
        mesh = mark_below(width)
        usual = model_named("filters", "screen").usual(run.bore.inside)
        made = {"kind": "screen", **usual, "cut": mesh}
        can_stand = plan.group_of(run.source) != "siphons" and mesh >= 1e-3
        yield Finding(
            data,
            "fish_pass",
            "warning" if run.filter is not None or screen is not None else "note",
            run.id,
            f"Fish of {{length:length}} can get into {named(run)}: it is open {{open:length}} "
            "wide, and they are about {width:length} thick.",
            "A screen of {mesh:length} keeps them back; it must be brushed off now and then.",
            {"length": length, "open": open_to, "width": width, "mesh": mesh},
            (
                Offer(
                    "put a screen of {mesh:length} before it",
                    (Edit(f"runs.{run.id}.filter", made),),
                    "",
                    {"mesh": mesh},
                ),
            )
            if can_stand and run.filter is None
            else (),
        )


@rule(
    Rule(
        "D14",
        "Small holes after a pump",
        "What passes the intake must pass the smallest hole behind it.",
        "common practice",
        limits={"usual": 0.005, "times": 2.0},
    )
)
def _small_holes(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    pressed = evaluation.balance.layout.pressure
    passes: dict[str, float] = {}
    for pump in plan.pumps:
        run = plan.run_of(pump)
        if run is None:
            continue
        cut = run.filter.cut if run.filter is not None else data.limits["usual"]
        passes[pump.id] = cut
    if not passes:
        return
    widest = max(passes.values())
    for run in plan.runs:
        hole = run.ends_in.smallest_hole if run.ends_in is not None else None
        if run.id not in pressed or hole is None:
            continue
        if hole >= data.limits["times"] * widest:
            continue
        told = any(r.filter is not None for p in plan.pumps if (r := plan.run_of(p)) is not None)
        yield Finding(
            data,
            "holes_block",
            "note",
            run.id,
            f"Holes of {{hole:length}} stand at the end of {named(run)}, and the pump’s intake "
            + (
                "lets pass {passes:length}."
                if told
                else "is not told: usual strainers let pass {passes:length}."
            ),
            "Look at them every week, or put foam or a finer screen about the intake.",
            {"hole": hole, "passes": widest},
        )


@rule(
    Rule(
        "D15",
        "Solids in a bed",
        "What a bed holds rots slowly; where it fills the media, no air gets in.",
        "derived",
        "2 % a day rot, 5 % with worms, laid down at 3 % dry (assumed)",
        limits={"some": 0.25, "most": 0.5},
    )
)
def _beds(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for bed in bed_solids(evaluation, solids_of(evaluation)):
        if bed.filled <= data.limits["some"]:
            continue
        is_much = bed.filled > data.limits["most"]
        yield Finding(
            data,
            "bed_fills",
            "warning" if is_much else "note",
            bed.vessel.id,
            f"{named(bed.vessel)} comes to hold {{level:mass}} of dry solids, after about "
            "{time:time}: they fill {filled:percent} of the room between its media"
            + (", and airless pockets form." if is_much else "."),
            "Take more out before it: a settler, a filter, or less flow through the settler. "
            + (
                "Dig it over once a year."
                if bed.has_worms
                else "Worms break down more than twice as much."
            ),
            {"level": 0.001 * bed.level, "time": bed.days * _DAY, "filled": bed.filled},
        )


@rule(
    Rule(
        "D16",
        "Solids on the roots of rafts",
        "Waste that reaches rafts lies down on the roots and hinders them.",
        "common practice",
        limits={"some": 50.0, "most": 100.0},
    )
)
def _rafts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for vessel, week in raft_solids(evaluation, solids_of(evaluation)):
        if week <= data.limits["some"]:
            continue
        inflows = [
            r for r in plan.runs if r.target == vessel.id and evaluation.runs[r.id].mean_flow > 0.0
        ]
        run = inflows[0] if len(inflows) == 1 and inflows[0].filter is None else None
        offers: tuple[Offer, ...] = ()
        if run is not None:
            usual = model_named("filters", "sock").usual(run.bore.inside)
            made = {"kind": "sock", **usual}
            offers = (
                Offer(
                    f"put a sock at the end of {named(run)}", (Edit(f"runs.{run.id}.filter", made),)
                ),
            )
        yield Finding(
            data,
            "raft_solids",
            "warning" if week > data.limits["most"] else "note",
            vessel.id,
            f"{{week:mass}} of dry solids a week settle in {named(vessel)} on each square metre, "
            "on roots and floor.",
            "A sock or another fines filter before it stops most of them.",
            {"week": 0.001 * week},
            offers,
        )


@rule(
    Rule(
        "D21",
        "Solids go where you want them",
        "Some builders take out all they can, others let some in for worms.",
        "common practice",
        limits={"most": 0.25, "least": 0.05},
    )
)
def _chosen(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, solids = evaluation.plan, solids_of(evaluation)
    plants = [v for v in plan.vessels if v.media is not None or v.use.has_rafts]
    if solids.made <= 0.0 or not plants:
        return
    share = sum(solids.held(v.id) for v in plants) / solids.made
    fullest = max(plants, key=lambda v: solids.held(v.id))
    if plan.brief.solids == "out" and share > data.limits["most"]:
        yield Finding(
            data,
            "let_in",
            "note",
            fullest.id,
            "Solids are to be taken out, and {share:percent} of them end in beds and rafts.",
            "A larger settler or a filter before them takes more.",
            {"share": share},
        )
    if plan.brief.solids == "some_in" and share < data.limits["least"]:
        yield Finding(
            data,
            "kept_out",
            "note",
            fullest.id,
            "Some solids are to be let in, and {share:percent} of them reach beds and rafts.",
            "Lead a part of the water past the settler.",
            {"share": share},
        )


@rule(
    Rule(
        "D17",
        "No two settlers in a ring",
        "What only goes from one settler to the other never comes to the plants.",
        "derived",
    )
)
def _rings(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    ids = [s.vessel.id for s in solids_of(evaluation).settlers]
    reached = {id_: reached_from(evaluation, id_) for id_ in ids}
    for number, one in enumerate(ids):
        for two in ids[number + 1 :]:
            if two in reached[one] and one in reached[two]:
                plan = evaluation.plan
                yield Finding(
                    data,
                    "settler_ring",
                    "warning",
                    two,
                    f"{named(plan.vessel(one))} and {named(plan.vessel(two))} feed each other.",
                    "Lead the second one on to the beds or the sump.",
                    {},
                )


@rule(
    Rule(
        "D18",
        "Sludge is let out in time",
        "Over its mark sludge is stirred up and carried on.",
        "derived",
        "sludge of 1 to 3 % dry (common practice)",
    )
)
def _purged(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, solids = evaluation.plan, solids_of(evaluation)
    for transfer in plan.transfers:
        own = [m for m in plan.moves if m.id == transfer.id and m.source == transfer.takes_sludge]
        if transfer.takes_sludge is None or not own:
            continue
        vessel = plan.vessel(transfer.takes_sludge)
        sludge = sludge_of(solids, vessel)
        if sludge is None or sludge.days is None:
            continue
        time, every = sludge.days * _DAY, own[0].every
        made = sludge.volume * every / _DAY
        if every <= time and own[0].volume < made:
            more = mark_above(made)
            yield Finding(
                data,
                "purged_little",
                "warning",
                transfer.id,
                f"{named(vessel)} makes {{made:volume}} of sludge in {{every:time}}, and "
                "{volume:volume} are let out.",
                "Let out {more:volume} each time, or do it more often.",
                {"made": made, "every": every, "volume": own[0].volume, "more": more},
                (
                    Offer(
                        "let out {more:volume} each time",
                        (Edit(f"transfers.{transfer.id}.volume", more),),
                        "",
                        {"more": more},
                    ),
                )
                if "volume" in type(transfer).model_fields
                else (),
            )
        if every <= time:
            continue
        wanted = _whole_days(0.75 * sludge.days) * _DAY
        yield Finding(
            data,
            "purged_late",
            "warning",
            transfer.id,
            f"The sludge of {named(vessel)} stands at its mark after {{time:time}}, and is let out "
            "every {every:time}.",
            "Let it out every {wanted:time}.",
            {"time": time, "every": every, "wanted": wanted},
            (
                Offer(
                    "let it out every {wanted:time}",
                    (Edit(f"transfers.{transfer.id}.every", wanted),),
                    "",
                    {"wanted": wanted},
                ),
            )
            if wanted < time
            else (),
        )
