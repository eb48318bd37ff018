"""The time bench: a plan followed for as many hours as are asked for, with things done to it on
the way, and played on the side view.

Workers follow it, and the page asks how far they are until the result is there.
"""

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import asdict
from typing import Any

import numpy as np
from django.http import QueryDict

from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.plan import Plan
from bathys.scenarios import ScenarioStep, follow, joined_through
from bathys.simulation import NotSimulated, SimulationResult, always
from bathys.units import System, show
from bathys.wording.scenarios import (
    BadScenarioStep,
    event_words,
    step_of,
    step_words,
    weather_of,
)
from bathys_web.plans.benches.bench import Bench, BenchRequest
from bathys_web.plans.benches.plots import Curve, Plot
from bathys_web.plans.benches.scenario_form import (
    ScenarioForm,
    _time,
    read_form,
    step_choices,
    steps_of,
)
from bathys_web.plans.dynamic import dynamic_of
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.offer_context import OfferContext

__all__ = ["BENCH", "ScenarioForm", "follow_form", "play", "play_form", "takes_long"]

_AT_ONCE = 48.0 * 3600.0  # the longest that is played [s]
_A_DAY, _A_DAY_OF_BEDS = 0.05, 0.0075  # what following takes [s], for the square of the beds
_QUICK = 3.0  # what a worker for quick things may take [s]
_MOST_EVENTS = 60
_MOST_FRAMES = 1200
_MOST_POINTS = 700
_MOST_CURVES, _BEDS_SHOWN = 7, 2  # of more vessels, so many beds are drawn unasked
_DIFFERS = 0.01  # a level that is that much off has been disturbed [m]
_LOOKS = ("deep", "mark", "good", "clay", "plum", "olive", "sky", "soft")


def _through(
    plan: Plan,
    form: ScenarioForm,
    steps: Sequence[ScenarioStep],
    is_wanted: Callable[[float], bool] = always,
) -> SimulationResult:
    length = _time(form.hours)
    every = max(10.0, length / 8000.0)
    weather = weather_of(plan, form.dry)
    return follow(
        plan, length / 3600.0, steps, weather, every, lambda time: is_wanted(time / length)
    )


