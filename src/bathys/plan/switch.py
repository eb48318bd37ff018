"""What every switch of a pump has, whatever its kind."""

from dataclasses import dataclass
from typing import Any, ClassVar

from bathys.plan.base import Kind

__all__ = ["Band", "Clock", "Switch"]

_JUST = 1e-6  # a time so close to a turn counts as after it [s]


@dataclass(frozen=True, slots=True)
class Clock:
    """Spells of running that come again turn by turn, the first turn beginning at time 0.

    Attributes
    ----------
    spells : tuple of (float, float)
        When each begins and ends within the turn, in order and apart, [s]
    turn : float
        From one turn to the next, [s]
    """

    spells: tuple[tuple[float, float], ...]
    turn: float

    @classmethod
    def even(cls, runs: float, rests: float) -> "Clock":
        """Running and resting in even turns [s]."""
        return cls(((0.0, runs),), runs + rests)

    @property
    def share(self) -> float:
        """Share of the time it runs [-]."""
        return sum(end - begin for begin, end in self.spells) / self.turn

    @property
    def runs(self) -> float:
        """Its longest spell [s]; one that the turn's end cuts in two is one."""
        return self._longest(self.spells)

    @property
    def rests(self) -> float:
        """Its longest rest [s]."""
        ends = [0.0, *(t for spell in self.spells for t in spell), self.turn]
        rests = tuple((a, b) for a, b in zip(ends[::2], ends[1::2], strict=True) if b > a)
        return self._longest(rests)

    def _longest(self, stretches: tuple[tuple[float, float], ...]) -> float:
        lengths = [end - begin for begin, end in stretches]
        if len(stretches) > 1 and stretches[0][0] == 0.0 and stretches[-1][1] == self.turn:
            lengths.append(lengths[0] + lengths[-1])
        return max(lengths, default=0.0)

    def is_on(self, time: float) -> bool:
        """Whether it runs at a time [s]."""
        into = (time + _JUST) % self.turn
        return any(begin <= into < end for begin, end in self.spells)

    def next_change(self, time: float) -> float:
        """When a spell next begins or ends, or a turn does, after a time [s]."""
        into = (time + _JUST) % self.turn
        edges = (t for spell in self.spells for t in spell if t > into)
        return time + _JUST - into + min(edges, default=self.turn + self._first)

    @property
    def _first(self) -> float:
        return self.spells[0][0] if self.spells else 0.0


@dataclass(frozen=True, slots=True)
class Band:
    """Levels of the water that a pump stands in, over the vessel's floor.

    Attributes
    ----------
    stops, starts : float
        Where falling water stops it and rising water starts it, [m]
    """

    stops: float
    starts: float

    @property
    def middle(self) -> float:
        """Half way between the two [m]."""
        return 0.5 * (self.starts + self.stops)


class Switch(Kind):
    """What starts and stops a pump: a clock, the water, or neither."""

    GROUP: ClassVar[str] = "switches"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    REST: ClassVar[str] = ""
    """The field that says how long a clock lets the pump rest."""
    START: ClassVar[str] = ""
    """The field that says at which level the pump starts."""

    @classmethod
    def usual(cls) -> dict[str, Any]:
        """Its fields as they begin."""
        return {}

    @property
    def clock(self) -> Clock | None:
        """Its turns, if it goes by the clock."""
        return None

    @property
    def share_a_year(self) -> float | None:
        """Share of the year that a clock lets the pump run, its seasons counted [-]."""
        return self.clock.share if self.clock is not None else None

    def band_over(self, inlet_height: float) -> Band | None:
        """Its levels, if it goes by the water, of a pump with its inlet so high [m]."""
        return None

    def fault(self, inlet_height: float) -> tuple[str, str] | None:
        """A field that does not go with the pump's inlet [m] or another field, and a sentence on
        it; none if all do."""
        return None
