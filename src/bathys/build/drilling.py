"""Rows of holes and slots that are drilled round a piece, as a template shows them."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from bathys.kinds import facets
from bathys.plan.model import Plan
from bathys.plan.openings import HoleRow

__all__ = ["Drilled", "drilled_of"]


@dataclass(frozen=True, slots=True)
class Drilled:
    """A piece that is drilled round about.

    Attributes
    ----------
    part : str
        Id of the part it belongs to
    name : str
        What it is
    around : float
        Its way round, [m]
    foot : str
        What the template's lower edge lies on
    rows : tuple of HoleRow
        Rows of holes, heights over that edge, [m]
    is_inside : bool
        Whether that is told of its inside, and the template laid there; else of its outside
    slots, slot_width, slot_height : int, float, float
        Slots cut up from that edge, and their size, [-, m, m]
    """

    part: str
    name: str
    around: float
    foot: str
    rows: tuple[HoleRow, ...]
    is_inside: bool = False
    slots: int = 0
    slot_width: float = 0.0
    slot_height: float = 0.0

    @property
    def top(self) -> float:
        """How high its holes and slots reach [m]."""
        return max([self.slot_height, *(row.top for row in self.rows)])


def drilled_of(plan: Plan) -> tuple[Drilled, ...]:
    """All that is drilled round about.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of Drilled
        Siphons and outlets as their kinds tell, and settlers' outlet rings
    """
    return tuple(_drilled(plan))


def _drilled(plan: Plan) -> Iterator[Drilled]:
    tells = facets("drilling")
    for part in (*plan.siphons, *plan.outlets):
        module = tells.get(type(part))
        if module is not None:
            yield from module.drilled(part)
    for vessel in plan.vessels:
        inside = vessel.settler
        if inside is not None and inside.hole_rows:
            around = math.pi * vessel.shape.across
            name = "outlet holes round its wall or ring"
            yield Drilled(vessel.id, name, around, "its floor", inside.hole_rows, is_inside=True)
