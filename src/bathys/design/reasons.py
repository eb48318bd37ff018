"""Why each size is as it is, and what governs it."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from bathys.design.amounts import FEED_AREA, fish_mass, media_carry
from bathys.design.answers import Answer
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.falls import TANK_FALL
from bathys.design.layouts import LAYOUTS
from bathys.evaluation import Evaluation
from bathys.parts.practice import SETTLER_RATE
from bathys.parts.species import SPECIES
from bathys.physics import area_of
from bathys.plan.model import Plan
from bathys.plan.pumps import Pump
from bathys.quality.settling import settler_of
from bathys.quality.survival import about, bridge_of, survivals_of
from bathys.quality.water import water_of

__all__ = ["Reason", "reasons_of"]

_HOUR = 3600.0


@dataclass(frozen=True, slots=True)
class Reason:
    """Why a size is so.

    Attributes
    ----------
    part : str
        Id of the part it is the size of; empty for the whole
    what : str
        The size, in a word or two
    sentence : str
        Why, with slots
    figures : mapping of str to float
        For the slots, in SI
    figure : str
        Key of the figure that shows it; empty for none
    """

    part: str
    what: str
    sentence: str
    figures: Mapping[str, float] = field(default_factory=dict)
    figure: str = ""


def reasons_of(brief: DesignBrief, answer: Answer) -> tuple[Reason, ...]:
    """Why each size of an answer is as it is.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    answer : Answer
        The answer to it

    Returns
    -------
    tuple of Reason
        In the order in which a designer decides
    """
    found = answer.assessment.evaluation
    return (
        *_fish(brief, found),
        *_flows(found),
        *_settlers(found),
        *_filters(brief, found),
        *_heights(brief, found),
        *_siphons(found),
        *_pipes(found),
        *_sumps(brief, found),
        *_pumps(found),
        *_air(found),
        *_power_cut(found),
    )


def _fish(brief: DesignBrief, found: Evaluation) -> Iterator[Reason]:
    mass = fish_mass(brief)
    if mass <= 0.0 or not found.plan.fish:
        return
    part = found.plan.fish[0].id
    if brief.fish is not None:
        yield Reason(part, "fish", "{mass:mass} at harvest, as you asked.", {"mass": mass})
        return
    grown = [w for w in (brief.beds, brief.rafts) if w.count]
    area = sum(w.count * shell_of(w).footprint for w in grown)
    fed = FEED_AREA * area / SPECIES[brief.species].eats
    figures = {"mass": mass, "area": area, "fed": fed, "carry": media_carry(brief)}
    if not brief.rafts.count and media_carry(brief) < fed - 1e-6:
        sentence = (
            "{mass:mass} at harvest: the media of the beds carry {carry:mass}, less than the "
            "{fed:mass} that {area:surface} of plants could be fed by."
        )
    elif mass < fed - 0.02:
        sentence = (
            "{mass:mass} at harvest: more would be crowded in the tank; {area:surface} of plants "
            "could be fed by {fed:mass}."
        )
    else:
        sentence = "{mass:mass} at harvest: what they eat feeds {area:surface} of plants."
    yield Reason(part, "fish", sentence, figures)


def _flows(found: Evaluation) -> Iterator[Reason]:
    for run in found.plan.runs:
        target = found.plan.owner_of(run.end)
        if run.wanted_flow is None or target is None:
            continue
        vessel = found.plan.vessel(target)
        if vessel.use.takes_up:
            sentence = "{flow:flow}: what is too much for the others goes straight back."
            figures = {"flow": run.wanted_flow}
            yield Reason(run.id, f"flow of {run.name}", sentence, figures, f"{run.id}.flow")
            continue
        if vessel.job == "settler":  # on its way from the fish tank
            vessel = next(v for v in found.plan.vessels if v.use.keeps_fish)
        held = vessel.shape.capacity
        times = _HOUR * run.wanted_flow / held
        yield Reason(
            run.id,
            f"flow to {vessel.name}",
            "{flow:flow}: its {held:volume} {times:ratio} times an hour.",
            {"flow": run.wanted_flow, "held": held, "times": times},
            f"{run.id}.flow",
        )


def _settlers(found: Evaluation) -> Iterator[Reason]:
    for vessel in found.plan.vessels:
        settler = settler_of(found, vessel.id)
        if vessel.settler is None or settler is None:
            continue
        yield Reason(
            vessel.id,
            f"size of {vessel.name}",
            "{held:volume}: water rises at {rate:slow_speed}, {most:slow_speed} still settles, "
            "and stays for {stays:time}.",
            {
                "held": vessel.shape.capacity,
                "rate": settler.rate,
                "most": SETTLER_RATE,
                "stays": settler.retention,
            },
        )


def _filters(brief: DesignBrief, found: Evaluation) -> Iterator[Reason]:
    for vessel in found.plan.vessels:
        if vessel.job == "biofilter" and vessel.carriers is not None:
            mass, carry = fish_mass(brief), media_carry(brief)
            sentence = (
                "{carriers:volume} of carriers: {mass:mass} of fish are more than the {carry:mass} "
                "that the media of the beds carry."
            )
            if LAYOUTS[brief.layout].is_apart:
                sentence = "{carriers:volume} of carriers: no bed cleans the water of the fish."
            elif carry <= 0.0:
                sentence = (
                    "{carriers:volume} of carriers: there are no media for {mass:mass} of fish."
                )
            figures = {"carriers": vessel.carriers.volume, "mass": mass, "carry": carry}
            yield Reason(vessel.id, f"size of {vessel.name}", sentence, figures)


def _heights(brief: DesignBrief, found: Evaluation) -> Iterator[Reason]:
    for vessel in found.plan.vessels:
        floor = vessel.floor_height
        figures = {"floor": abs(floor), "dig": brief.dig}
        if floor < 0.0:
            sentence = "{floor:length} dug in: the less all that drains into it has to be raised."
            if abs(floor) < brief.dig - 1e-6:
                sentence = "{floor:length} dug in, so that its rim stays over the ground."
        elif floor > 0.0 and vessel.use.keeps_fish and not _feeds_settler(found.plan, vessel.id):
            sentence = "{floor:length} over the ground: its overflow needs a fall."
        elif floor > 0.0 and vessel.use.keeps_fish:
            sentence = (
                "{floor:length} over the ground: its water has to fall {fall:length} and the loss "
                "of the pipe to the settler."
            )
            figures["fall"] = TANK_FALL
        elif (floor > 0.0 and vessel.use.floods) or (floor > 0.0 and vessel.job == "raft"):
            sentence = "{floor:length} over the ground: its drain needs a fall, and it is tended."
        elif floor > 0.0:
            sentence = "{floor:length} over the ground: its outlet drains into the next vessel."
        else:
            continue
        yield Reason(vessel.id, f"height of {vessel.name}", sentence, figures)


def _feeds_settler(plan: Plan, vessel: str) -> bool:
    """Whether water goes from a vessel straight to a settler."""
    targets = {r.target for r in plan.runs if plan.owner_of(r.start) == vessel}
    return any(v.job == "settler" and v.id in targets for v in plan.vessels)


def _siphons(found: Evaluation) -> Iterator[Reason]:
    for bed in found.beds:
        siphon, window = bed.siphon, bed.cycle.window
        flow = found.vessels[siphon.stands_in].inflow
        words = "It starts from {start:flow} and stops up to {stop:flow}; {flow:flow} comes"
        if window.start.high <= flow <= window.stop.low:
            words += ", well between."
        elif flow < window.start.high:
            words += (
                ". Its start is known only to between {first:flow} and {last:flow}: trim it on the "
                "first day."
            )
        else:
            words += (
                ". Its stop is known only to between {least:flow} and {most:flow}: trim it on the "
                "first day."
            )
        yield Reason(
            siphon.id,
            f"size of {siphon.name}",
            words,
            {
                "start": window.start.value,
                "stop": window.stop.value,
                "flow": flow,
                "first": window.start.low,
                "last": window.start.high,
                "least": window.stop.low,
                "most": window.stop.high,
            },
        )


def _pipes(found: Evaluation) -> Iterator[Reason]:
    pumps = {p.leads_from for p in found.plan.pumps if isinstance(p, Pump)}
    for run in found.plan.runs:
        if run.start not in pumps:
            continue
        result = found.runs[run.id]
        yield Reason(
            run.id,
            f"bore of {run.name}" if len(pumps) == 1 else f"bore of {run.name} {run.id}",
            "{bore:length} inside: {flow:flow} goes through it at {speed:speed}.",
            {
                "bore": run.bore.inside,
                "flow": result.flow,
                "speed": result.flow / area_of(run.bore.inside),
            },
            f"{run.id}.flow",
        )


def _sumps(brief: DesignBrief, found: Evaluation) -> Iterator[Reason]:
    needs = LAYOUTS[brief.layout].sump_needs
    by_name = needs(brief) if needs is not None else {}
    for vessel in found.plan.vessels:
        if vessel.name in by_name:
            yield Reason(
                vessel.id,
                f"size of {vessel.name}",
                "{held:volume}: {need:volume} go up and down in it, with what dries up in "
                "{days:count} days; a pump’s cover and a dry rim come on top.",
                {
                    "held": vessel.shape.capacity,
                    "need": by_name[vessel.name],
                    "days": float(brief.days_away),
                },
            )


def _pumps(found: Evaluation) -> Iterator[Reason]:
    for duty in found.duties.values():
        yield Reason(
            duty.pump.id,
            "pump" if len(found.duties) == 1 else f"pump {duty.pump.name}",
            "{flow:flow} at {head:head} for {power:power}: with a reserve in pipes of a season’s "
            "age, what is too much is throttled.",
            {"flow": duty.flow, "head": duty.head, "power": duty.pump.power},
            f"{duty.pump.id}.flow",
        )


def _air(found: Evaluation) -> Iterator[Reason]:
    for pump in found.plan.air_pumps:
        flow = sum(a.flow for a in found.plan.air if a.fed_by == pump.id)
        yield Reason(
            pump.id,
            "air pump",
            "{flow:flow} of air for all stones: a little over each fish tank’s volume an hour, and "
            "what roots and carriers take. Its label is for no depth, so it is larger.",
            {"flow": flow},
        )


def _power_cut(found: Evaluation) -> Iterator[Reason]:
    water, cut = water_of(found), found.plan.brief.power_cut
    if water is None or not cut or not found.plan.air_pumps:
        return
    pump, bridge = found.plan.air_pumps[0].id, bridge_of(found)
    lasts = [s.neither for s in survivals_of(found, water) if s.neither is not None]
    figures = {"cut": cut, "lasts": about(min(lasts, default=0.0))}
    if bridge is None:
        yield Reason(
            pump,
            "power cut",
            "None is asked for: oxygen lasts well over your longest power cut of {cut:hours}.",
            figures,
        )
        return
    yield Reason(
        pump,
        "power cut",
        "Oxygen lasts {lasts:time} and your longest power cut {cut:hours}: a 12 V battery of "
        "{lead:charge} lead-acid or {lithium:charge} lithium keeps the air going.",
        {**figures, "lead": bridge.lead, "lithium": bridge.lithium},
    )
