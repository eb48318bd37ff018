"""Water that returns in a power cut, and where every level ends."""

from dataclasses import dataclass
from typing import Literal

from bathys.simulation.cycle import Cycle
from bathys.simulation.loop import PumpedBedLoop

__all__ = ["Outage", "cut_power"]


@dataclass(frozen=True, slots=True)
class Outage:
    """The end of one power cut.

    Attributes
    ----------
    moment : str
        When the power failed: just before or just after the siphon started, or in a steady flow
    bed_level : float
        Where the bed ends, over its floor, [m]
    tank_level : float
        Where the tank ends, over the datum, [m]
    tank_volume : float
        What the tank holds then, spilling counted off, [m³]
    returned : float
        What comes back to the tank, [m³]
    spilled : float
        What goes over the tank's rim, [m³]
    siphoned_back : float
        What of it runs back through the stopped pump out of the bed, [m³]
    """

    moment: Literal["before_start", "after_start", "steady"]
    bed_level: float
    tank_level: float
    tank_volume: float
    returned: float
    spilled: float
    siphoned_back: float


def _end(
    loop: PumpedBedLoop,
    moment: Literal["before_start", "after_start", "steady"],
    level: float,
    runs: bool,
) -> Outage:
    """Follow the water from a bed level at the cut."""
    built, storage = loop.built, loop.bed_storage
    drained = min(level, built.intake if runs else built.rim)
    port = loop.outlet - loop.bed.floor_height
    # An outlet under water, with nothing to hold it back, draws the bed down to its mouth
    # through the stopped pump; once the mouth is bare, air breaks the line.
    is_open = not loop.stops_backflow and not loop.line.shut
    final = min(drained, port) if is_open and port < level else drained
    back_through_pump = float(storage.volume(drained) - storage.volume(final))
    before = loop.total_volume - float(storage.volume(level)) - loop.riser_returns
    arrived = loop.total_volume - float(storage.volume(final))
    held = min(arrived, float(loop.tank_storage.volume(loop.tank_storage.rim)))
    level_after = loop.tank.floor_height + float(loop.tank_storage.level(held))
    return Outage(
        moment,
        final,
        level_after,
        held,
        arrived - max(before, 0.0),
        arrived - held,
        back_through_pump,
    )


def cut_power(loop: PumpedBedLoop, cycle: Cycle) -> tuple[Outage, ...]:
    """The power cuts that leave the tank lowest and highest.

    Parameters
    ----------
    loop : PumpedBedLoop
        The loop
    cycle : Cycle
        What it does while the pump runs

    Returns
    -------
    tuple of Outage
        For a cycling bed just before and just after its siphon starts, else the steady state
    """
    if cycle.verdict in ("cycles", "slow"):
        top = loop.built.priming_level
        return (
            _end(loop, "before_start", top, runs=False),
            _end(loop, "after_start", top, runs=True),
        )
    runs = cycle.verdict in ("holds", "hangs", "overflows")
    return (_end(loop, "steady", cycle.bed_high, runs),)
