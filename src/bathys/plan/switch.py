"""What every switch of a pump has, whatever its kind."""

from dataclasses import dataclass
from typing import Any, ClassVar

from bathys.plan.base import Kind

__all__ = ["Band", "Clock", "Switch"]

_JUST = 1e-6  # a time so close to a turn counts as after it [s]


@dataclass(frozen=True, slots=True)
class Clock:
    """Turns of running and resting, the first beginning at time 0.

    Attributes
    ----------
    runs, rests : float
        How long each, [s]
    """

    runs: float
    rests: float

    @property
    def turn(self) -> float:
        """From one start to the next [s]."""
        return self.runs + self.rests

    @property
    def share(self) -> float:
        """Share of the time it runs [-]."""
        return self.runs / (self.runs + self.rests)

    def is_on(self, time: float) -> bool:
        """Whether it runs at a time [s]."""
        return (time + _JUST) % self.turn < self.runs

    def next_change(self, time: float) -> float:
        """When it next starts or stops after a time [s]."""
        into = (time + _JUST) % self.turn
        return time + _JUST - into + (self.runs if into < self.runs else self.turn)


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
    def band(self) -> Band | None:
        """Its levels, if it goes by the water."""
        return None

    def fault(self, inlet_height: float) -> tuple[str, str] | None:
        """A field that does not go with the pump's inlet [m] or another field, and a sentence on
        it; none if all do."""
        return None
