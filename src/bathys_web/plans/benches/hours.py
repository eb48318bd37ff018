"""The time bench: a plan followed for as many hours as are asked for, with things done to it on
the way, and played on the side view.

A day or two are followed at once; longer runs are put on a list, and the page asks how far they
are until they are there.
"""

from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from django.http import QueryDict

from bathys.commands.rehearse import mishap_words
from bathys.commands.simulate import BadWish, deed_of, deed_words, event_words, seconds, weather_of
from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.pipeline import Rehearsed
from bathys.plan import Plan, plan_from_data
from bathys.simulation import Deed, NotSimulated, Through, always, follow, joined_through
from bathys.simulation.through_time import LONGEST
from bathys.simulation.what_if import WhatIf, mishaps_of
from bathys.units import System, show
from bathys_web.plans.benches.bench import Ask, Bench
from bathys_web.plans.benches.plots import Curve, Plot
from bathys_web.plans.long_runs import ask_for_long_run
from bathys_web.plans.models import LongRun, SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.storing import content_hash, rehearsed_of_plan

__all__ = ["BENCH", "play"]

_AT_ONCE = 48.0 * 3600.0
_MOST_EVENTS = 60
_MOST_FRAMES = 1200
_MOST_POINTS = 700
_MOST_CURVES, _BEDS_SHOWN = 7, 2  # of more vessels, so many beds are drawn unasked
_MOST_DEEDS = 12
_DIFFERS = 0.01  # a level that is that much off has been disturbed [m]
_LOOKS = ("deep", "mark", "good", "clay", "plum", "olive", "sky", "soft")
_WISHES = {"blocked": "block", "shut": "block", "dead": "dead", "never_starts": "idle",
           "never_breaks": "stuck"}  # fmt: skip


@dataclass(frozen=True)
class Wish:
    """What was asked for, as typed."""

    hours: str = "6"
    cut: str = ""
    lasts: str = "2 h"
    wish: str = ""
    dry: bool = False
    deeds: tuple[str, ...] = ()

    @classmethod
    def of(cls, asked: QueryDict) -> "Wish":
        """From the form; as at first where nothing was asked."""
        deeds = tuple(d[:40] for d in asked.getlist("deed")[:_MOST_DEEDS])
        if "hours" not in asked:
            return cls(deeds=deeds)
        return cls(
            asked.get("hours", "")[:20], asked.get("cut", "")[:20], asked.get("lasts", "")[:20],
            asked.get("wish", "")[:60], "dry" in asked, deeds,
        )  # fmt: skip


def _time(text: str) -> float:
    text = text.strip().replace(" ", "")
    return seconds(f"{text}h" if text.replace(".", "", 1).isdecimal() else text)


def _read(wish: Wish) -> tuple[float, dict[str, str]]:
    """Length of the run [s], and what is wrong with what was typed, by field."""
    errors, length = {}, 0.0
    for field in ("hours", "cut", "lasts"):
        text = getattr(wish, field).strip()
        if field != "hours" and not text:
            continue
        try:
            value = _time(text)
        except BadWish:
            errors[field] = f"“{text}” is no time; write 24, 90 min or 3:10."
            continue
        if field == "hours":
            length = value
            if not 60.0 <= value <= LONGEST:
                errors[field] = "A plan is followed for a minute to 744 hours, a month, in one go."
    return length, errors


def _choices(plan: Plan, units: System) -> list[tuple[str, str]]:
    rows = []
    for mishap in mishaps_of(plan):
        if mishap.kind in _WISHES:
            word = f"{_WISHES[mishap.kind]}:{mishap.place}"
            rows.append((word, mishap_words(plan, WhatIf(mishap))))
    rains = [(f"rain:{mm}mm", f"{show(mm / 1000.0, 'length', units)} of rain fall")
             for mm in (50, 100)]  # fmt: skip
    return [*dict(rows).items(), *rains]


def _deeds(plan: Plan, wish: Wish) -> list[Deed]:
    """What is to be done: the power cut, the wish, and what was done while it played."""
    texts = [wish.wish] if wish.wish else []
    if wish.cut.strip():
        texts.append(f"plug:{wish.lasts.replace(' ', '') or '2h'}@{wish.cut.replace(' ', '')}")
    return [deed_of(plan, text) for text in (*texts, *wish.deeds)]


def _through(
    plan: Plan, wish: Wish, deeds: Sequence[Deed], is_wanted: Callable[[float], bool] = always
) -> Through:
    length = _time(wish.hours)
    every = max(10.0, length / 8000.0)
    weather = weather_of(plan, wish.dry)
    return follow(
        plan, length / 3600.0, deeds, weather, every, lambda time: is_wanted(time / length)
    )


