"""What every way out of a vessel that sets a level has, whatever its kind."""

from abc import abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, ClassVar

from pydantic import Field

from bathys.physics.siphon import (
    BREAK_SHARE_PLAIN,
    START_FROUDE,
    Banded,
    elbow_start_share,
    start_flow,
)
from bathys.plan.base import Kind, LeadsOn
from bathys.plan.bore import Bore
from bathys.plan.quantities import Identifier

__all__ = [
    "BREAKS_AT",
    "BREAKS_AT_DOUBT",
    "END_ELBOW",
    "STARTS_AT",
    "STARTS_AT_DOUBT",
    "Drilled",
    "Outlet",
    "Siphon",
    "WayOut",
    "as_measured",
]


@dataclass(frozen=True, slots=True)
class Drilled:
    """Holes that let water out of a vessel.

    Attributes
    ----------
    field : str
        The part's field that counts them
    count : int
        How many
    area : float
        Of all together, [m²]
    height : float
        Over the floor, [m]
    top : float or None
        Level from which they drain what the outlet holds, [m]; none where they are all there is
    """

    field: str
    count: int
    area: float
    height: float
    top: float | None


class WayOut(Kind, LeadsOn):
    """A way out of a vessel that sets a level.

    Heights and levels are over the vessel's floor.
    """

    HEIGHTS: ClassVar[tuple[tuple[str, str], ...]] = ()
    """By field, what may not stand above the vessel's rim, in words."""

    kind: Any
    stands_in: Identifier

    @property
    @abstractmethod
    def pipe(self) -> Bore | None:
        """The pipe it is made of; none for holes in a wall."""

    @property
    def pipe_bore(self) -> float:
        """Inside diameter of that pipe [m], 0 for none."""
        return self.pipe.inside if self.pipe is not None else 0.0

    @property
    def widest(self) -> Bore | None:
        """What of it takes most room across the vessel."""
        return self.pipe

    @property
    @abstractmethod
    def spills_from(self) -> float:
        """Level below which it carries nothing [m]."""

    @property
    def mesh(self) -> float | None:
        """Width of the openings of what is on it; none for an open one [m]."""
        return None

    @property
    def level_held(self) -> float:
        """Level it is there to hold, whatever leaks out below [m]."""
        return self.spills_from

    @property
    def drains_to(self) -> float:
        """Level it leaves when nothing comes any more [m]."""
        return self.spills_from

    @property
    def draws_to(self) -> float:
        """Level down to which it may draw the vessel, working as it was not meant to [m]."""
        return self.drains_to

    @property
    def is_closed(self) -> bool:
        """Whether it can run full over its crest and draw like a siphon, without being one."""
        return False

    @property
    def takes_from(self) -> float:
        """Level that its water is taken from, over the vessel's floor [m]."""
        return self.spills_from

    def leaves_at(self, bore: float) -> float:
        """Height at which the middle of its run, of such a bore [m], begins [m]."""
        return 0.0

    @property
    def drop_bore(self) -> float | None:
        """Bore of the upright pipe that its water drops through [m]; none if it does not drop."""
        return None

    @property
    def clear_area(self) -> float:
        """Area that it keeps free of media [m²]."""
        return 0.0

    def heights(self) -> Iterator[tuple[str, str, float]]:
        """What may not stand above the vessel's rim: field, words, height [m]."""
        for field, words in self.HEIGHTS:
            yield field, words, getattr(self, field)


END_ELBOW: Any = Field(
    default=None,
    title="Last elbow turned up by",
    description="0° level, 90° straight up: it holds the siphon back, so that it starts with "
    "less water. None for a tail with no elbow at its end.",
)