def _levels_plot(through: SimulationResult, calm: SimulationResult | None) -> Plot:
    """Level of every vessel over the datum; broken, where it would have stood undisturbed."""
    skip = max(len(through.times) // _MOST_POINTS, 1)
    times = [float(t) / 3600.0 for t in through.times[::skip]]
    curves, vessels = [], through.plan.vessels
    is_crowded = len(vessels) > _MOST_CURVES
    shown = [v for v in vessels if v.use.floods][:_BEDS_SHOWN]
    for i, vessel in enumerate(vessels):
        level, look = through.level(vessel.id), _LOOKS[i % len(_LOOKS)]
        quiet = is_crowded and vessel.use.floods and vessel not in shown
        rows = [float(z) for z in level[::skip]]
        curves.append(Curve(vessel.name, times, rows, look, is_quiet=quiet))
        if calm is not None:
            usual = np.interp(through.times, calm.times, calm.level(vessel.id))
            if float(np.abs(usual - level).max()) > _DIFFERS:
                words = f"{vessel.name} undisturbed"
                rows = [float(z) for z in usual[::skip]]
                curves.append(Curve(words, times, rows, look, is_dashed=True, is_quiet=quiet))
    return Plot(
        "Level of every vessel through time",
        ("hours", "ratio"),
        (f"level over {through.plan.datum}", "length"),
        tuple(curves),
    )


def _followed(
    plan: Plan, form: ScenarioForm, units: System, is_wanted: Callable[[float], bool]
) -> dict[str, Any]:
    """Levels, cycles and events as plain data. Raises what the engine raises."""
    steps = steps_of(plan, form)
    ways = 2 if steps else 1
    through = _through(plan, form, steps, lambda share: is_wanted(share / ways))
    calm = _through(plan, form, (), lambda s: is_wanted(0.5 + 0.5 * s)) if steps else None
    vessels = []
    for vessel in plan.vessels:
        level = through.level(vessel.id) - vessel.floor_height
        vessels.append(
            {
                "name": vessel.name,
                "low": show(float(level.min()), "length", units),
                "mean": show(float(level.mean()), "length", units),
                "high": show(float(level.max()), "length", units),
                "end": show(float(level[-1]), "length", units),
                "over": show(through.spills.get(vessel.id), "volume", units)
                if vessel.id in through.spills
                else "",
            }
        )
    siphons = [
        {
            "name": s.name,
            "starts": len(through.times_of("starts", s.id)),
            "first": show(next(iter(through.times_of("starts", s.id)), None), "time", units),
            "cycle": show(through.cycle(s.id), "time", units),
        }
        for s in plan.siphons
    ]
    pumps = [
        {
            "name": p.name,
            "ran": show(through.running[p.id], "time", units),
            "energy": show(p.power * through.running[p.id] / 3.6e6, "energy", units),
            "dry": show(through.dry[p.id], "time", units) if through.dry[p.id] > 1.0 else "",
        }
        for p in plan.pumps
    ]
    events = [[show(max(e.time, 1.0), "time", units), event_words(plan, e)] for e in through.events]
    return {
        "vessels": vessels,
        "siphons": siphons,
        "pumps": pumps,
        "events": events[:_MOST_EVENTS],
        "more": max(len(events) - _MOST_EVENTS, 0),
        "plot": _levels_plot(through, calm).as_json(units),
        "has_calm": calm is not None,
        "is_crowded": len(plan.vessels) > _MOST_CURVES,
        "cut_short": through.cut_short
        and (f"Over {show(float(through.times[-1]), 'time', units)} only. " + through.cut_short),
    }


def _to_play(plan: Plan, through: SimulationResult, zero: float = 0.0) -> dict[str, Any]:
    """Levels, and what runs when, for playing on the side view: metres and seconds."""
    skip = max(len(through.times) // _MOST_FRAMES, 1)
    runs: dict[str, list[list[float]]] = {}
    end = float(through.times[-1])
    for siphon in plan.siphons:
        tail = plan.run_of(siphon)
        breaks = through.times_of("breaks", siphon.id)
        spans = [
            [t - zero, next((b for b in breaks if b > t), end) - zero]
            for t in through.times_of("starts", siphon.id)
        ]
        runs[siphon.id] = spans
        if tail is not None:
            runs[tail.id] = spans
    return {
        "times": [round(float(t) - zero, 1) for t in through.times[::skip]],
        "levels": {
            v.id: [round(float(z), 4) for z in through.level(v.id)[::skip]] for v in plan.vessels
        },
        "runs": runs,
        "dark": _dark(through, end),
        "rims": {v.id: v.floor_height + v.shape.height for v in plan.vessels},
        "events": [[round(e.time - zero, 1), event_words(plan, e)] for e in through.events[:2000]],
    }


def _dark(through: SimulationResult, end: float) -> list[list[float]]:
    """Spans without power [s]."""
    off, on = through.times_of("power_off", ""), through.times_of("power_on", "")
    return [[t, next((b for b in on if b > t), end)] for t in off]


def takes_long(plan: Plan, words: Mapping[str, Any]) -> bool:
    """Whether following a form is known to take more than a few seconds: the work grows with the
    days and about with the square of the siphon beds, whose starts cut every step short.

    Parameters
    ----------
    plan : Plan
        The plan
    words : mapping of str to object
        What is asked for

    Returns
    -------
    bool
        Whether it is
    """
    form = ScenarioForm.of_words(words["form"])
    days = _time(form.hours) / 86400.0 * (2.0 if form.event or form.cut or form.steps else 1.0)
    return days * (_A_DAY + _A_DAY_OF_BEDS * len(plan.siphons) ** 2) > _QUICK


def follow_form(
    plan: Plan, form: ScenarioForm, units: System, is_wanted: Callable[[float], bool] = always
) -> dict[str, Any]:
    """What the bench shows of a form; ``refusal`` alone where it cannot be followed.

    Parameters
    ----------
    plan : Plan
        The plan
    form : ScenarioForm
        What was asked for
    units : str
        The system shown
    is_wanted : callable
        Told the share of the way, answers whether to go on

    Returns
    -------
    dict
        Plain data
    """
    try:
        return _followed(plan, form, units, is_wanted)
    except (NotSimulated, NotSolved, EditRefused, BadScenarioStep) as error:
        return {"refusal": f"This cannot be followed: {error}"}


def _page(ask: BenchRequest) -> dict[str, Any]:
    """What is shown for a form: the form, and what came of it."""
    form, plan = ScenarioForm.of(ask.asked), ask.plan
    length, errors = read_form(form)
    page: dict[str, Any] = {
        "form": form,
        "errors": errors,
        "choices": [("", "nothing else"), *step_choices(plan, ask.units)],
        "query": form.query,
    }
    page["done"] = _done_rows(plan, form, ask.units)
    if errors:
        return page
    answer = ask.context.computed("hours", plan, {"form": asdict(form), "units": ask.units})
    return {**page, "answer": answer, **(answer.result or {}), "may_play": length <= _AT_ONCE}


def _done_rows(plan: Plan, form: ScenarioForm, units: System) -> list[dict[str, str]]:
    """What was done while it played; what cannot be read is told by the run itself."""
    rows = []
    for text in form.steps:
        with suppress(BadScenarioStep):
            rows.append({"text": text, "words": step_words(plan, step_of(plan, text), units)})
    return rows


def play(plan: Plan, asked: QueryDict, units: System, context: OfferContext) -> dict[str, Any]:
    """Levels to play on the side view, and how they would have gone undisturbed.

    Parameters
    ----------
    plan : Plan
        The plan
    asked : QueryDict
        The form's fields and every ``step`` done while it played; or ``trial``, the number of one
        of the resilience run's power cuts
    units : str
        System of units for words
    context : OfferContext
        Who asks

    Returns
    -------
    dict
        Plain data; ``refusal`` alone where it cannot be followed, ``waits`` with how far it is
        where it is to be asked for again
    """
    if "trial" in asked:
        return _trial(plan, asked.get("trial", ""), context)
    form = ScenarioForm.of(asked)
    length, errors = read_form(form)
    if errors:
        return {"refusal": next(iter(errors.values()))}
    if length > _AT_ONCE:
        return {"refusal": "Two days and less are played; follow a shorter time."}
    found = context.computed("play", plan, {"form": asdict(form), "units": units})
    if found.is_done:
        return dict(found.result)
    return {"waits": found.percent} if found.is_open else {"refusal": found.why or "Ask again."}


def play_form(
    plan: Plan, form: ScenarioForm, units: System, is_wanted: Callable[[float], bool] = always
) -> dict[str, Any]:
    """What is played of a form; parameters and result as :func:`follow_form`.

    Parameters
    ----------
    plan : Plan
        The plan
    form : ScenarioForm
        What is asked for
    units : System
        The reader's units
    is_wanted : callable
        Asked with the time reached, [s], whether to go on

    Returns
    -------
    dict of str to object
        Times and levels for the picture
    """
    try:
        steps = steps_of(plan, form)
        ways = 2 if steps else 1
        data = _to_play(plan, _through(plan, form, steps, lambda s: is_wanted(s / ways)))
        if steps:
            calm = _through(plan, form, (), lambda s: is_wanted(0.5 + 0.5 * s))
            data["calm"] = _to_play(plan, calm)
    except (NotSimulated, NotSolved, EditRefused, BadScenarioStep) as error:
        return {"refusal": f"This cannot be followed: {error}"}
    turns = [(f"turn:{r.id}", f"Turn the valve of {r.name} to") for r in plan.runs if r.valve]
    return {**data, "choices": [*step_choices(plan, units), *turns]}


def _trial(plan: Plan, number: str, context: OfferContext) -> dict[str, Any]:
    dynamic = dynamic_of(context, plan)
    if dynamic is None:
        return {"refusal": "It is still being followed; try again."}
    trials = dynamic.resilience.trials
    if not 0 <= whole_number(number) < len(trials):
        return {"refusal": "There is no such power cut."}
    trial = trials[whole_number(number)]
    begun = float(trial.dark.times[0])
    data = _to_play(plan, joined_through(plan, [trial.dark, trial.light]), begun)
    return {**data, "dark": [[0.0, float(trial.light.times[0]) - begun]]}


BENCH = Bench(
    "hours",
    "Over time",
    "Simulation over hours, with power cuts and failures",
    _page,
    choice="plans/benches/_hours_choice.html",
)
