"""A season as tables: fish, harvest, what it took and cost, water tests, jobs, measurements."""

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from bathys.documents.tables import Amount, Cell, Table
from bathys.evaluation import Evaluation
from bathys.fieldlog import (
    ENTRY_KINDS,
    Logged,
    expected_of,
    held_against,
    measured_of,
    season_of,
)
from bathys.routine import jobs_of

__all__ = ["DatedEntry", "season_tables"]

_MOST_TESTS = 60
_IT_IS = {"within": "as planned", "at the edge": "at the edge", "outside": "otherwise"}
_WATER = ("temperature", "ph", "ammonia", "nitrite", "nitrate", "oxygen", "alkalinity")


@dataclass(frozen=True, slots=True)
class DatedEntry:
    """An entry of a log with its day.

    Attributes
    ----------
    on : str
        Its day, as it is printed
    entry : Logged
        The entry
    """

    on: str
    entry: Logged


def season_tables(found: Evaluation, rows: Sequence[DatedEntry]) -> tuple[Table, ...]:
    """A season as tables.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    rows : sequence of DatedEntry
        Its log, the oldest first

    Returns
    -------
    tuple of Table
        Without those that would be empty; what was not entered is not guessed
    """
    entries = [row.entry for row in rows]
    all_ = (
        _fish(found, entries),
        _harvest(found, entries),
        _took(found, entries),
        _water(rows),
        _jobs(found, entries),
        _measured(found, rows),
    )
    return tuple(table for table in all_ if table.rows)


def _fish(found: Evaluation, entries: Sequence[Logged]) -> Table:
    rows = [
        (
            found.plan.names.get(g.cohort, g.cohort),
            Amount(g.feed, "mass"),
            _or_nothing(g.first, "mass"),
            _or_nothing(g.last, "mass"),
            round(g.days),
            _or_nothing(g.conversion, "ratio"),
            g.deaths,
            g.moved,
            g.caught,
        )
        for g in season_of(entries, found).grown
    ]
    heads = (
        "Fish",
        "Feed given",
        "Each weighed first",
        "And last",
        "Days between",
        "Feed for each kg grown",
        "Died",
        "Moved",
        "Caught",
    )
    return Table("fish", "Fish", heads, tuple(rows))


def _or_nothing(value: float | None, quantity: str) -> Cell:
    return None if value is None else Amount(value, quantity)


def _harvest(found: Evaluation, entries: Sequence[Logged]) -> Table:
    rows = [
        (
            cut.what,
            round(cut.heads) or None,
            Amount(cut.mass, "mass") if cut.mass else None,
            Amount(cut.value, "money") if cut.value else None,
        )
        for cut in season_of(entries, found).harvests
    ]
    currency = found.plan.site.currency
    heads = ("What", "Heads", "Weight", f"Worth [{currency}]")
    return Table("harvest", "Harvest", heads, tuple(rows), total=3 if rows else None)


def _took(found: Evaluation, entries: Sequence[Logged]) -> Table:
    season, currency = season_of(entries, found), found.plan.site.currency
    rows: list[tuple[Cell, ...]] = []
    if season.topped_up:
        rows.append(("Water topped up", Amount(season.topped_up, "volume"), None))
    if season.sludge:
        rows.append(("Sludge let out", Amount(season.sludge, "volume"), None))
    if season.energy and entries:
        cost = Amount(season.energy_cost, "money")
        rows.append(("Energy of pumps and air, by the plan", Amount(season.energy, "energy"), cost))
    spent = list[tuple[str, float]]()
    for entry in entries:
        if entry.kind == "cost":
            spent.append((str(entry.values.get("what", "")), float(entry.values.get("value", 0.0))))
    totals = dict[str, float]()
    for what, value in spent:
        key = what.strip().casefold()
        totals[key] = totals.get(key, 0.0) + value
    names = {what.strip().casefold(): what.strip() for what, _ in reversed(spent)}
    dearest = sorted(totals.items(), key=lambda pair: (-pair[1], pair[0]))
    rows += [(names[key], None, Amount(value, "money")) for key, value in dearest]
    if season.hours:
        rows.append(("Work", Amount(season.hours, "hours"), None))
    grown = math.fsum(cut.mass for cut in season.harvests)
    cost_all = season.energy_cost + math.fsum(value for _, value in spent)
    note = ""
    if grown > 0.0 and spent:
        note = f"{cost_all / grown:.2f} {currency} for each kilogram harvested, work not counted."
    heads_cut = math.fsum(cut.heads for cut in season.harvests)
    if heads_cut > 0.0 and spent:
        note += f" {cost_all / heads_cut:.2f} {currency} for each head or fish."
    heads = ("What", "How much", f"Cost [{currency}]")
    return Table("took", "What it took", heads, tuple(rows), note, 2 if rows else None)


def _water(rows: Sequence[DatedEntry]) -> Table:
    tests = [row for row in rows if row.entry.kind == "water"][-_MOST_TESTS:]
    fields = {f.name: f for f in ENTRY_KINDS["water"].fields}
    told = [name for name in _WATER if any(name in row.entry.values for row in tests)]
    return Table(
        "water",
        "Water tests",
        ("Day", *(fields[name].label for name in told)),
        tuple(
            (row.on, *(_tested(row.entry, name, fields[name].quantity) for name in told))
            for row in tests
        ),
    )


def _tested(entry: Logged, name: str, quantity: str) -> Cell:
    value = entry.values.get(name)
    return None if value is None else Amount(float(value), quantity)


def _jobs(found: Evaluation, entries: Sequence[Logged]) -> Table:
    done = Counter[str]()
    for entry in entries:
        kind = ENTRY_KINDS.get(entry.kind)
        key = str(entry.values.get("job", "")) if entry.kind == "job" else ""
        done[key or (kind.job_at(entry.part) if kind is not None else "")] += 1
    days = max((e.age for e in entries), default=0.0)
    rows = [
        (job.title, job.days, done[job.key], math.floor(days / job.days) if job.days else None)
        for job in jobs_of(found)
        if done[job.key]
    ]
    heads = ("Job", "Every so many days", "Done", "Times it fell due")
    return Table("jobs", "Jobs", heads, tuple(rows))


def _measured(found: Evaluation, rows: Sequence[DatedEntry]) -> Table:
    """The last of each measurement beside what the plan expects."""
    last = dict[tuple[str, str], DatedEntry]()
    for row in rows:
        last[row.entry.kind, row.entry.part] = row
    cells = []
    for (kind, part), row in last.items():
        about = ENTRY_KINDS.get(kind)
        measured = measured_of(kind, part, row.entry.values, found) if about is not None else None
        if about is None or measured is None or part not in found.plan.names:
            continue
        expected = expected_of(kind, part, found)
        verdict = held_against(measured, expected)[1] if expected is not None else ""
        quantity = "time" if about.measures == "clock" else about.measures
        cells.append(
            (
                about.title,
                found.plan.names[part],
                row.on,
                Amount(measured.value, quantity),
                _or_nothing(expected.value if expected is not None else None, quantity),
                _IT_IS.get(verdict),
            )
        )
    heads = ("What", "At", "Last on", "Measured", "Expected", "It is")
    return Table("measured", "Measured beside the plan", heads, tuple(cells))
