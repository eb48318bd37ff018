"""What a season came to, in sentences."""

from collections.abc import Sequence
from datetime import datetime

from bathys.evaluation import Evaluation
from bathys.fieldlog import Logged, rotas_kept, season_of, stock_of
from bathys.instruments import drying_of
from bathys.units import System, fill_sentence
from bathys_web.plans.models import LogEntry

__all__ = ["season_words"]

_RIPE = 0.9  # of their weight at harvest, from which on fish are told to be ready (assumed) [-]


def season_words(
    entries: Sequence[LogEntry], found: Evaluation, now: datetime, units: System
) -> list[str]:
    """What a season came to so far, in sentences.

    Parameters
    ----------
    entries : sequence of LogEntry
        The log
    found : Evaluation
        The numbers of the plan
    now : datetime
        From when ages are counted
    units : System
        The reader's units

    Returns
    -------
    list of str
        What was entered; what was not is not told
    """
    rows = [e.logged(now) for e in entries]
    season, currency = season_of(rows, found), found.plan.site.currency
    said: list[tuple[str, dict[str, float | str]]] = []
    for row in season.grown:
        name = found.plan.names.get(row.cohort, row.cohort)
        if row.feed > 0.0:
            said.append(
                ("{part:words}: {feed:mass} of feed given.", {"part": name, "feed": row.feed})
            )
        if row.first is not None and row.last is not None and row.days > 0.0:
            said.append(
                (
                    "{part:words}: a fish went from {first:mass} to {last:mass} in {days:count} "
                    "days.",
                    {"part": name, "first": row.first, "last": row.last, "days": row.days},
                )
            )
        if row.conversion is not None:
            said.append(
                (
                    "{part:words}: {feed:ratio} kg of feed for each kilogram that they grew.",
                    {"part": name, "feed": row.conversion},
                )
            )
    said += _stock(rows, found)
    said += _rotas(rows, found)
    for cut in season.harvests:
        heads = "{heads:count} heads, " if cut.heads else ""
        worth = ", worth {value:price} {currency:words}" if cut.value else ""
        said.append(
            (
                f"{{what:words}}: {heads}{{mass:mass}} harvested{worth}.",
                {
                    "what": cut.what,
                    "heads": cut.heads,
                    "mass": cut.mass,
                    "value": cut.value,
                    "currency": currency,
                },
            )
        )
    if season.spent > 0.0:
        words = "{value:price} {currency:words} spent."
        said.append((words, {"value": season.spent, "currency": currency}))
    if season.hours > 0.0:
        said.append(("{time:hours} of work.", {"time": season.hours}))
    if season.topped_up > 0.0:
        words = "{water:volume} topped up, {day:volume} a day; by the plan {dry:volume} dry off."
        dry = 86400.0 * drying_of(found.plan)
        day = season.topped_up / max(season.days, 1.0)
        said.append((words, {"water": season.topped_up, "day": day, "dry": dry}))
    if season.sludge > 0.0:
        said.append(("{sludge:volume} of sludge let out.", {"sludge": season.sludge}))
    if said:
        said.append(
            (
                "Pumps and air took about {energy:energy} in {days:count} days, by the plan.",
                {"energy": season.energy, "days": season.days},
            )
        )
    return [fill_sentence(sentence, figures, units, {}) for sentence, figures in said]


def _stock(rows: Sequence[Logged], found: Evaluation) -> list[tuple[str, dict[str, float | str]]]:
    """How many fish there are now, where others are than the plan has; fry that were seen."""
    said: list[tuple[str, dict[str, float | str]]] = []
    for row in stock_of(rows, found):
        name = found.plan.names[row.cohort]
        if row.is_changed:
            told = {
                "came": row.came,
                "died": row.died,
                "moved": row.moved,
                "caught": row.caught,
            }
            parts = "".join(f", {{{word}:count}} {word}" for word, count in told.items() if count)
            first = "{planned:count} planned" if row.counted is None else "{counted:count} counted"
            figures: dict[str, float | str] = {
                "part": name,
                "planned": row.planned,
                "counted": row.counted or 0,
                "now": row.count,
                "mass": row.mass,
            }
            said.append(
                (
                    f"{{part:words}}: {first}{parts}: {{now:count}} now, about {{mass:mass}} in "
                    "all.",
                    figures | told,
                )
            )
        harvest = found.plan.part(row.cohort).harvest_each
        if row.is_weighed and row.each >= _RIPE * harvest and row.count:
            words = (
                "{part:words}: each weighs {each:mass}, and {harvest:mass} is planned for harvest. "
                "Keep those to be eaten unfed in clean water for two or three days first."
            )
            said.append((words, {"part": name, "each": row.each, "harvest": harvest}))
        if row.fry is not None:
            words = "{part:words}: about {fry:count} eggs or fry were seen last."
            said.append((words, {"part": name, "fry": row.fry}))
    return said


def _rotas(rows: Sequence[Logged], found: Evaluation) -> list[tuple[str, dict[str, float | str]]]:
    """What was sown and harvested in four weeks, beside the rota."""
    said: list[tuple[str, dict[str, float | str]]] = []
    for row in rotas_kept(rows, found):
        words = (
            "{part:words}, last four weeks: {sown:count} sown or planted out, {cut:count} heads "
            "harvested. Its rota has {seeds:count} seeds and {plants:count} plants."
        )
        figures: dict[str, float | str] = {
            "part": found.plan.names[row.vessel],
            "sown": row.sown,
            "cut": row.harvested,
            "seeds": row.seeds,
            "plants": row.plants,
        }
        gaps = " So few leave places empty." if row.leaves_gaps else ""
        said.append((words + gaps, figures))
    return said
