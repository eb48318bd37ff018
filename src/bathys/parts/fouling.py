"""Films that grow on wetted walls: each narrows the bore and roughens it."""

from dataclasses import dataclass
from itertools import pairwise

__all__ = ["FOULING", "Film", "film_of_thickness"]


@dataclass(frozen=True, slots=True)
class Film:
    """A state of a pipe's wall.

    Attributes
    ----------
    name : str
        Name of the state
    thickness : float
        Film on the wall; the bore loses twice this, [m]
    roughness : float
        Absolute roughness, [m]
    """

    name: str
    thickness: float
    roughness: float


FOULING: dict[str, Film] = {
    "new": Film("new", 0.0, 1.5e-6),  # drawn plastic (published, memory)
    "season": Film("a season", 0.5e-3, 0.15e-3),  # slimed plastic (published range, memory)
    "neglected": Film("neglected", 2.0e-3, 0.5e-3),
}
"""Wall states a run may be in."""


def film_of_thickness(thickness: float) -> Film:
    """A film as thick as was found, between the states of the table.

    Parameters
    ----------
    thickness : float
        On the wall, [m]

    Returns
    -------
    Film
        With a roughness between those of its neighbours, that of the thickest beyond it
    """
    known = sorted(FOULING.values(), key=lambda film: film.thickness)
    for thin, thick in pairwise(known):
        if thickness <= thick.thickness:
            share = (thickness - thin.thickness) / (thick.thickness - thin.thickness)
            rough = thin.roughness + share * (thick.roughness - thin.roughness)
            return Film("as measured", thickness, rough)
    return Film("as measured", thickness, known[-1].roughness)
