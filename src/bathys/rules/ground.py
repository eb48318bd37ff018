"""What is in the way on the ground, once a place is told."""

from collections.abc import Iterator

from bathys.build import crowded_holes, cut_edges
from bathys.evaluation import Evaluation
from bathys.ground import (
    AISLE,
    REACH_ONE,
    REACH_TWO,
    Conflict,
    conflicts,
    laid_routes,
    too_large_for_site,
)
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.rules.registry import Finding, Rule, rule

__all__: list[str] = []

_MARKS = {"obstacle": "an obstacle", "door": "the door", "path": "the path"}


def _of(plan: Plan, what: str) -> list[Conflict]:
    return [c for c in conflicts(plan) if c.what == what]


@rule(
    Rule(
        "G1",
        "Vessels in each other",
        "Two vessels cannot stand in the same place.",
        "derived",
        of_ground=True,
    )
)
def _overlaps(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for found in _of(plan, "overlap"):
        one, two = plan.vessel(found.part), plan.vessel(found.other)
        yield Finding(
            data,
            "vessels_overlap",
            "warning",
            one.id,
            f"On the ground, {named(one)} and {named(two)} stand {{deep:length}} in each other.",
            "Move one of them on the ground plan.",
            {"deep": found.size},
        )


@rule(
    Rule(
        "G2",
        "Beyond the site",
        "What stands on a neighbour's ground or in a wall cannot be built.",
        "derived",
        of_ground=True,
    )
)
def _beyond(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for found in _of(plan, "beyond"):
        vessel = plan.vessel(found.part)
        yield Finding(
            data,
            "beyond_site",
            "warning",
            vessel.id,
            f"{named(vessel)} stands {{far:length}} beyond the edge of the site.",
            "Move it on the ground plan, or measure the site again.",
            {"far": found.size},
        )


@rule(
    Rule(
        "G3",
        "On a door, a path or an obstacle",
        "Ways stay free, and obstacles do not move.",
        "derived",
        of_ground=True,
    )
)
def _on_marks(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    marks = {m.id: m for m in plan.ground.marks} if plan.ground is not None else {}
    for found in _of(plan, "mark"):
        vessel = plan.vessel(found.part)
        yield Finding(
            data,
            "on_a_mark",
            "warning",
            vessel.id,
            f"{named(vessel)} stands {{deep:length}} in {_MARKS[marks[found.other].kind]}.",
            "Move it on the ground plan.",
            {"deep": found.size},
        )


@rule(
    Rule(
        "G4",
        "Aisles",
        "A person walks and works in 0.6 m.",
        "common practice",
        limits={"aisle": AISLE},
        of_ground=True,
    )
)
def _aisles(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for found in _of(plan, "aisle"):
        one, two = plan.vessel(found.part), plan.vessel(found.other)
        yield Finding(
            data,
            "narrow_aisle",
            "note",
            one.id,
            f"Between {named(one)} and {named(two)} there are {{gap:length}}; a person needs "
            "{aisle:length} to pass.",
            "Move one of them, or close the gap.",
            {"gap": found.size, **data.limits},
        )


@rule(
    Rule(
        "G5",
        "Reach",
        "A bed is tended 0.9 m from one side, or 1.2 m from two.",
        "common practice",
        limits={"one": REACH_ONE, "two": REACH_TWO},
        of_ground=True,
    )
)
def _reach(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for found in _of(plan, "reach"):
        vessel = plan.vessel(found.part)
        reached = (
            f"{named(vessel)} is {{wide:length}} across, and is reached from no side."
            if found.wanted <= 0.0
            else f"{named(vessel)} is {{wide:length}} across; from where one can stand, "
            "{wanted:length} can be reached."
        )
        yield Finding(
            data,
            "out_of_reach",
            "note",
            vessel.id,
            reached,
            "Leave an aisle along both of its long sides, or take a narrower bed.",
            {"wide": found.size, "wanted": found.wanted, **data.limits},
        )


@rule(
    Rule(
        "G6",
        "Pipes through vessels and legs",
        "A pipe goes round what it has no business with, and between the legs of stands.",
        "derived",
        of_ground=True,
    )
)
def _pipes(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for what, where in (("leg", "one under each corner"), ("brace", "one under both its ends")):
        met = _of(plan, what)
        if not met:
            continue
        run, vessel = plan.part(met[0].part), plan.vessel(met[0].other)
        others = len({found.part for found in met} - {met[0].part})
        more = "" if not others else f" {others} more meet one as well."
        yield Finding(
            data,
            f"pipe_meets_{what}",
            "note",
            run.id,
            f"On the ground, {named(run)} meets a {what} of {named(vessel)}, if its stand has "
            f"{where}.{more}",
            "Lead it a hand’s width aside, or in by a long side, on the ground plan.",
            {},
        )
    through = _of(plan, "pipe")
    if not through:
        return
    worst = max(through, key=lambda found: found.size)
    run, vessel = plan.part(worst.part), plan.vessel(worst.other)
    others = len({found.part for found in through} - {worst.part})
    more = "" if not others else f" {others} more go through one as well."
    yield Finding(
        data,
        "pipe_through_vessel",
        "note",
        run.id,
        f"On the ground, {named(run)} goes {{through:length}} through {named(vessel)}.{more}",
        "Lead it round by a corner on the ground plan, or under or over it.",
        {"through": worst.size},
    )


@rule(
    Rule(
        "G7",
        "Lengths on the ground",
        "A run shorter than the ground asks for does not reach.",
        "derived",
        limits={"share": 0.1, "least": 0.2},
        of_ground=True,
    )
)
def _short(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    if all(v.spot is None for v in plan.vessels):
        return
    short = [
        (route.length - route.run.level_length, route)
        for route in laid_routes(plan)
        if route.length - route.run.level_length
        > max(data.limits["share"] * route.length, data.limits["least"])
    ]
    if not short:
        return
    _, worst = max(short, key=lambda row: row[0])
    more = "" if len(short) == 1 else f" {len(short) - 1} more are too short as well."
    yield Finding(
        data,
        "too_short_for_ground",
        "warning",
        worst.run.id,
        f"On the ground, {named(worst.run)} is {{ground:length}} long along the level; "
        f"{{planned:length}} are planned.{more}",
        "Let its length follow the ground plan, or move what it leads to.",
        {"ground": worst.length, "planned": worst.run.level_length},
    )


@rule(
    Rule(
        "G8",
        "Holes too close",
        "A wall between two holes, or between a hole and a corner, wants at least a hole’s width.",
        "common practice",
        of_ground=True,
    )
)
def _crowded(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    crowded = crowded_holes(plan)
    if not crowded:
        return
    worst = min(crowded, key=lambda c: c.clear - c.wanted)
    hole, other = worst.hole, worst.other
    beside = "a corner" if other is None else f"that of {named(other.run)}"
    more = "" if len(crowded) == 1 else f" {len(crowded) - 1} more are too close as well."
    if worst.clear < 0.0:
        how = f"overlaps {beside}" if other is not None else "cuts into a corner"
    else:
        how = f"is {{clear:length}} from {beside}; {{wanted:length}} is wanted"
    yield Finding(
        data,
        "holes_too_close",
        "warning",
        hole.vessel.id,
        f"In {named(hole.vessel)}, the hole for {named(hole.run)} {how}.{more}",
        "Drill one of them in another side, farther along, or higher; Build lists them all.",
        {"clear": max(worst.clear, 0.0), "wanted": worst.wanted},
    )


def _told_heights(run: Run) -> list[float]:
    """Heights that corners of a run's way are told to lie at [m]."""
    corners = run.route.corners if run.route is not None else None
    return [c.height for c in corners or () if c.height is not None]


@rule(
    Rule(
        "G9",
        "A drain that rises on its way",
        "Water runs down by its weight. What rises on its way holds air and stops.",
        "derived",
        limits={"slack": 0.01},
        of_ground=True,
    )
)
def _rising_drain(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    told = {run.id for run in plan.runs if _told_heights(run)}
    drains = [r for r in laid_routes(plan) if r.run.id in told] if told else []
    for route in drains:
        run = route.run
        if evaluation.runs[run.id].gravity is None:
            continue
        lowest, rises = route.heights[0], 0.0
        for height in route.heights[1:]:
            rises = max(rises, height - lowest)
            lowest = min(lowest, height)
        if rises > data.limits["slack"]:
            yield Finding(
                data,
                "drain_rises",
                "warning",
                run.id,
                f"{named(run)} rises by {{rises:length}} on its way over the ground.",
                "Lead each corner of it lower than the one before, or round what is in the way.",
                {"rises": rises},
            )


@rule(
    Rule(
        "G10",
        "Under the ground",
        "A buried pipe wants a trench, and cannot be seen to leak.",
        "common practice",
        limits={"slack": 0.005},
        of_ground=True,
    )
)
def _buried(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for run in evaluation.plan.runs:
        deepest = min(_told_heights(run), default=0.0)
        if deepest < -data.limits["slack"]:
            yield Finding(
                data,
                "pipe_buried",
                "note",
                run.id,
                f"{named(run)} goes {{deep:length}} under the ground on its way.",
                "Dig a trench for it, test it for leaks before you fill it in, and mark it.",
                {"deep": -deepest},
            )


@rule(
    Rule(
        "G11",
        "Larger than the site",
        "A vessel that does not fit on the site cannot be built.",
        "derived",
        of_ground=True,
    )
)
def _too_large(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for vessel in too_large_for_site(evaluation.plan):
        yield Finding(
            data,
            "larger_than_site",
            "warning",
            vessel.id,
            f"{named(vessel)} does not fit on the site, whichever way it is turned.",
            "Measure the site again, or take a smaller vessel.",
            {},
        )


@rule(
    Rule(
        "G12",
        "Hole through an edge",
        "A hole that cuts the rim or the floor cannot be sealed.",
        "derived",
        of_ground=True,
    )
)
def _through_an_edge(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    cut = cut_edges(evaluation.plan)
    if not cut:
        return
    worst = max(cut, key=lambda c: c.by)
    edge = "rim" if worst.is_rim else "floor"
    more = "" if len(cut) == 1 else f" {len(cut) - 1} more do so as well."
    yield Finding(
        data,
        "hole_through_edge",
        "note",
        worst.run.id,
        f"The hole for {named(worst.run)} in {named(worst.vessel)} cuts the {edge} by "
        f"{{by:length}}.{more}",
        "Lead the pipe over the rim and drill nothing there, or move the hole."
        if worst.is_rim
        else "Move the hole up, or lead the pipe through the floor.",
        {"by": worst.by},
    )
