"""What is drilled in a standpipe and in the sleeve about it."""

import math
from collections.abc import Iterator

from bathys.build.drilling import Drilled
from bathys.components.standpipe.model import Standpipe
from bathys.plan.openings import HoleRow

__all__ = ["drilled"]


def drilled(outlet: Standpipe) -> Iterator[Drilled]:
    """Its holes near the floor, and those of its sleeve.

    Parameters
    ----------
    outlet : Standpipe
        The standpipe

    Yields
    ------
    Drilled
        Each pipe that has any
    """
    if outlet.holes > 0:
        row = HoleRow(count=outlet.holes, diameter=outlet.hole_diameter, height=outlet.hole_height)
        around = math.pi * outlet.bore.outside
        yield Drilled(outlet.id, "standpipe", around, "the vessel’s floor", (row,))
    if outlet.sleeve is not None:
        around = math.pi * outlet.sleeve.bore.outside
        yield Drilled(outlet.id, "sleeve", around, "the vessel’s floor", outlet.sleeve.hole_rows)
