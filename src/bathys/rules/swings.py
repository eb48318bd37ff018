"""Levels that swing higher than the steady balance shows, by what a float sends in gulps."""

from collections.abc import Iterator

from bathys.edits.switches import can_set_start, start_at
from bathys.evaluation import ResilienceRun
from bathys.plan.naming import named
from bathys.plan.vessel import Vessel
from bathys.rules.filling import fill
from bathys.rules.registry import Finding, Offer, Rule, dynamic_rule

__all__: list[str] = []

_HAIR = 5e-3  # a level that passes its freeboard by less is not worth a word [m]


@dynamic_rule(
    Rule(
        "U11",
        "Room over the water as it swings",
        "A pump that runs at intervals raises the level above its mean for a while.",
        "derived",
    )
)
def _swings_high(resilience: ResilienceRun, data: Rule) -> Iterator[Finding]:
    evaluation, periodic = resilience.evaluation, resilience.periodic
    for result in evaluation.vessels.values():
        vessel = result.vessel
        rim = vessel.floor_height + vessel.shape.height
        highest = float(periodic.levels(vessel.id).max())
        room, steady = rim - highest, rim - result.levels.high
        keeps = vessel.freeboard - _HAIR
        if (
            steady < vessel.freeboard - 1e-9
            or room >= keeps
            or vessel.id in periodic.through.spills
        ):
            continue  # another rule speaks of what stands too high all the time, or runs over
        less = vessel.freeboard - room
        yield Finding(
            data,
            "swings_near_rim",
            "warning",
            vessel.id,
            f"{named(vessel)} swings up to "
            "{room:length} below its rim; {keep:length} of "
            "freeboard was asked for. Its mean level is {by:length} lower.",
            "Let the pump send less at a time, or fill it lower.",
            {"room": room, "keep": vessel.freeboard, "by": highest - result.levels.high},
            (*_shorter_gulps(resilience), *_lower(resilience, vessel, less)),
        )


def _shorter_gulps(resilience: ResilienceRun) -> Iterator[Offer]:
    """A float that switches on sooner sends less at a time."""
    for pump in resilience.evaluation.plan.pumps:
        band = pump.band
        if band is not None and can_set_start(pump):
            for share in (0.6, 0.35):
                height = band.stops + share * (band.starts - band.stops)
                yield Offer(
                    f"let {named(pump)} start at {{at:length}}",
                    (start_at(pump, round(height, 3)),),
                    figures={"at": round(height, 3)},
                )


def _lower(resilience: ResilienceRun, vessel: Vessel, by: float) -> tuple[Offer, ...]:
    return fill(resilience.evaluation, vessel, -by) if vessel.water_depth is not None else ()
