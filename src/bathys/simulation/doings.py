"""What is done to a plan while it is followed through time."""

from dataclasses import dataclass

from bathys.simulation.boundary_conditions import DRY_AIR, Weather
from bathys.simulation.result import PowerCut

__all__ = ["Doings", "always"]


def always(_: float) -> bool:
    """Wanted to its end, whatever time it has reached.

    Parameters
    ----------
    _ : float
        The time reached, [s]

    Returns
    -------
    bool
        True
    """
    return True


@dataclass(frozen=True, slots=True)
class Doings:
    """What is done to a plan on its way.

    Attributes
    ----------
    cut : PowerCut or None
        A power cut
    weather : Weather
        What falls and dries
    dead : frozenset of str
        Pumps that do not run, though they have power
    never_starts, never_breaks : frozenset of str
        Siphons that are stuck
    """

    cut: PowerCut | None = None
    weather: Weather = DRY_AIR
    dead: frozenset[str] = frozenset()
    never_starts: frozenset[str] = frozenset()
    never_breaks: frozenset[str] = frozenset()
