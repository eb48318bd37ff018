"""Films that grow on wetted walls: each narrows the bore and roughens it."""

from dataclasses import dataclass

__all__ = ["FOULING", "Film"]


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
