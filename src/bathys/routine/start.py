"""The first season of a layout, day by day: filled, tried, cycled, sown, stocked, harvested."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from bathys.evaluation import Evaluation
from bathys.quality.season import season_of
from bathys.quality.sowing import rotas_of
from bathys.quality.starting import ready_after

__all__ = ["SeasonStep", "season_steps"]

_WEEK = 7.0
_CYCLES_FROM = 3  # days after filling: by then it was tried, and chlorine is gone (common practice)
_PLANTED_BEFORE = 3  # days before fish come, from which on there is some nitrate (assumed)


@dataclass(frozen=True, slots=True)
class SeasonStep:
    """A step of the first season.

    Attributes
    ----------
    key, title, text : str
        Its name, what is done, and how; slots of the text are filled with ``figures``
    part : str
        Id of the part it is done at; empty for the whole layout
    day, soonest, latest : int
        After the day on which it is filled, [d]; the ends are the same where nothing is in doubt
    figures : mapping of str to float
        What fills the slots of its text, [SI]
    """

    key: str
    title: str
    text: str
    part: str
    day: int
    soonest: int
    latest: int
    figures: Mapping[str, float] = field(default_factory=dict)


def _at(
    key: str, title: str, text: str, day: float, part: str = "", **figures: float
) -> SeasonStep:
    whole = round(day)
    return SeasonStep(key, title, text, part, whole, whole, whole, figures)


def season_steps(found: Evaluation) -> tuple[SeasonStep, ...]:
    """The first season of a plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    tuple of SeasonStep
        By their days. Fish and what hangs on them are left out where none stand in the plan, or
        where the water is not ready within ninety days
    """
    steps = [*_tried(), *_stocked(found), *_grown(found)]
    return tuple(sorted(steps, key=lambda step: (step.day, step.key)))


def _tried() -> Iterator[SeasonStep]:
    yield _at(
        "fill",
        "Fill it",
        "Fill to the marks with the pump off. Look under every joint, and again in the evening.",
        0,
    )
    yield _at(
        "try",
        "Try it with water alone",
        "Run it for a day. Time a bucket at each outlet, watch each siphon start and stop.",
        1,
    )
    yield _at(
        "cut",
        "Pull the plug once",
        "No vessel may run over, and the tank keeps its water. Plug in again: it must recover.",
        2,
    )


def _ready(found: Evaluation) -> tuple[int, int, int] | None:
    """Day on which fish may come, soonest and latest, after filling [d]."""
    if not found.plan.fish:
        return None
    about, soonest, latest = ready_after(found)
    if about is None:
        return None
    ends = (soonest if soonest is not None else about, latest if latest is not None else 90.0)
    return (
        _CYCLES_FROM + math.ceil(about),
        _CYCLES_FROM + math.floor(ends[0]),
        _CYCLES_FROM + math.ceil(ends[1]),
    )


def _stocked(found: Evaluation) -> Iterator[SeasonStep]:
    ready = _ready(found)
    if ready is None:
        return
    yield _at(
        "cycle",
        "Begin to feed the bacteria",
        "Chlorine must be out of the water. Give ammonia as the water bench says; test every other "
        "day.",
        _CYCLES_FROM,
    )
    words = (
        "Ammonia and nitrite have stayed under 0.5 mg/L for some days. Let fish get used to it. "
        "Feed a third at first, and more while the tests stay low."
    )
    yield SeasonStep("stock", "Fish may come", words, "", *ready)
    season = season_of(found)
    if season is not None:
        for cohort, day in season.harvest.items():
            if day is not None:
                name = found.plan.part(cohort).name
                at, soonest, latest = (moment + round(day) for moment in ready)
                yield SeasonStep(
                    f"fish-{cohort}",
                    f"{name} at their weight",
                    "Let them fast in clean water for some days before they are eaten.",
                    cohort,
                    at,
                    soonest,
                    latest,
                )


def _grown(found: Evaluation) -> Iterator[SeasonStep]:
    ready = _ready(found)
    if ready is None:
        return
    about, soonest, latest = (max(day - _PLANTED_BEFORE, _CYCLES_FROM) for day in ready)
    for rota in rotas_of(found):
        crop, part, name = rota.vessel.crop, rota.vessel.id, rota.vessel.name
        if crop is None:
            continue

        def step(
            key: str, title: str, text: str, after: float, part: str = part, **figures: float
        ) -> SeasonStep:
            days = (max(round(day + after), 0) for day in (about, soonest, latest))
            at, first, last = days
            return SeasonStep(f"{key}-{part}", title, text, part, at, first, last, figures)

        yield step(
            "sow",
            f"Sow for {name}",
            "Sow {sown:count} now and as many each week, so that seedlings are ready when nitrogen "
            "is.",
            -crop.grows.weeks_raised * _WEEK,
            sown=float(math.ceil(rota.sown)),
        )
        yield step(
            "plant",
            f"Plant out in {name}",
            "Begin with {planted:count}, and as many each week.",
            0.0,
            planted=float(math.ceil(rota.harvested)),
        )
        cut = float(math.floor(rota.harvested))
        words = "About {cut:count} each week from now on." if cut else "Pick as they ripen."
        grown = crop.grows.weeks_in_bed * _WEEK
        yield step("harvest", f"First harvest of {name}", words, grown, cut=cut)
