"""Water that stays with the fish: rules U12, U13 and U16."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.network.rest import crest_of
from bathys.parts.practice import TANK_KEEPS
from bathys.parts.rounding import mark_below
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Outlet
from bathys.rules.registry import RULES, Finding, Offer, Rule, rule
from bathys.vessels import storage_of

__all__ = ["tank_drains_by_itself"]


@rule(
    Rule(
        "U12",
        "What is filled stays where it is",
        "Water poured in above an outlet runs on by itself, with no pump.",
        "derived",
        limits={"least": 1e-3},
    )
)
def _runs_on(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, rest = evaluation.plan, evaluation.balance.at_rest
    for id_, lost in rest.spilled.items():
        if lost > 0.1 * data.limits["least"]:
            yield Finding(
                data,
                "fill_spills",
                "fault",
                id_,
                f"Filled as the plan says, {named(plan.vessel(id_))} overflows before any pump "
                "runs: {lost:volume} is lost over its rim.",
                "Fill the vessels above it no higher than their outlets.",
                {"lost": lost},
            )
    for id_, ran in rest.ran_on.items():
        vessel = plan.vessel(id_)
        stands = rest.levels[id_] - vessel.floor_height
        if (
            ran > data.limits["least"]
            and vessel.water_depth is not None
            and (stands < vessel.water_depth - 1e-3)
        ):
            at = mark_below(stands)
            yield Finding(
                data,
                "fill_runs_on",
                "note",
                id_,
                f"{named(vessel)} cannot stand filled to "
                "{filled:length}: {ran:volume} of it "
                "flows on by itself, and the water settles at {stands:length}.",
                "Enter the depth at which it settles, or raise its outlet.",
                {"filled": vessel.water_depth, "ran": ran, "stands": stands},
                (
                    Offer(
                        "fill it to {at:length}",
                        (Edit(f"vessels.{id_}.water_depth", at),),
                        "",
                        {"at": at},
                    ),
                )
                if at > 0.0
                else (),
            )


@rule(
    Rule(
        "U13",
        "What a fish tank keeps",
        "With the pump off a tank drains to its lowest way out.",
        "derived",
        limits={"keep": TANK_KEEPS},
    )
)
def _tank_keeps(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for result in evaluation.vessels.values():
        vessel = result.vessel
        if not vessel.use.keeps_fish or not tank_drains_by_itself(evaluation, vessel.id):
            continue
        way, stands = _lowest_way(evaluation, vessel)
        part = plan.part(way)
        slotted = isinstance(part, Outlet) and part.has_small_holes
        by = f"the small holes of {named(part)} drain" if slotted else f"{named(part)} drains"
        left = storage_of(plan, vessel).volume_at(stands)
        yield Finding(
            data,
            "tank_drained",
            "fault",
            vessel.id,
            f"With the pump off, {by} {named(vessel)} to "
            "{stands:length} over its floor: "
            "{left:percent} of its water stays.",
            "Small holes are for beds that flood and drain; leave them out of a fish tank."
            if slotted
            else "Let it begin higher, above the level the fish need.",
            {"stands": stands, "left": left / result.volume},
            (Offer("leave out the small holes", (Edit(f"outlets.{way}.holes", 0),)),)
            if slotted
            else (),
        )


@rule(
    Rule(
        "U16",
        "Water that fish keep",
        "A tank that gives most of its water to beds and pipes leaves its fish little.",
        "common practice",
        limits={"keep": 0.4},
    )
)
def _drawn_down(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.vessels.values():
        vessel = result.vessel
        if not vessel.use.keeps_fish or result.rest_volume <= 0.0:
            continue
        low = result.levels.low - vessel.floor_height
        left = storage_of(evaluation.plan, vessel).volume_at(low) / result.rest_volume
        if left < data.limits["keep"]:
            yield Finding(
                data,
                "tank_drawn_down",
                "warning",
                vessel.id,
                f"While the pumps run {named(vessel)} falls to "
                "{low:length}, {left:percent} of "
                "the water it has at rest; {keep:percent} or more should stay with the fish.",
                "Fill it higher, make what it feeds smaller, or give the plan a sump.",
                {"low": low, "left": left, **data.limits},
            )
        for moved in evaluation.plan.moves:
            comes = result.inflow * moved.volume / moved.flow  # while it is taken out
            stays = max(1.0 - max(moved.volume - comes, 0.0) / result.rest_volume, 0.0)
            if moved.source == vessel.id and stays < data.limits["keep"]:
                yield Finding(
                    data,
                    "transfer_drains_tank",
                    "warning",
                    vessel.id,
                    f"{named(moved)} takes "
                    "{moved:volume} at once, and "
                    f"{named(vessel)} "
                    "holds {holds:volume} at rest: {left:percent} stays; {keep:percent} or more "
                    "should stay with the fish.",
                    "Take less at a time, and more often.",
                    {
                        "moved": moved.volume,
                        "holds": result.rest_volume,
                        "left": stays,
                        **data.limits,
                    },
                )


def tank_drains_by_itself(evaluation: Evaluation, vessel: str) -> bool:
    """Whether a tank's own outlets leave it less than half its water with every pump off.

    Parameters
    ----------
    evaluation : Evaluation
        The numbers of a plan
    vessel : str
        Id of the vessel

    Returns
    -------
    bool
        Whether they do
    """
    result = evaluation.vessels[vessel]
    way, stands = _lowest_way(evaluation, result.vessel)
    keeps = storage_of(evaluation.plan, result.vessel).volume_at(stands)
    return bool(way) and keeps < RULES["U13"].limits["keep"] * result.volume


def _lowest_way(evaluation: Evaluation, vessel: Vessel) -> tuple[str, float]:
    """Id of the outlet, or of the run from a port, that drains a vessel lowest, and to what height
    over its floor [m]."""
    layout = evaluation.balance.layout
    ways = [r for r in layout.drained_by(vessel.id) if not layout.lines[r.id].shut]
    if not ways:
        return "", 0.0
    # Where its water runs to may hold it up: vessels that a pipe joins stand level.
    now = evaluation.balance

    def down(run: Run) -> float:
        tail = now.rest_levels.get(run.target, -math.inf)
        hump = (evaluation.plan.elevation(run.end) or 0.0) - 0.5 * run.bore.inside
        return max(crest_of(layout, run), tail, hump)

    run = min(ways, key=down)
    part = run.source
    id_ = part if evaluation.plan.group_of(part) in ("outlets", "siphons") else run.id
    return id_, max(down(run) - vessel.floor_height, 0.0)
