"""Stock and weight."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation, VesselResult, full_mass
from bathys.parts.practice import A_FISH, MEDIA_A_FISH
from bathys.physics import GRAVITY
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Rule, rule

__all__: list[str] = []

_IDLE = {"hangs", "holds", "starved", "no_inflow", "leaks"}
"""What a siphon bed does when its media are not flooded and drained."""


@rule(
    Rule(
        "S1",
        "Fish the media can carry",
        "Media house the bacteria that clean the water.",
        "common practice",
        limits={"media": MEDIA_A_FISH, "fish": A_FISH},
    )
)
def _stock(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    at_harvest = sum(s.mass_at_harvest for s in plan.fish)
    wanted = at_harvest if plan.fish else plan.brief.fish_mass
    tank = next((v for v in plan.vessels if v.use.keeps_fish), None)
    if tank is None or wanted <= 0.0:
        return
    beds = [r for r in evaluation.vessels.values() if r.vessel.media is not None]
    idle = [r for r in beds if not _works(evaluation, r)]
    wetted = sum(_wetted(r) for r in beds if r not in idle)
    carries = wetted * data.limits["fish"] / data.limits["media"]
    if wanted <= carries:
        return
    # Bacteria live in filters and rafts too, and the plan does not say how many.
    others = [named(v) for v in plan.vessels if v.use.cleans]
    left_out = [*others, *(named(r.vessel) for r in idle)]
    told = f" Not counted: {', '.join(left_out)}." if left_out else ""
    yield Finding(
        data,
        "too_many_fish",
        "note" if others else "warning",
        tank.id,
        "{wanted:mass} of fish are more than the beds are said to carry: {wetted:volume} of "
        f"wetted media for {{carries:mass}}.{told}",
        "Ask of the filters and rafts how much feed they take; beds alone do not carry it."
        if others
        else "Keep fewer fish or add media; {fish:mass} for each {media:volume} is the rule.",
        {"wanted": wanted, "wetted": wetted, "carries": carries, **data.limits},
    )


def _works(evaluation: Evaluation, result: VesselResult) -> bool:
    """Whether a bed's media are flooded and drained, or passed by water, as they should be."""
    bed = next((b for b in evaluation.beds if result.vessel.id in b.linked), None)
    if bed is not None:
        return bed.cycle.verdict not in _IDLE
    return result.inflow > 0.0


def _wetted(result: VesselResult) -> float:
    """Volume of media that water reaches [m³]."""
    media = result.vessel.media
    if media is None:
        return 0.0
    top = min(result.levels.high - result.vessel.floor_height, media.top)
    return result.vessel.shape.footprint * max(top - media.bottom, 0.0)


@rule(
    Rule(
        "W1",
        "Weight on the floor",
        "Water and media are heavy; decks and roofs fail.",
        "derived",
        limits={"raised": 0.3},
    )
)
def _weight(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    raised = [
        r for r in evaluation.vessels.values() if r.vessel.floor_height >= data.limits["raised"]
    ]
    if not raised:
        return
    loads = {r.vessel.id: full_mass(evaluation, r) / r.area for r in raised}
    result = max(raised, key=lambda r: loads[r.vessel.id])
    heaviest = "" if len(raised) == 1 else ", the greatest load of all that stand raised"
    yield Finding(
        data,
        "weight",
        "note",
        result.vessel.id,
        f"{named(result.vessel)} weighs about "
        "{mass:mass} when full; on its footprint that is "
        f"{{load:pressure_load}}{heaviest}.",
        "On a deck, a roof or a home-made stand, have a structural engineer check it.",
        {"mass": full_mass(evaluation, result), "load": loads[result.vessel.id] * GRAVITY},
    )
