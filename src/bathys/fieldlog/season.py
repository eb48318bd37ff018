"""What a season came to, by its log: feed, growth, losses, water, harvest."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from bathys.evaluation import Evaluation
from bathys.fieldlog.logged import Logged, mass_each, total_of
from bathys.fieldlog.stock import count_at
from bathys.quality.power import power_of

__all__ = ["Grown", "Harvest", "Season", "season_of"]

_YEAR = 365.0  # [d]
_APART = 14.0  # days between two weighings from which growth is told (assumed)


@dataclass(frozen=True, slots=True)
class Grown:
    """What became of the fish of one cohort.

    Attributes
    ----------
    cohort : str
        Its id
    feed : float
        All feed that was entered, [kg]
    deaths, moved, caught : int
        Fish that died, that were moved elsewhere, and that were caught
    first, last : float or None
        Mean weight of a fish when it was first and last weighed, [kg]; none where it was not
    days : float
        Between these, [d]
    conversion : float or None
        Feed over growth between the two, [-]; none where they lie too near, or nothing grew
    """

    cohort: str
    feed: float
    deaths: int
    moved: int
    caught: int
    first: float | None
    last: float | None
    days: float
    conversion: float | None


@dataclass(frozen=True, slots=True)
class Harvest:
    """What was harvested of one thing.

    Attributes
    ----------
    what : str
        As it was called
    heads : float
        How many
    mass, value : float
        Weight, [kg], and what it was worth, [money]
    """

    what: str
    heads: float
    mass: float
    value: float


@dataclass(frozen=True, slots=True)
class Season:
    """All of it.

    Attributes
    ----------
    days : float
        Since the first entry, [d]
    grown : tuple of Grown
        By cohort
    harvests : tuple of Harvest
        The heaviest first
    topped_up, sludge : float
        Water topped up and sludge let out, [m³]
    energy : float
        What pumps and air took by the plan, [kWh]
    spent, hours : float
        Money that was spent, [money], and time that was worked, [s]
    energy_cost : float
        What that energy cost by the prices of day and night, [money]
    """

    days: float
    grown: tuple[Grown, ...]
    harvests: tuple[Harvest, ...]
    topped_up: float
    sludge: float
    energy: float
    spent: float = 0.0
    hours: float = 0.0
    energy_cost: float = 0.0

    @property
    def feed(self) -> float:
        """All feed that was entered [kg]."""
        return math.fsum(row.feed for row in self.grown)

    @property
    def value(self) -> float:
        """What the harvest was worth [money]."""
        return math.fsum(row.value for row in self.harvests)


def season_of(entries: Sequence[Logged], found: Evaluation) -> Season:
    """What a season came to.

    Parameters
    ----------
    entries : sequence of Logged
        The log, in any order
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    Season
        By what was entered; what was not is not guessed
    """
    days = max((e.age for e in entries), default=0.0)
    of_kind = {
        kind: [e for e in entries if e.kind == kind]
        for kind in (
            "feed",
            "deaths",
            "moved",
            "came",
            "caught",
            "counted",
            "netted",
            "top_up",
            "purge",
            "harvest",
            "cost",
            "hours",
        )
    }
    cohorts = [
        *(c.id for c in found.plan.fish),
        *dict.fromkeys(e.part for e in of_kind["feed"] if found.plan.part(e.part) is None),
    ]
    return Season(
        days,
        tuple(_grown(id_, of_kind, found) for id_ in cohorts),
        _harvests([*of_kind["harvest"], *_fish_caught(of_kind["caught"], found)]),
        total_of(of_kind["top_up"], "volume"),
        total_of(of_kind["purge"], "volume"),
        days * math.fsum(c.energy for c in power_of(found)),
        total_of(of_kind["cost"], "value"),
        total_of(of_kind["hours"], "time"),
        days / _YEAR * math.fsum(c.cost for c in power_of(found)),
    )


def _grown(id_: str, of_kind: dict[str, list[Logged]], found: Evaluation) -> Grown:
    own = {kind: [e for e in rows if e.part == id_] for kind, rows in of_kind.items()}
    weighed = sorted(own["netted"], key=lambda e: -e.age)
    deaths, moved, caught = (
        round(total_of(own[kind], "count")) for kind in ("deaths", "moved", "caught")
    )
    first, last = (mass_each(weighed[n]) if weighed else None for n in (0, -1))
    between = weighed[0].age - weighed[-1].age if weighed else 0.0
    cohort = found.plan.part(id_)
    conversion = None
    if between >= _APART and cohort is not None and first is not None and last is not None:
        eaten = [e for e in own["feed"] if weighed[-1].age <= e.age <= weighed[0].age]
        every = [e for rows in own.values() for e in rows]
        ends = [count_at(every, cohort.count, weighed[n].age) for n in (0, -1)]
        gain = (last - first) * 0.5 * sum(ends)
        fed = total_of(eaten, "mass") - total_of(eaten, "left")
        conversion = fed / gain if gain > 0.0 and fed > 0.0 else None
    feed = total_of(own["feed"], "mass") - total_of(own["feed"], "left")
    return Grown(id_, feed, deaths, moved, caught, first, last, between, conversion)


def _fish_caught(entries: Sequence[Logged], found: Evaluation) -> list[Logged]:
    """Fish that were caught, as harvests of what they are called."""
    return [
        replace(e, values={**e.values, "what": found.plan.names.get(e.part, e.part)})
        for e in entries
    ]


def _harvests(entries: Sequence[Logged]) -> tuple[Harvest, ...]:
    by_name: dict[str, list[Logged]] = {}
    for entry in entries:
        by_name.setdefault(str(entry.values["what"]).strip().casefold(), []).append(entry)
    rows = [
        Harvest(
            str(own[0].values["what"]).strip(),
            total_of(own, "count"),
            total_of(own, "mass"),
            total_of(own, "value"),
        )
        for own in by_name.values()
    ]
    return tuple(sorted(rows, key=lambda row: (-row.mass, -row.heads, row.what)))
