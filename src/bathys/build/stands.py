"""Stands made up of the blocks and timber at hand."""

from collections import Counter
from dataclasses import dataclass

from bathys.plan.model import Plan

__all__ = ["PACKING", "Stand", "stack_of", "stands_of"]

PACKING = 0.02
"""What is packed under a leg with slate or board at most; more wants another block [m]."""

_MM = 1000.0
_TALLEST = 3.0  # stand that is made up [m]

Layers = tuple[tuple[float, int], ...]


@dataclass(frozen=True, slots=True)
class Stand:
    """What each leg of a stand is made up of.

    Attributes
    ----------
    vessel : str
        Id of what stands on it
    height : float
        As the plan wants it, [m]
    layers : tuple of (float, int)
        Heights of blocks, the highest first, and how many of each, [m]
    packed : float
        What is packed over them, [m]
    """

    vessel: str
    height: float
    layers: Layers
    packed: float

    @property
    def fits(self) -> bool:
        """Whether so little is packed that it stands firm."""
        return self.packed <= PACKING


def stack_of(height: float, blocks: tuple[float, ...]) -> tuple[Layers, float]:
    """Blocks that come nearest to a height from below, and of those the fewest.

    Parameters
    ----------
    height : float
        The height, [m]
    blocks : tuple of float
        Heights of the blocks at hand, each as often as wanted, [m]

    Returns
    -------
    (tuple of (float, int), float)
        Heights and how many of each, the highest first, and what is left to pack, [m]. Reckoned
        to the millimetre
    """
    goal = round(min(height, _TALLEST) * _MM)
    sizes = sorted({round(b * _MM) for b in blocks if round(b * _MM) > 0}, reverse=True)
    fewest: list[tuple[int, int] | None] = [(0, 0), *[None] * goal]  # layers, and the last block
    for reached in range(1, goal + 1):
        below = [
            (before[0] + 1, size)
            for size in sizes
            if size <= reached and (before := fewest[reached - size]) is not None
        ]
        fewest[reached] = min(below, default=None)
    top = next(reached for reached in range(goal, -1, -1) if fewest[reached] is not None)
    used, left = Counter[int](), top
    while left and (step := fewest[left]) is not None:
        used[step[1]] += 1
        left -= step[1]
    layers = tuple((size / _MM, used[size]) for size in sizes if used[size])
    return layers, round(height - top / _MM, 6)


def stands_of(plan: Plan) -> tuple[Stand, ...]:
    """What the stands of a plan are made up of.

    Parameters
    ----------
    plan : Plan
        The plan, with the blocks at hand

    Returns
    -------
    tuple of Stand
        One for each vessel that stands over the ground; empty where no blocks are told
    """
    if not plan.site.blocks:
        return ()
    return tuple(
        Stand(v.id, v.floor_height, *stack_of(v.floor_height, plan.site.blocks))
        for v in plan.vessels
        if v.within is None and v.floor_height > 1.0 / _MM
    )
