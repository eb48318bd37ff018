"""Spells of the day, or of the week."""

from typing import Annotated, Any, ClassVar, Literal, Self, get_args

from pydantic import Field, model_validator

from bathys.plan.base import Part
from bathys.plan.quantities import Clock as Daytime
from bathys.plan.quantities import Months, Time
from bathys.plan.switch import Clock, Switch

__all__ = ["DAYS", "MODEL", "Spell", "Spells"]

_DAY = 86400.0
_QUARTER = 900.0  # pins of a mechanical timer stand so far apart [s]

Day = Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
DAYS: tuple[str, ...] = get_args(Day)
"""Days of the week, the first that on which the plan starts."""


class Spell(Part):
    """From one time of the day to another; one that ends before it begins goes over midnight."""

    begins: Daytime
    ends: Daytime


AllSpells = Annotated[tuple[Spell, ...], Field(max_length=24)]


class Spells(Switch):
    """Runs at set times of the day, every day or on some days of the week."""

    CHOICE: ClassVar[str] = "the time of the day"

    kind: Literal["spells"] = "spells"
    spells: AllSpells = Field(
        title="On", description="A spell a line, such as 6:00 to 20:00; up to 24 of them."
    )
    within_on: Time | None = Field(
        default=None,
        title="Within them on for",
        description="In turns, such as 15 min on and 15 min off; none to run all through.",
    )
    within_off: Time | None = Field(default=None, title="and off for")
    days: Annotated[tuple[Day, ...], Field(max_length=7)] = Field(
        default=(), title="On these days", description="None picked: every day."
    )
    winter_spells: AllSpells = Field(
        default=(), title="On in winter", description="Where that differs; a spell a line."
    )
    season: Literal["summer", "winter"] = Field(
        default="summer", title="Set for", description="The plan is worked out so."
    )
    winter_months: Months = Field(default=5, title="Months of winter")
    grid: Literal["minute", "quarter"] = Field(
        default="minute",
        title="The timer is set",
        description="A mechanical one has a pin for each quarter of an hour.",
    )

    @classmethod
    def usual(cls) -> dict[str, Any]:
        return {"spells": [{"begins": 21600.0, "ends": 72000.0}]}

    @property
    def clock(self) -> Clock:
        """As it is set now."""
        is_winter = self.season == "winter" and self.winter_spells
        return self._clock_of(self.winter_spells if is_winter else self.spells)

    @property
    def share_a_year(self) -> float:
        """Share of the year that it runs, both seasons counted [-]."""
        cold = self.winter_months / 12.0 if self.winter_spells else 0.0
        winter = self._clock_of(self.winter_spells).share if self.winter_spells else 0.0
        return (1.0 - cold) * self._clock_of(self.spells).share + cold * winter

    def _clock_of(self, spells: tuple[Spell, ...]) -> Clock:
        """Stretches of one day, or of the seven of a week."""
        whole: list[tuple[float, float]] = []
        days = [DAYS.index(d) for d in self.days] or [0]
        turn = 7.0 * _DAY if self.days else _DAY
        for day in days:
            for spell in spells:
                begin, end = day * _DAY + spell.begins, day * _DAY + spell.ends
                if end <= begin:
                    end += _DAY
                if end > turn:  # over midnight at the end of the turn
                    whole += [(begin, turn), (0.0, end - turn)]
                else:
                    whole.append((begin, end))
        return Clock(tuple(p for s in _joined(whole) for p in self._within(s)), turn)

    def _within(self, stretch: tuple[float, float]) -> list[tuple[float, float]]:
        """The turns within a stretch."""
        begin, end = stretch
        if self.within_on is None or self.within_off is None:
            return [stretch]
        found = []
        while begin < end:
            found.append((begin, min(begin + self.within_on, end)))
            begin += self.within_on + self.within_off
        return found

    @model_validator(mode="after")
    def _can_be_set(self) -> Self:
        if not self.spells:
            raise ValueError("it must be on at some time: write a spell, such as 6:00 to 20:00")
        if (self.within_on is None) != (self.within_off is None):
            raise ValueError("turns within a spell need both, how long it is on and how long off")
        if self.within_on is not None and self.within_on + (self.within_off or 0.0) < _SHORTEST:
            raise ValueError("turns within a spell must take two minutes or more together")
        for spell in (*self.spells, *self.winter_spells):
            times = (spell.begins, spell.ends)
            if self.grid == "quarter" and any(t % _QUARTER for t in times):
                raise ValueError("a mechanical timer can only be set to quarters of an hour")
        return self


_SHORTEST = 120.0  # turn within a spell [s]


def _joined(stretches: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Stretches in order, those that touch made one."""
    found: list[tuple[float, float]] = []
    for begin, end in sorted(stretches):
        if found and begin <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], end))
        else:
            found.append((begin, end))
    return found


MODEL = Spells
