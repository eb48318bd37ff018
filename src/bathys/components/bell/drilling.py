"""What is drilled and cut at the foot of a bell."""

import math
from collections.abc import Iterator

from bathys.build.drilling import Drilled
from bathys.components.bell.model import BellSiphon

__all__ = ["drilled"]

_SLOTS = 8  # cut round a bell (common practice)


def drilled(siphon: BellSiphon) -> Iterator[Drilled]:
    """Holes and slots of its bell.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon

    Yields
    ------
    Drilled
        The bell: eight slots as wide as their area asks for, [m], and its rows of holes
    """
    area = siphon.slot_area
    if area is None and not siphon.hole_rows:
        return
    width = 0.0 if area is None else area / (_SLOTS * siphon.slot_height)
    yield Drilled(
        siphon.id,
        "bell",
        math.pi * siphon.bell_bore.outside,
        "its foot, on the bed’s floor",
        siphon.hole_rows,
        slots=0 if area is None else _SLOTS,
        slot_width=width,
        slot_height=0.0 if area is None else siphon.slot_height,
    )
