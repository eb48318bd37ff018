"""What drifts by a plan's log, and how long until it does harm."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from bathys.evaluation import Evaluation
from bathys.fieldlog import ENTRY_KINDS, Measured, Trend, ewma_news, expected_of, trend_of
from bathys.units import System, fill_sentence
from bathys_web.plans.models import LogEntry

__all__ = ["CLEANED", "News", "last_cleaned", "news_of"]

CLEANED = ("strainer-", "clean-", "siphon-")
"""Beginnings of the keys of jobs after which a series begins anew."""

_CLEANED_OFF = ("bucket", "cycle", "watts")  # what a cleaning changes

Series = Sequence[tuple[tuple[str, str], Sequence[tuple[LogEntry, Measured]]]]


@dataclass(frozen=True, slots=True)
class News:
    """Something that drifts or that is not as it should be.

    Attributes
    ----------
    words : str
        What it is
    days : float or None
        Until it does harm if it goes on so and nothing is cleaned, [d]; none where that is not
        known, or where cleaning is no help
    """

    words: str
    days: float | None = None


def last_cleaned(entries: Sequence[LogEntry]) -> datetime | None:
    """When anything was cleaned last.

    Parameters
    ----------
    entries : sequence of LogEntry
        The log

    Returns
    -------
    datetime or None
        None where nothing ever was
    """
    return max(
        (e.at for e in entries if e.kind == "job" and str(e.values["job"]).startswith(CLEANED)),
        default=None,
    )


def news_of(
    series: Series, entries: Sequence[LogEntry], found: Evaluation, now: datetime, units: System
) -> Iterator[News]:
    """What drifts since the last cleaning, and what the water says.

    Parameters
    ----------
    series : sequence of ((str, str), sequence of (LogEntry, Measured))
        Measurements by kind and part, each in its order
    entries : sequence of LogEntry
        The log, the latest first
    found : Evaluation
        The numbers of the plan
    now : datetime
        From when days are counted
    units : System
        The reader's units

    Yields
    ------
    News
        Each with the days until harm, where those are known
    """
    since = last_cleaned(entries)
    after = {
        about: [
            r for r in rows if about[0] not in _CLEANED_OFF or since is None or r[0].at >= since
        ]
        for about, rows in series
    }
    trends = {
        about: trend_of([-e.age(now) for e, _ in rows], [m.value for _, m in rows])
        for about, rows in after.items()
    }
    told = set[tuple[str, str]]()
    for duty in found.duties.values():
        runs = [("bucket", d.run) for d in duty.deliveries]
        down = [(about, t) for about in runs if (t := trends.get(about)) and t.change < 0.0]
        if len(down) > 1 and len(down) == sum(1 for about in runs if about in after):
            told |= {about for about, _ in down}
            told |= {about for about in after if about[0] == "cycle"}
            ages = [after[about][-1][0].age(now) for about, _ in down]
            yield _all_down(duty.pump.name, down, ages, found, units)
    for (kind, part), rows in after.items():
        if (kind, part) not in told:
            yield from _one(kind, part, rows, trends[kind, part], found, now, units)
    yield from _water_news(entries, found, units)


def _all_down(
    pump: str,
    down: Sequence[tuple[tuple[str, str], Trend]],
    ages: Sequence[float],
    found: Evaluation,
    units: System,
) -> News:
    """All that a pump delivers grows less."""
    changes = [-trend.change for _, trend in down]
    stops = [
        s
        for (about, trend), age in zip(down, ages, strict=True)
        if (s := _stop(*about, trend.days_until, age, found))
    ]
    return _news(
        "All that {pump:words} delivers is down, {least:percent} to {most:percent} in "
        "{days:count} days: most likely its intake or film in the pipes. Clean them.",
        {
            "pump": pump,
            "least": min(changes),
            "most": max(changes),
            "days": round(down[0][1].days),
        },
        min(stops, key=lambda s: s.days, default=None),
        units,
    )


def _one(
    kind: str,
    part: str,
    rows: Sequence[tuple[LogEntry, Measured]],
    trend: Trend | None,
    found: Evaluation,
    now: datetime,
    units: System,
) -> Iterator[News]:
    """What one series tells, if anything."""
    name, title = found.plan.names[part], ENTRY_KINDS[kind].title.lower()
    expected = expected_of(kind, part, found)
    if trend is not None:
        way = "up" if trend.change > 0.0 else "down"
        yield _news(
            f"{{part:words}}: {title} is {way} {{change:percent}} in {{days:count}} days.",
            {"part": name, "change": abs(trend.change), "days": round(trend.days)},
            _stop(kind, part, trend.days_until, rows[-1][0].age(now), found),
            units,
        )
    elif expected is not None and len(rows) > 1:
        values, spread = [m.value for _, m in rows], max(expected.spread, rows[-1][1].spread)
        if ewma_news(values, expected.value, spread)[-1].is_news:
            sentence = f"{{part:words}}: {title} keeps off what the plan expects. Look for what "
            yield _news(sentence + "changed.", {"part": name}, None, units)


@dataclass(frozen=True, slots=True)
class _Stop:
    """A siphon that no longer starts or stops."""

    siphon: str
    sentence: str
    days: float
    is_foul: bool
    """Whether it gets too little: what gets too much is not helped by cleaning."""


def _stop(
    kind: str,
    part: str,
    days_until: Callable[[float], float | None],
    age: float,
    found: Evaluation,
) -> _Stop | None:
    """When a siphon no longer starts or stops, if its flow goes on so; it was last measured so many
    days ago."""
    if kind != "bucket":
        return None
    target = found.plan.owner_of(found.plan.part(part).end)
    for bed in found.beds:
        if bed.bed.id == target:
            window = bed.cycle.window
            for limit, words, is_foul in (
                (window.start.value, "no longer starts", True),
                (window.stop.value, "no longer stops", False),
            ):
                days = days_until(limit)
                if days is not None:
                    left = max(days - age, 0.0)
                    when = "in about {until:count} days" if round(left) > 1 else "by tomorrow"
                    sentence = f" At this pace {{siphon:words}} {words} {when}."
                    return _Stop(bed.siphon.name, sentence, left, is_foul)
    return None


def _news(
    sentence: str, figures: Mapping[str, float | str], stop: _Stop | None, units: System
) -> News:
    if stop is None:
        return News(fill_sentence(sentence, figures, units, {}))
    told = {**figures, "siphon": stop.siphon, "until": round(stop.days)}
    words = fill_sentence(sentence + stop.sentence, told, units, {})
    return News(words, stop.days if stop.is_foul else None)


def _water_news(entries: Sequence[LogEntry], found: Evaluation, units: System) -> Iterator[News]:
    """What the last water test says that fish do not stand."""
    last = next((e for e in entries if e.kind == "water"), None)
    if last is None or not found.plan.fish:
        return
    most, value = min(c.stands.most_nitrite for c in found.plan.fish), last.values.get("nitrite")
    if value is not None and float(value) > most:
        yield _news(
            "Nitrite is {value:dissolved}, and the fish stand {most:dissolved}. Feed nothing, "
            "change a fifth of the water, and test again tomorrow.",
            {"value": float(value), "most": most},
            None,
            units,
        )
