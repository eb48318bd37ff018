"""The jobs of a plan: by what it loads up, by what is told in it, and by common practice."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

from bathys.evaluation import Evaluation
from bathys.evaluation.reserve import reserve_of
from bathys.quality.filters import due_of
from bathys.quality.sludge import sludge_of
from bathys.quality.solids import solids_of
from bathys.quality.sowing import rotas_of

__all__ = ["Job", "jobs_of"]

_DAY = 86400.0
_SHARE = 0.5  # of the days that water lasts, after which it is topped up (common practice) [-]
_RARELY = 365  # what comes more rarely is asked for once a year [days]
# Common practice [days].
_TEST, _STRAINER, _SIPHON, _STONE, _POWER_CUT, _PROTECTION = 7, 14, 30, 60, 180, 90
_GRADE = 30  # while fish are young (common practice) [days]
_YOUNG = 0.3  # of their weight at harvest, below which they are graded (assumed) [-]


@dataclass(frozen=True, slots=True)
class Job:
    """A job that comes again.

    Attributes
    ----------
    key : str
        Its name, by which it is known from one revision to the next
    title, text : str
        What is done; slots of the text are filled with ``figures``
    part : str
        Id of the part it is done to; empty for the whole layout
    days : int
        From one time to the next, [days]
    comes_of : str
        ``load`` where that is worked out, ``told`` where it is told in the plan, ``practice``
        where it is common practice
    """

    key: str
    title: str
    text: str
    part: str
    days: int
    comes_of: Literal["load", "told", "practice"]
    figures: Mapping[str, float] = field(default_factory=dict)
    """What fills the slots of its text, [SI]."""


def jobs_of(found: Evaluation) -> tuple[Job, ...]:
    """All jobs of a plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Job
        The most frequent first. An interval that is worked out is that of the early end of its
        doubt, in whole days
    """
    return tuple(sorted(_jobs(found), key=lambda job: (job.days, job.key)))


def _jobs(found: Evaluation) -> Iterator[Job]:
    plan = found.plan
    solids = solids_of(found)
    if plan.fish or solids.feed > 0.0:
        each = " {feed:mass} a day in all are planned." if solids.feed > 0.0 else ""
        yield Job(
            "feed",
            "Feed",
            f"As much as is eaten in a few minutes, in two or three meals.{each}",
            "",
            1,
            "practice",
            {"feed": solids.feed},
        )
    yield Job(
        "look",
        "Look at it",
        "Fish, the flow at every outlet, levels at their marks, drips, and whether each siphon has "
        "run.",
        "",
        1,
        "practice",
    )
    yield from _water(found)
    for result in solids.filters:
        due = due_of(result, solids.held(result.run.id), found.water.kinematic_viscosity)
        every = result.filter.clean_every
        if every is None and due.days is None:
            continue
        days = every / _DAY if every is not None else due.days or 1.0
        yield Job(
            f"clean-{result.run.id}",
            f"Clean {result.filter.CHOICE} of {result.run.name}",
            result.filter.CLEANING,
            result.run.id,
            _whole(days),
            "load" if every is None else "told",
        )
    for settler in solids.settlers:
        sludge = sludge_of(solids, settler.vessel)
        if sludge is not None and sludge.soonest is not None:
            yield Job(
                f"sludge-{settler.vessel.id}",
                f"Let sludge out of {settler.vessel.name}",
                "About {purge:volume}, until it runs clear.",
                settler.vessel.id,
                _whole(sludge.soonest),
                "load",
                {"purge": sludge.purge},
            )
    for pump in plan.pumps:
        yield Job(
            f"strainer-{pump.id}",
            f"Clean the intake of {pump.name}",
            "Pull the plug first. Rinse its strainer, and look whether the rotor turns freely.",
            pump.id,
            _STRAINER,
            "practice",
        )
    for siphon in plan.siphons:
        yield Job(
            f"siphon-{siphon.id}",
            f"Clear {siphon.name}",
            "Roots and film out of its guard and slots; wipe the pipe within.",
            siphon.id,
            _SIPHON,
            "practice",
        )
    for stone in plan.air:
        yield Job(
            f"stone-{stone.id}",
            f"Clean {stone.name}",
            "Brush it, or put in a new one where bubbles grow large or few.",
            stone.id,
            _STONE,
            "practice",
        )
    yield from _grading(found)
    yield from _sowing(found)
    yield Job(
        "protection",
        "Press the test key of the residual-current protection",
        "It must trip at once. If it does not, switch off and call an electrician.",
        "",
        _PROTECTION,
        "practice",
    )
    yield Job(
        "power-cut",
        "Power cut, done for real",
        "Pull the plug and wait until all is still. Nothing may overflow; then watch every siphon "
        "and pump start again.",
        "",
        _POWER_CUT,
        "practice",
    )


def _water(found: Evaluation) -> Iterator[Job]:
    plan = found.plan
    if plan.fish:
        yield Job(
            "test",
            "Test the water",
            "Ammonia, nitrite, nitrate, pH, alkalinity and temperature. Every other day in the "
            "first six weeks.",
            "",
            _TEST,
            "practice",
        )
    for top_up in plan.top_ups:
        if top_up.visit is not None:
            yield Job(
                f"top-up-{top_up.id}",
                f"Top up: {top_up.name}",
                "To the mark, with water that has stood for a day or has its chlorine taken out.",
                top_up.id,
                _whole(top_up.visit.every / _DAY),
                "told",
            )
    if plan.top_ups:
        return
    for closer in dict.fromkeys(found.balance.closing.values()):
        reserve = reserve_of(found, closer)
        if reserve is not None and reserve.days is not None:
            yield Job(
                f"top-up-{closer}",
                f"Top up {plan.names[closer]}",
                "About {rate:volume} a day dry off or are taken out.",
                closer,
                _whole(_SHARE * reserve.days),
                "load",
                {"rate": reserve.rate},
            )


def _sowing(found: Evaluation) -> Iterator[Job]:
    for rota in rotas_of(found):
        if rota.harvested <= 0.0:
            continue
        # A bed of few large plants is sown for less often, and never for less than one.
        weeks = min(max(math.floor(1.0 / rota.harvested), 1), _RARELY // 7)
        seeds, ready = math.ceil(weeks * rota.sown), max(math.floor(weeks * rota.harvested), 1)
        yield Job(
            f"sow-{rota.vessel.id}",
            f"Sow for {rota.vessel.name}, and harvest it",
            f"Sow {seeds} seed{'s' * (seeds != 1)}; about {ready} "
            f"{'plants are' if ready != 1 else 'plant is'} ready.",
            rota.vessel.id,
            7 * weeks,
            "told",
        )


def _grading(found: Evaluation) -> Iterator[Job]:
    """Young fish grow apart, and the large ones eat what the small ones need, or these."""
    for cohort in found.plan.fish:
        if cohort.mass_each < _YOUNG * cohort.harvest_each:
            yield Job(
                f"grade-{cohort.id}",
                f"Grade {cohort.name} by size",
                "Part those half as long again as the others. Feed nothing the day before.",
                cohort.id,
                _GRADE,
                "practice",
            )


def _whole(days: float) -> int:
    """Whole days, at least one."""
    return min(max(math.floor(days + 1e-9), 1), _RARELY)
