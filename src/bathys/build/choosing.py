"""Choose how pipes go through walls: which fitting, which side, and where in it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bathys.build.holes import FLOOR, Hole
from bathys.build.walls import walls_of
from bathys.edits import Edit, apply_edits
from bathys.parts.wall_fittings import SAME_PIPE
from bathys.plan.model import Plan
from bathys.plan.wall_hole import SIDES
from bathys.shelf import ShelfPart

__all__ = [
    "HoleChoice",
    "HoleRefused",
    "check_choice",
    "choose_holes",
    "offered_fittings",
    "own_fittings",
]

_THREAD = 0.9  # of a pipe; the thread of a connector it is glued into is as wide at least [-]


@dataclass(frozen=True, slots=True)
class HoleChoice:
    """What is chosen of a hole.

    Attributes
    ----------
    hole : Hole
        The hole
    fitting : str
        Kind of its wall fitting
    side : str
        Side of the vessel; of a hole in the floor it is not asked
    across : float or None
        From the left corner of that side, [m]; none to put it where there is room
    drill : float or None
        Hole to drill as stamped on the fitting, [m]; none for the usual
    """

    hole: Hole
    fitting: str
    side: str
    across: float | None
    drill: float | None = None


class HoleRefused(ValueError):
    """A hole that cannot be drilled so.

    Parameters
    ----------
    field : str
        ``fitting``, ``side``, ``across`` or ``drill``
    sentence : str
        Why, with slots
    figures : mapping of str to float
        What fills them, [m]
    """

    def __init__(self, field: str, sentence: str, figures: Mapping[str, float]) -> None:
        super().__init__(sentence)
        self.field, self.sentence, self.figures = field, sentence, figures


def offered_fittings(hole: Hole) -> tuple[str, ...]:
    """Kinds of fitting that suit a vessel's wall.

    Parameters
    ----------
    hole : Hole
        The hole

    Returns
    -------
    tuple of str
        The usual one first
    """
    kinds = hole.vessel.shape.WALL_FITTINGS
    return (hole.fitting, *(k for k in kinds if k != hole.fitting))


def own_fittings(hole: Hole, own: Iterable[ShelfPart]) -> tuple[ShelfPart, ...]:
    """Wall fittings of a builder's own that suit a vessel's wall and the pipe.

    Parameters
    ----------
    hole : Hole
        The hole
    own : iterable of ShelfPart
        All that the builder has

    Returns
    -------
    tuple of ShelfPart
        Those that suit
    """
    kinds, outside = hole.vessel.shape.WALL_FITTINGS, hole.run.bore.outside
    return tuple(
        part
        for part in own
        if part.kind == "wall_fitting"
        and part.word("like") in kinds
        and abs(part.number("pipe") - outside) <= SAME_PIPE * outside
    )


def choose_holes(plan: Plan, choices: list[HoleChoice]) -> Plan:
    """Keep what is chosen of holes.

    Parameters
    ----------
    plan : Plan
        The plan
    choices : list of HoleChoice
        What is chosen

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    HoleRefused
        If a fitting does not suit the wall, there is no such side, or a place or a size cannot be
    EditRefused
        If a run is not in the plan any more
    """
    edits = []
    for choice in choices:
        check_choice(choice)
        hole = choice.hole
        told: dict[str, object] = {
            "fitting": choice.fitting,
            "across": choice.across,
            "drill": choice.drill,
        }
        if hole.side != FLOOR:
            told["side"] = choice.side
        which = "start_hole" if hole.is_start else "end_hole"
        edits.append(Edit(f"runs.{hole.run.id}.{which}", told))
    return apply_edits(plan, edits)


def check_choice(choice: HoleChoice) -> None:
    """Refuse what cannot be drilled.

    Parameters
    ----------
    choice : HoleChoice
        What is chosen

    Raises
    ------
    HoleRefused
        If a fitting does not suit the wall, there is no such side, or a place or a size cannot be
    """
    hole = choice.hole
    if choice.fitting not in hole.vessel.shape.WALL_FITTINGS:
        raise HoleRefused("fitting", "Choose a fitting that suits this wall.", {})
    if hole.side != FLOOR and choice.side not in SIDES:
        raise HoleRefused("side", "Choose a side.", {})
    side = FLOOR if hole.side == FLOOR else choice.side
    wide = walls_of(hole.vessel.shape)[side].width
    if choice.across is not None and choice.across > wide:
        raise HoleRefused("across", "This side is {wide:length} wide.", {"wide": wide})
    least = _THREAD * hole.pipe
    if choice.drill is not None and not least <= choice.drill <= wide:
        raise HoleRefused(
            "drill", "A hole for this pipe is at least {least:length} wide.", {"least": least}
        )
