"""What a sump must hold out: days without topping up, rain, a float valve that sticks."""

from collections.abc import Iterator

from bathys.edits import Edit, free_id
from bathys.evaluation import Evaluation
from bathys.evaluation.reserve import loop_of, moved_a_day, reserve_of
from bathys.parts.practice import LEAST_COVER
from bathys.parts.rounding import mark_above
from bathys.plan import Plan
from bathys.plan.naming import named
from bathys.plan.supply import Move, TopUp
from bathys.plan.vessel import Vessel
from bathys.rules.registry import Finding, Offer, Rule, rule
from bathys.simulation.boundary_conditions import STORM_LASTS, open_area
from bathys.vessels import storage_of

__all__: list[str] = []

_LEAST = 1e-9
_LEAST_A_DAY = 1e-4  # less water than this a day is no drift [m³]


@rule(Rule("U4", "Days away", "Evaporated water is missing where the pump draws.", "derived"))
def _days_away(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, site = evaluation.plan, evaluation.plan.site
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        kept, result = reserve_of(evaluation, closer), evaluation.vessels[closer]
        if kept is None or kept.rate <= _LEAST or not site.days_away:
            continue
        if kept.volume <= 0.0 or kept.volume >= kept.rate * site.days_away:
            continue  # U1 speaks of one that has none
        tops = [t for t in plan.float_valves if t.stands_in in loop_of(evaluation, closer)]
        rate, taken, comes, floor = kept.rate, kept.taken, kept.comes, result.vessel.floor_height
        lasts = kept.volume / rate
        missing = rate * site.days_away - kept.volume
        level = max(mark_above(result.levels.low - floor), 0.01)
        flow = max(float(f"{2.0 * rate / 86400.0:.2g}"), 5e-6)
        told = "{dries:volume} a day dries off"
        if taken > _LEAST:
            told += " and {taken:volume} a day is taken out"
        if comes > _LEAST:
            told += " and only {comes:volume} a day is added"
        told += "; {reserve:volume} stand over what the pump needs."
        yield Finding(
            data,
            "days_without_a_hand",
            "warning" if lasts < 1.0 or comes > _LEAST else "note",
            tops[0].id if tops else closer,
            f"{named(result.vessel)} lasts {{lasts:ratio}} days without a hand: " + told,
            "Have {missing:volume} more in it, or "
            + ("add more." if comes > _LEAST else "fit a float valve."),
            {
                "lasts": lasts,
                "dries": kept.dries,
                "comes": comes,
                "taken": taken,
                "rate": rate,
                "reserve": kept.volume,
                "missing": missing,
            },
            (_more_fresh(tops[0], flow) if tops else _float_valve(plan, closer, level, flow),),
        )


def _more_fresh(top_up: TopUp, flow: float) -> Offer:
    more = top_up.lets_in + flow
    edit = Edit(f"top_ups.{top_up.id}.flow", more)
    return Offer(f"set {{more:flow}} at {named(top_up)}", (edit,), "", {"more": more})


def _float_valve(plan: Plan, vessel: str, level: float, flow: float) -> Offer:
    part = {
        "id": free_id(plan, "W"),
        "name": f"Float valve of {vessel}",
        "stands_in": vessel,
        "level": level,
        "flow": flow,
    }
    return Offer("fit a float valve that tops it up", (Edit("top_ups.+", part),))


@rule(
    Rule(
        "U14",
        "Schedules balance",
        "Water moved by schedule must be balanced, or a vessel overflows or runs dry one day.",
        "derived",
        limits={"horizon": 28.0 * 86400.0},
    )
)
def _schedules(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, site = evaluation.plan, evaluation.plan.site
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        loop = set(loop_of(evaluation, closer))
        own = [t for t in plan.moves if (t.source in loop) != (t.target in loop)]
        if not own:
            continue
        result, day = evaluation.vessels[closer], moved_a_day(plan, loop)
        dries = site.dries * sum(open_area(plan.vessel(v)) for v in loop)
        tops = sum(t.lets_in for t in plan.float_valves if t.stands_in in loop) * 86400.0
        storage, floor = storage_of(plan, result.vessel), result.vessel.floor_height
        rim = storage.volume_at(result.vessel.shape.height)
        room = rim - storage.volume_at(max(result.levels.at_rest, result.levels.high) - floor)
        inlets = [p.inlet_height for p in plan.pumps if p.stands_in == closer]
        safe = storage.volume_at(max(inlets) + LEAST_COVER) if inlets else 0.0
        reserve = storage.volume_at(result.levels.low - floor) - safe
        yield from _drift(
            data,
            result.vessel,
            day - dries,
            room,
            own,
            _less_moved(plan, own, loop, day - dries),
            floods=True,
        )
        tap = next((t for t in plan.float_valves if t.stands_in in loop), None)
        flow = max(float(f"{2.0 * max(-day - tops, 0.0) / 86400.0:.2g}"), 5e-6)
        level = max(mark_above(result.levels.low - floor), 0.01)
        more = _more_fresh(tap, flow) if tap else _float_valve(plan, closer, level, flow)
        yield from _drift(data, result.vessel, -day - tops, reserve, own, more)
        yield from _at_once(data, result.vessel, own, loop, room, reserve)


def _drift(
    data: Rule,
    vessel: Vessel,
    day: float,
    room: float,
    own: list[Move],
    offer: Offer | None,
    *,
    floods: bool = False,
) -> Iterator[Finding]:
    """What a loop gains or loses in a day, and when that comes to harm."""
    if day <= _LEAST_A_DAY:
        return
    after = max(room, 0.0) / day * 86400.0
    names = " and ".join(named(t) for t in own if (t.target is not None) == floods) or named(own[0])
    does, ends = (
        ("more comes in", "overflows") if floods else ("more goes out", "is too low to pump")
    )
    yield Finding(
        data,
        "schedules_do_not_balance",
        "fault" if after <= data.limits["horizon"] else "warning",
        own[0].id,
        f"With {names}, {{day:volume}} a day, {{week:volume}} a week, {does} than "
        f"{'goes out' if floods else 'comes in'}: after {{after:time}} {named(vessel)} {ends}.",
        "Take out as much as comes in, or fit an overflow to a safe place."
        if floods
        else "Add as much as goes out, or fit a float valve.",
        {"day": day, "week": 7.0 * day, "after": after},
        (offer,) if offer is not None else (),
    )


def _less_moved(plan: Plan, own: list[Move], loop: set[str], surplus: float) -> Offer | None:
    """The largest transfer into a loop made smaller by what is too much; none if it is no part by
    itself, or does not move so much."""
    into = [m for m in own if m.target in loop and any(t.id == m.id for t in plan.transfers)]
    if not into:
        return None
    largest = max(into, key=lambda m: m.volume / m.every)
    volume = largest.volume - 1.02 * surplus * largest.every / 86400.0
    if volume <= 0.0:
        return None
    volume = float(f"{volume:.3g}")
    edit = Edit(f"transfers.{largest.id}.volume", volume)
    return Offer(
        f"move {{volume:volume}} each time with {named(largest)}", (edit,), "", {"volume": volume}
    )


def _at_once(
    data: Rule, vessel: Vessel, own: list[Move], loop: set[str], room: float, reserve: float
) -> Iterator[Finding]:
    """Single transfers that are too much at a time."""
    for transfer in own:
        comes = transfer.target in loop
        # What the same part took out just before has made room, or the other way round.
        before = sum(
            m.volume
            for m in own
            if m.id == transfer.id and m.at < transfer.at and (m.source in loop) == comes
        )
        most = (room if comes else reserve) + before
        if transfer.volume > max(most, 0.0) + 1e-6:
            told = f"{named(vessel)} has room for " if comes else f"{named(vessel)} can spare "
            yield Finding(
                data,
                "transfer_too_much",
                "warning",
                transfer.id,
                f"{named(transfer)} moves {{volume:volume}} at once; {told}{{most:volume}}.",
                "Move less at a time, more often.",
                {"volume": transfer.volume, "most": max(most, 0.0)},
            )


def _overflow_capacity(evaluation: Evaluation, vessel: str) -> float:
    """What the runs from a vessel to an outfall pass together with it filled to its freeboard, of
    those that carry nothing otherwise [m³/s]."""
    plan, layout = evaluation.plan, evaluation.balance.layout
    found = 0.0
    for run in layout.drained_by(vessel):
        gravity = evaluation.runs[run.id].gravity
        if plan.is_outfall(run.end) and gravity is not None and not layout.lines[run.id].shut:
            found += gravity.capacity
    return found


@rule(
    Rule(
        "U5",
        "Somewhere for too much water",
        "A vessel that rain or a stuck float valve can fill needs an overflow to a safe place.",
        "common practice",
    )
)
def _overflow(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, site = evaluation.plan, evaluation.plan.site
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        result = evaluation.vessels[closer]
        vessel = result.vessel
        inside = [plan.vessel(v) for v in loop_of(evaluation, closer)]
        rain = site.storm_depth * sum(v.catches_rain for v in inside)
        storage = storage_of(plan, vessel)
        most = max(result.levels.at_rest, result.levels.high) - vessel.floor_height
        room = max(storage.volume_at(vessel.shape.height) - storage.volume_at(most), 0.0)
        overflow = _overflow_capacity(evaluation, closer)
        if rain > room + 1e-6 and overflow < rain / STORM_LASTS:
            yield Finding(
                data,
                "storm_too_much",
                "warning",
                closer,
                "The greatest rainfall adds {rain:volume}; "
                f"{named(vessel)} has room for "
                "{room:volume} over its highest, and the rest runs over its rim"
                + (": its overflow passes only {passes:flow}." if overflow else "."),
                "Fit a wider overflow."
                if overflow
                else "Cover the vessels, or give it an overflow to a safe place.",
                {"rain": rain, "room": room, "passes": overflow},
                (
                    Offer(
                        "cover every vessel of it",
                        tuple(Edit(f"vessels.{v.id}.covered", 1.0) for v in inside),
                    ),
                ),
            )
        for top_up in (t for t in plan.float_valves if t.stands_in in {v.id for v in inside}):
            if overflow >= top_up.lets_in:
                continue  # it runs off outside
            hours = room / top_up.lets_in
            yield Finding(
                data,
                "top_up_sticks",
                "note",
                top_up.id,
                f"If {named(top_up)} sticks open, {named(vessel)} runs over after "
                "{after:time} and then for ever: {flow:flow}.",
                "Lead an overflow to a safe place. Keep an air gap over the water at the valve, "
                "as the local plumbing code asks, and take out chlorine.",
                {"after": hours, "flow": top_up.lets_in},
            )


@rule(
    Rule(
        "U17",
        "Topped up by hand often enough",
        "Between two visits the sump must not fall to the pump.",
        "derived",
    )
)
def _visits(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for closer in dict.fromkeys(evaluation.balance.closing.values()):
        kept, inside = reserve_of(evaluation, closer), loop_of(evaluation, closer)
        if kept is None or kept.days is None:
            continue
        for top_up in evaluation.plan.top_ups:
            visit = top_up.visit
            if visit is None or top_up.stands_in not in inside:
                continue
            days = visit.every / 86400.0
            if kept.days < days:
                often = max(float(int(kept.days)), 0.5) * 86400.0
                yield Finding(
                    data,
                    "visits_too_rare",
                    "warning",
                    top_up.id,
                    f"{named(top_up)} comes every {{days:ratio}} days; the water over the pump "
                    "lasts {lasts:ratio}.",
                    "Top up more often, or fit a float valve.",
                    {"days": days, "lasts": kept.days},
                    (
                        Offer(
                            "top up every {often:time}",
                            (Edit(f"top_ups.{top_up.id}.every", often),),
                            "",
                            {"often": often},
                        ),
                    ),
                )
