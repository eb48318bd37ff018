"""What a sump must hold out: days without topping up, rain, a float valve that sticks."""

from collections.abc import Iterator

from bathys.edits import Edit, free_id
from bathys.evaluation import Evaluation
from bathys.parts.marks import mark_above
from bathys.rules.registry import Finding, Offer, Rule, rule
from bathys.simulation.claims import COVER
from bathys.simulation.outer import open_area
from bathys.vessels import footprint, storage_of

__all__: list[str] = []

_LEAST = 1e-9


def _loop(evaluation: Evaluation, closer: str) -> list[str]:
    return [v for v, c in evaluation.balance.closing.items() if c == closer]


@rule(Rule("U4", "Days away", "Water that dries up is missing where the pump draws.",
           "derived"))  # fmt: skip
def _days_away(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, site = evaluation.plan, evaluation.plan.site
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        result = evaluation.vessels[closer]
        vessels = [plan.vessel(v) for v in _loop(evaluation, closer)]
        if any(t.stands_in in {v.id for v in vessels} for t in plan.top_ups):
            continue
        rate = site.evaporation * sum(open_area(v) for v in vessels)
        inlets = [p.inlet_height for p in plan.pumps if p.stands_in == closer]
        if rate <= _LEAST or not inlets or not site.days_away:
            continue
        storage, floor = storage_of(plan, result.vessel), result.vessel.floor_height
        safe = storage.volume_at(max(inlets) + COVER)
        reserve = storage.volume_at(result.levels.low - floor) - safe
        if reserve <= 0.0 or reserve >= rate * site.days_away:
            continue  # U1 speaks of one that has none
        lasts = reserve / rate
        missing = rate * site.days_away - reserve
        level = max(mark_above(result.levels.low - floor), 0.01)
        flow = max(float(f"{2.0 * rate / 86400.0:.2g}"), 5e-6)
        yield Finding(
            data, "warning" if lasts < 1.0 else "note", closer,
            f"{result.vessel.name} lasts " "{lasts:ratio} days without topping up: {rate:volume} a "
            "day dries off, and {reserve:volume} stand over what the pump needs.",
            "Have {missing:volume} more in it, or fit a float valve.",
            {"lasts": lasts, "rate": rate, "reserve": reserve, "missing": missing},
            (Offer("fit a float valve that tops it up", (Edit("top_ups.+", {
                "id": free_id(plan, "W"), "name": f"Float valve of {closer}",
                "stands_in": closer, "level": level, "flow": flow,
            }),)),),
        )  # fmt: skip


@rule(Rule("U5", "Somewhere for too much water", "A vessel that rain or a stuck float valve can "
           "fill wants an overflow to where it does no harm.", "common practice"))  # fmt: skip
def _overflow(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, site = evaluation.plan, evaluation.plan.site
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        result = evaluation.vessels[closer]
        vessel = result.vessel
        inside = [plan.vessel(v) for v in _loop(evaluation, closer)]
        rain = site.storm_depth * sum(footprint(v.shape) * (1.0 - v.covered) for v in inside)
        storage = storage_of(plan, vessel)
        most = max(result.levels.at_rest, result.levels.high) - vessel.floor_height
        room = max(storage.volume_at(vessel.shape.height) - storage.volume_at(most), 0.0)
        if rain > room + 1e-6:
            yield Finding(
                data, "warning", closer,
                "The greatest rainfall brings {rain:volume}; " f"{vessel.name} has room for "
                "{room:volume} over its highest, and the rest runs over its rim.",
                "Cover the vessels, or give it an overflow to a safe place.",
                {"rain": rain, "room": room},
                (Offer("cover every vessel of it", tuple(
                    Edit(f"vessels.{v.id}.covered", 1.0) for v in inside)),),
            )  # fmt: skip
        for top_up in (t for t in plan.top_ups if t.stands_in in {v.id for v in inside}):
            hours = room / top_up.flow
            yield Finding(
                data, "note", top_up.id,
                f"If {top_up.name} sticks open, {vessel.name} runs over after "
                "{after:time} and then for ever: {flow:flow}.",
                "Lead an overflow to a safe place. Keep an air gap over the water at the valve, "
                "as the local plumbing code asks, and take out chlorine.",
                {"after": hours, "flow": top_up.flow},
            )  # fmt: skip
