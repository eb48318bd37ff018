"""Stock and weight."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation, VesselResult
from bathys.parts.media import MEDIA
from bathys.physics import GRAVITY
from bathys.rules.registry import Finding, Rule, rule
from bathys.vessels import footprint, storage_of

__all__: list[str] = []


@rule(Rule("S1", "Fish the media can carry", "Media house the bacteria that clean the water.",
           "common practice", limits={"media": 0.025, "fish": 0.5}))  # fmt: skip
def _stock(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    wanted = evaluation.plan.brief.fish_mass
    jobs = {v.job for v in evaluation.plan.vessels}
    tank = next((v for v in evaluation.plan.vessels if v.job == "fish_tank"), None)
    if tank is None or wanted <= 0.0 or jobs & {"biofilter", "raft"}:
        return  # bacteria live there too, and the plan does not say how many
    wetted = sum(_wetted(r) for r in evaluation.vessels.values())
    carries = wetted * data.limits["fish"] / data.limits["media"]
    if wanted > carries:
        yield Finding(
            data, "warning", tank.id,
            "{wanted:mass} of fish are more than the beds are said to carry: {wetted:volume} of "
            "wetted media for {carries:mass}.",
            "Keep fewer fish or add media; {fish:mass} for each {media:volume} is the rule.",
            {"wanted": wanted, "wetted": wetted, "carries": carries, **data.limits},
        )  # fmt: skip


def _wetted(result: VesselResult) -> float:
    """Volume of media that water reaches [m³]."""
    media = result.vessel.media
    if media is None:
        return 0.0
    top = min(result.levels.high - result.vessel.floor_height, media.top)
    return footprint(result.vessel.shape) * max(top - media.bottom, 0.0)


@rule(Rule("W1", "Weight on the floor", "Water and media are heavy; decks and roofs fail.",
           "derived", limits={"raised": 0.3, "shell": 30.0}))  # fmt: skip
def _weight(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    raised = [
        r for r in evaluation.vessels.values()
        if r.vessel.floor_height >= data.limits["raised"]
    ]  # fmt: skip
    if not raised:
        return
    loads = {r.vessel.id: _mass(evaluation, r, data) / r.area for r in raised}
    result = max(raised, key=lambda r: loads[r.vessel.id])
    heaviest = "" if len(raised) == 1 else ", the most of all that stand raised"
    yield Finding(
        data, "note", result.vessel.id,
        f"{result.vessel.name} weighs about " "{mass:mass} when full, {load:pressure_load} on its "
        f"footprint{heaviest}.",
        "On a deck, a roof or a home-made stand, have a structural engineer check it.",
        {"mass": _mass(evaluation, result, data), "load": loads[result.vessel.id] * GRAVITY},
    )  # fmt: skip


def _mass(evaluation: Evaluation, result: VesselResult, data: Rule) -> float:
    vessel = result.vessel
    storage = storage_of(evaluation.plan, vessel)
    water = float(storage.volume(max(result.levels.high, result.levels.at_rest)
                                 - vessel.floor_height))  # fmt: skip
    mass = water * evaluation.water.density + data.limits["shell"]
    if vessel.media is not None:
        depth = vessel.media.top - vessel.media.bottom
        mass += result.area * depth * MEDIA[vessel.media.kind].bulk_density
    return mass
