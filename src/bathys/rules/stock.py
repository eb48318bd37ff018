"""Stock and weight."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation
from bathys.parts.media import MEDIA
from bathys.physics import GRAVITY
from bathys.rules.registry import Finding, Rule, rule
from bathys.vessels import footprint

__all__: list[str] = []


@rule(Rule("S1", "Fish the media can carry", "Media house the bacteria that clean the water.",
           "common practice", limits={"media": 0.025, "fish": 0.5}))  # fmt: skip
def _stock(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    wanted = evaluation.plan.brief.fish_mass
    wetted = sum(
        footprint(r.loop.bed.shape)
        * max(min(r.loop.bell.rim, r.loop.bed.media.top) - r.loop.bed.media.bottom, 0.0)
        for r in evaluation.loops
        if r.loop.bed.media is not None
    )
    if not evaluation.loops or wanted <= 0.0:
        return
    carries = wetted * data.limits["fish"] / data.limits["media"]
    if wanted > carries:
        yield Finding(
            data, "warning", evaluation.loops[0].loop.tank.id,
            "{wanted:mass} of fish are more than the beds are said to carry: {wetted:volume} of "
            "wetted media for {carries:mass}.",
            "Keep fewer fish or add media; {fish:mass} for each {media:volume} is the rule.",
            {"wanted": wanted, "wetted": wetted, "carries": carries, **data.limits},
        )  # fmt: skip


@rule(Rule("W1", "Weight on the floor", "Water and media are heavy; decks and roofs fail.",
           "derived", limits={"raised": 0.3, "shell": 30.0}))  # fmt: skip
def _weight(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        bed = result.loop.bed
        water = float(result.loop.bed_storage.volume(result.cycle.bed_high))
        mass = water * evaluation.water.density + data.limits["shell"]
        area = footprint(bed.shape)
        if bed.media is not None:
            depth = bed.media.top - bed.media.bottom
            mass += area * depth * MEDIA[bed.media.kind].bulk_density
        yield Finding(
            data, "note", bed.id,
            f"{bed.name} weighs about " "{mass:mass} when full, {load:pressure_load} on its "
            "footprint.",
            "On a deck, a roof or a home-made stand, have a structural engineer check it.",
            {"mass": mass, "load": mass * GRAVITY / area},
        )  # fmt: skip