STARTS_AT: Any = Field(
    default=None,
    title="Starts at, as measured",
    description="Froude number of the spill that starts it; none takes what is usual.",
)
STARTS_AT_DOUBT: Any = Field(default=None, title="Doubt of that", description="One spread.")
BREAKS_AT: Any = Field(
    default=None,
    title="Stops at, as measured",
    description="Share of its full flow that may come in while it stops; none takes what is usual.",
)
BREAKS_AT_DOUBT: Any = Field(default=None, title="Doubt of that", description="One spread.")


def as_measured(value: float | None, doubt: float | None, usual: Banded) -> Banded:
    """A coefficient as it was measured on the siphon itself, or as it is usual.

    Parameters
    ----------
    value, doubt : float or None
        As measured, and one spread of it, [-]
    usual : Banded
        Where nothing was measured; its band, scaled, also where no doubt is told

    Returns
    -------
    Banded
        The coefficient
    """
    if value is None:
        return usual
    if doubt is None:
        scale = value / usual.value
        return Banded(value, scale * usual.low, scale * usual.high)
    return Banded(value, max(value - doubt, 0.1 * value), value + doubt)


class Siphon(WayOut):
    """A way out that fills a vessel to its crest and then drains it to its intake, by itself."""

    GROUP = "siphons"
    END: ClassVar[str] = "tail"
    CREST: ClassVar[str]
    """What its water spills over, in words."""

    if TYPE_CHECKING:
        # Each kind declares them: files keep their order of fields.
        end_elbow: float | None = None
        starts_at: float | None = None
        starts_at_doubt: float | None = None
        breaks_at: float | None = None
        breaks_at_doubt: float | None = None

    @property
    def has_air_tube(self) -> bool | None:
        """Whether an air tube breaks it; none for a kind that has no use for one."""
        return None

    @classmethod
    def of_version(cls, data: dict[str, Any], version: int) -> dict[str, Any]:
        """Up to version 2 a siphon had a trap at its tail's end, or none."""
        if version < 3 and "trap" in data:
            data["end_elbow"] = 90.0 if data.pop("trap") else None
        return data

    @property
    def crest_range(self) -> tuple[float, float]:
        """Lowest and highest setting of its crest; twice the same of one that is fixed [m]."""
        return self.spills_from, self.spills_from

    @property
    def start_froude(self) -> Banded:
        """Froude number of the spill that starts it, with its doubt [-]."""
        return as_measured(self.starts_at, self.starts_at_doubt, START_FROUDE)

    @property
    def start_share(self) -> Banded:
        """Share of that spill that does, with what its tail ends in [-]."""
        return elbow_start_share(self.end_elbow or 0.0)

    @property
    def least_start(self) -> Banded:
        """Spill that starts it, with its doubt [m³/s]."""
        froude, share = self.start_froude, self.start_share
        return Banded(
            share.value * start_flow(self.pipe_bore, froude.value),
            share.low * start_flow(self.pipe_bore, froude.low),
            share.high * start_flow(self.pipe_bore, froude.high),
        )

    @property
    def break_share(self) -> Banded:
        """Share of its full flow at the intake that may still come while it breaks, with its
        doubt [-]."""
        return as_measured(self.breaks_at, self.breaks_at_doubt, BREAK_SHARE_PLAIN)

    @property
    @abstractmethod
    def intake_height(self) -> float:
        """Level at which air gets in [m]."""

    @property
    def takes_from(self) -> float:
        """Its intake [m]."""
        return self.intake_height

    @property
    def drains_to(self) -> float:
        """Its intake [m]."""
        return self.intake_height

    @property
    def drop_bore(self) -> float | None:
        """Of the pipe that has to run full [m]."""
        return self.pipe_bore


class Outlet(WayOut):
    """A way out that holds a level and passes all water over it."""

    GROUP = "outlets"
    END: ClassVar[str] = "out"

    @property
    def drilled(self) -> Drilled | None:
        """Its holes, if it can have any."""
        return None

    @property
    def has_small_holes(self) -> bool:
        """Whether holes low down drain what it holds."""
        return self.drilled is not None and self.drilled.count > 0 and self.drilled.top is not None