def _levels_plot(through: Through, calm: Through | None) -> Plot:
    """Level of every vessel over the datum; broken, where it would have stood undisturbed."""
    skip = max(len(through.times) // _MOST_POINTS, 1)
    times = [float(t) / 3600.0 for t in through.times[::skip]]
    curves, vessels = [], through.plan.vessels
    is_crowded = len(vessels) > _MOST_CURVES
    shown = [v for v in vessels if v.job == "grow_bed"][:_BEDS_SHOWN]
    for i, vessel in enumerate(vessels):
        level, look = through.level(vessel.id), _LOOKS[i % len(_LOOKS)]
        quiet = is_crowded and vessel.job == "grow_bed" and vessel not in shown
        rows = [float(z) for z in level[::skip]]
        curves.append(Curve(vessel.name, times, rows, look, is_quiet=quiet))
        if calm is not None:
            usual = np.interp(through.times, calm.times, calm.level(vessel.id))
            if float(np.abs(usual - level).max()) > _DIFFERS:
                words = f"{vessel.name} undisturbed"
                rows = [float(z) for z in usual[::skip]]
                curves.append(Curve(words, times, rows, look, is_dashed=True, is_quiet=quiet))
    return Plot("Level of every vessel through time", ("hours", "ratio"),
                (f"level over {through.plan.datum}", "length"), tuple(curves))  # fmt: skip


def _followed(
    plan: Plan, wish: Wish, units: System, is_wanted: Callable[[float], bool]
) -> dict[str, Any]:
    """Levels, cycles and events as plain data. Raises what the engine raises."""
    deeds = _deeds(plan, wish)
    ways = 2 if deeds else 1
    through = _through(plan, wish, deeds, lambda share: is_wanted(share / ways))
    calm = _through(plan, wish, (), lambda s: is_wanted(0.5 + 0.5 * s)) if deeds else None
    vessels = []
    for vessel in plan.vessels:
        level = through.level(vessel.id) - vessel.floor_height
        vessels.append({
            "name": vessel.name, "low": show(float(level.min()), "length", units),
            "mean": show(float(level.mean()), "length", units),
            "high": show(float(level.max()), "length", units),
            "end": show(float(level[-1]), "length", units),
            "over": show(through.spills.get(vessel.id), "volume", units)
            if vessel.id in through.spills else "",
        })  # fmt: skip
    siphons = [
        {"name": s.name, "starts": len(through.times_of("starts", s.id)),
         "first": show(next(iter(through.times_of("starts", s.id)), None), "time", units),
         "cycle": show(through.cycle(s.id), "time", units)} for s in plan.siphons
    ]  # fmt: skip
    pumps = [
        {"name": p.name, "ran": show(through.running[p.id], "time", units),
         "energy": show(p.power * through.running[p.id] / 3.6e6, "energy", units),
         "dry": show(through.dry[p.id], "time", units) if through.dry[p.id] > 1.0 else ""}
        for p in plan.pumps
    ]  # fmt: skip
    events = [[show(max(e.time, 1.0), "time", units), event_words(plan, e)]
              for e in through.events]  # fmt: skip
    return {
        "vessels": vessels, "siphons": siphons, "pumps": pumps, "events": events[:_MOST_EVENTS],
        "more": max(len(events) - _MOST_EVENTS, 0),
        "plot": _levels_plot(through, calm).as_json(units), "has_calm": calm is not None,
        "is_crowded": len(plan.vessels) > _MOST_CURVES,
        "cut_short": through.cut_short and (
            f"Followed for {show(float(through.times[-1]), 'time', units)} only. "
            + through.cut_short
        ),
    }  # fmt: skip


def _to_play(plan: Plan, through: Through, zero: float = 0.0) -> dict[str, Any]:
    """Levels, and what runs when, for playing on the side view: metres and seconds."""
    skip = max(len(through.times) // _MOST_FRAMES, 1)
    runs: dict[str, list[list[float]]] = {}
    end = float(through.times[-1])
    for siphon in plan.siphons:
        tail = plan.run_from(f"{siphon.id}.tail")
        breaks = through.times_of("breaks", siphon.id)
        spans = [[t - zero, next((b for b in breaks if b > t), end) - zero]
                 for t in through.times_of("starts", siphon.id)]  # fmt: skip
        runs[siphon.id] = spans
        if tail is not None:
            runs[tail.id] = spans
    return {
        "times": [round(float(t) - zero, 1) for t in through.times[::skip]],
        "levels": {v.id: [round(float(z), 4) for z in through.level(v.id)[::skip]]
                   for v in plan.vessels},
        "runs": runs, "dark": _dark(through, end),
        "rims": {v.id: v.floor_height + v.shape.height for v in plan.vessels},
        "events": [[round(e.time - zero, 1), event_words(plan, e)] for e in through.events[:2000]],
    }  # fmt: skip


def _dark(through: Through, end: float) -> list[list[float]]:
    """Spans without power [s]."""
    off, on = through.times_of("power_off", ""), through.times_of("power_on", "")
    return [[t, next((b for b in on if b > t), end)] for t in off]


def _safely(
    plan: Plan, wish: Wish, units: System, is_wanted: Callable[[float], bool] = always
) -> dict[str, Any]:
    try:
        return _followed(plan, wish, units, is_wanted)
    except (NotSimulated, NotSolved, EditRefused, BadWish) as error:
        return {"refusal": f"This cannot be followed: {error}"}


def _page(ask: Ask) -> dict[str, Any]:
    """What is shown for a wish: the form, and what came of it."""
    wish, plan = Wish.of(ask.asked), ask.plan
    length, errors = _read(wish)
    page: dict[str, Any] = {"wish": wish, "errors": errors,
                            "choices": [("", "nothing else"), *_choices(plan, ask.units)],
                            "query": ask.asked.urlencode()}  # fmt: skip
    page["done"] = _done_rows(plan, wish, ask.units)
    if errors:
        return page
    if "stopped" in ask.asked:
        return {**page, "is_stopped": True}
    if length <= _AT_ONCE:
        return {**page, **_safely(plan, wish, ask.units), "may_play": True}
    run = _long_run(ask.saved, plan, wish, ask.units)
    return {**page, **(run.result or {"waits_for": run, "percent": round(100.0 * run.reached)})}


def _done_rows(plan: Plan, wish: Wish, units: System) -> list[dict[str, str]]:
    """What was done while it played; what cannot be read is told by the run itself."""
    rows = []
    for text in wish.deeds:
        with suppress(BadWish):
            rows.append({"text": text, "words": deed_words(plan, deed_of(plan, text), units)})
    return rows


def play(plan: Plan, asked: QueryDict, units: System) -> dict[str, Any]:
    """Levels to play on the side view, and how they would have gone undisturbed.

    Parameters
    ----------
    plan : Plan
        The plan
    asked : QueryDict
        The form's fields and every ``deed`` done while it played; or ``drill``, the number of one
        of the rehearsal's power cuts
    units : str
        System of units for words

    Returns
    -------
    dict
        Plain data; ``refusal`` alone where it cannot be followed
    """
    if "drill" in asked:
        return _drill(plan, asked.get("drill", ""))
    wish = Wish.of(asked)
    length, errors = _read(wish)
    if errors:
        return {"refusal": next(iter(errors.values()))}
    if length > _AT_ONCE:
        return {"refusal": "Two days and less are played; follow a shorter time."}
    try:
        deeds = _deeds(plan, wish)
        data = _to_play(plan, _through(plan, wish, deeds))
        if deeds:
            data["calm"] = _to_play(plan, _through(plan, wish, ()))
    except (NotSimulated, NotSolved, EditRefused, BadWish) as error:
        return {"refusal": f"This cannot be followed: {error}"}
    turns = [(f"turn:{r.id}", f"Turn the valve of {r.name} to") for r in plan.runs if r.valve]
    return {**data, "choices": [*_choices(plan, units), *turns]}


def _drill(plan: Plan, number: str) -> dict[str, Any]:
    late = rehearsed_of_plan(plan)
    if not isinstance(late, Rehearsed):
        return {"refusal": late or "It is still being followed; try again."}
    drills = late.rehearsal.drills
    if not 0 <= whole_number(number) < len(drills):
        return {"refusal": "There is no such power cut."}
    drill = drills[whole_number(number)]
    begun = float(drill.dark.times[0])
    data = _to_play(plan, joined_through(plan, [drill.dark, drill.light]), begun)
    return {**data, "dark": [[0.0, float(drill.light.times[0]) - begun]]}


def _long_run(saved: SavedPlan, plan: Plan, wish: Wish, units: System) -> LongRun:
    # A copy of its own, since a plan keeps what it has worked out and threads share it.
    copy = plan_from_data(plan.model_dump(mode="json", by_alias=True))

    def work(is_wanted: Callable[[float], bool]) -> dict[str, Any]:
        return _safely(copy, wish, units, is_wanted)

    return ask_for_long_run(saved, content_hash(plan), [units, asdict(wish)], work)


BENCH = Bench(
    "hours", "Through time", "What happens hour by hour, and if something goes wrong?", _page
)
