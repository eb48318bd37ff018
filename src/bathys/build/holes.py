"""Every hole that is drilled in a vessel."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import WayOut

__all__ = ["Hole", "holes_of"]

_FLOOR = 1e-6  # so little over the floor is in it [m]


@dataclass(frozen=True, slots=True)
class Hole:
    """A hole for one pipe.

    Attributes
    ----------
    vessel : Vessel
        That it is drilled in
    run : Run
        The pipe that goes through it
    name : str
        What it is for
    height : float
        Of its centre over the floor, [m]; 0 in the floor itself
    over_datum : float
        Of its centre, [m]
    pipe : float
        Outside width of the pipe, [m]; the hole is that of the fitting or seal bought for it
    to_water : float or None
        Of its centre over the highest water, below 0 if under it, [m]; none in the floor
    """

    vessel: Vessel
    run: Run
    name: str
    height: float
    over_datum: float
    pipe: float
    to_water: float | None

    @property
    def is_in_floor(self) -> bool:
        """Whether it goes through the floor."""
        return self.height <= _FLOOR

    @property
    def clears_rim(self) -> float:
        """From its upper edge to the rim; below 0 if it cuts the rim, [m]."""
        return float(self.vessel.shape.height - self.height - 0.5 * self.pipe)

    @property
    def clears_floor(self) -> float:
        """From its lower edge to the floor; 0 for one in the floor, [m]."""
        return 0.0 if self.is_in_floor else self.height - 0.5 * self.pipe


def holes_of(found: Evaluation) -> tuple[Hole, ...]:
    """Every hole of every vessel: where runs join its ports, and where siphons and outlets leave.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Hole
        Vessel by vessel, from the floor up. Where water falls in over the rim there is none, nor
        for a pump that hangs its pipe over it
    """
    holes = [hole for run in found.plan.runs for hole in _of_run(found, run)]
    order = [v.id for v in found.plan.vessels]
    return tuple(sorted(holes, key=lambda h: (order.index(h.vessel.id), h.height, h.run.id)))


def _of_run(found: Evaluation, run: Run) -> list[Hole]:
    plan, holes = found.plan, []
    for place in (run.start, run.end):
        owner = place.partition(".")[0]
        port = plan.port(place)
        if port is not None and port.height < plan.vessel(owner).shape.height:
            holes.append(_hole(found, plan.vessel(owner), run, port.name, port.height))
    part = plan.part(run.source)
    if isinstance(part, WayOut):
        vessel = plan.vessel(part.stands_in)
        height = part.leaves_at(run.bore.inside)
        if height < vessel.shape.height:
            holes.append(_hole(found, vessel, run, part.name, max(height, 0.0)))
    return holes


def _hole(found: Evaluation, vessel: Vessel, run: Run, name: str, height: float) -> Hole:
    high = found.vessels[vessel.id].levels.high - vessel.floor_height
    in_floor = height <= _FLOOR
    return Hole(
        vessel,
        run,
        name,
        height,
        vessel.floor_height + height,
        run.bore.outside,
        None if in_floor else height - high,
    )
