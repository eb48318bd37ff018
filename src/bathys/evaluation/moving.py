"""What it takes to move a layout: what must be drained and in which order, what each vessel still
weighs, and which joints come apart."""

from dataclasses import dataclass
from typing import Literal

from bathys.evaluation.result import Evaluation
from bathys.network.rest import crest_of
from bathys.parts.media import MEDIA
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.vessels import storage_of

__all__ = ["Drained", "MovingPlan", "Parted", "moving_of"]

Parting = Literal["unions", "hose", "cut"]
_WET = 0.10  # of a medium's heap stays wet after draining (assumed)
_LIFT_ALONE = 25.0  # what one person is asked to lift at most [kg] (common practice)


@dataclass(frozen=True, slots=True)
class Drained:
    """A vessel to be emptied.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    water : float
        In it with the pumps off, [m³]
    by_itself : float
        What of that leaves by its own lowest way out, or its own pump, [m³]
    way : str
        Id of that way out, run or pump; empty if there is none
    is_pulled : bool
        Whether a standpipe is pulled out for it
    bailed : float
        What is left to be bailed or pumped out, [m³]
    media_mass, wet_mass : float
        Dry media, and the water that stays on them, [kg]
    """

    vessel: Vessel
    water: float
    by_itself: float
    way: str
    is_pulled: bool
    bailed: float
    media_mass: float
    wet_mass: float

    @property
    def mass(self) -> float:
        """What is in the shell when it is moved [kg]; the shell itself is not known."""
        return self.media_mass + self.wet_mass

    @property
    def is_too_heavy(self) -> bool:
        """Whether one person cannot lift it: its media are dug out first."""
        return self.mass > _LIFT_ALONE


@dataclass(frozen=True, slots=True)
class Parted:
    """A run to be taken apart.

    Attributes
    ----------
    run : Run
        The run
    by : str
        ``unions`` come apart, a ``hose`` is pulled off, anything else is ``cut``
    unions : int
        How many
    water : float
        What stands in it, [m³]
    """

    run: Run
    by: Parting
    unions: int
    water: float


@dataclass(frozen=True, slots=True)
class MovingPlan:
    """How a layout is moved.

    Attributes
    ----------
    drained : tuple of Drained
        In the order to empty them
    parted : tuple of Parted
        In the plan's order
    """

    drained: tuple[Drained, ...]
    parted: tuple[Parted, ...]

    @property
    def water(self) -> float:
        """All the water to be led off [m³]."""
        return sum(d.water for d in self.drained)

    @property
    def cuts(self) -> int:
        """How many runs would have to be cut."""
        return sum(p.by == "cut" for p in self.parted)


def moving_of(found: Evaluation) -> MovingPlan:
    """How a plan's layout is moved: beds and rafts first from the highest, so that what they hold
    runs down; then filters and sump; the fish tank last, when the fish are out.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    MovingPlan
        What to drain, what to bail, what to lift and what to part
    """
    plan = found.plan
    order = sorted(plan.vessels, key=lambda v: (v.use.keeps_fish, -v.floor_height, -v.shape.height))
    lines = found.balance.layout.lines
    parted = tuple(
        Parted(
            r,
            _parting(r),
            sum(f.count for f in r.fittings if f.kind == "union"),
            lines[r.id].volume,
        )
        for r in plan.runs
    )
    return MovingPlan(tuple(_drained(found, v) for v in order), parted)


def _parting(run: Run) -> Parting:
    if any(f.kind == "union" for f in run.fittings):
        return "unions"
    return "hose" if run.bore.size is None else "cut"


def _drained(found: Evaluation, vessel: Vessel) -> Drained:
    plan, storage = found.plan, storage_of(found.plan, vessel)
    water = found.vessels[vessel.id].rest_volume
    low, way, is_pulled = _lowest_way(plan, found, vessel)
    left = min(storage.volume_at(low), water) if way else water
    heap = MEDIA[vessel.media.kind].bulk_density if vessel.media is not None else 0.0
    space = 0.0
    if vessel.media is not None:
        space = vessel.shape.holds(vessel.media.top) - vessel.shape.holds(vessel.media.bottom)
    return Drained(
        vessel, water, water - left, way, is_pulled, left, heap * space, _WET * space * 1000.0
    )


def _lowest_way(plan: Plan, found: Evaluation, vessel: Vessel) -> tuple[float, str, bool]:
    """Level over its floor [m] that the lowest way out of a vessel leaves, its id, and whether a
    standpipe is pulled out for it."""
    ways: list[tuple[float, str, bool]] = []
    for part in plan.ways_out:
        if part.stands_in == vessel.id and plan.run_of(part) is not None:
            pulled = bool(getattr(part, "removable", False))
            ways.append((0.0 if pulled else part.draws_to, part.id, pulled))
    for run in plan.runs:
        port = plan.port(run.start)
        if port is not None and run.source == vessel.id:
            ways.append(
                (max(crest_of(found.balance.layout, run) - vessel.floor_height, 0.0), run.id, False)
            )
    ways += [(p.inlet_height, p.id, False) for p in plan.pumps if p.stands_in == vessel.id]
    return min(ways, default=(0.0, "", False))
