"""What a ground plan draws, in picture units."""

from dataclasses import dataclass

from bathys.ground import Placed
from bathys.plan.ground import Ground, GroundMark

__all__ = ["Foot", "GroundPicture", "Joint", "MarkDrawn", "WayDrawn"]

XY = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Foot:
    """A vessel's footprint.

    Attributes
    ----------
    placed : Placed
        The vessel and its place
    label : str
        Its label
    points : str
        Its outline
    legs : tuple of str
        Outlines of the legs and braces that its stand is taken to have
    x, y : float
        Its middle, [picture units]
    load : float
        On its footprint when full, [Pa]
    shade : int
        Step of its load, 0 to 4
    is_under : bool
        Whether another one stands over it, so that it is drawn with a broken line
    """

    placed: Placed
    label: str
    points: str
    legs: tuple[str, ...]
    x: float
    y: float
    load: float
    shade: int
    is_under: bool


@dataclass(frozen=True, slots=True)
class WayDrawn:
    """A run's way.

    Attributes
    ----------
    run, label, name : str
        Its id, its label and its name
    points : str
        Its way
    corners : tuple of (float, float, float or None)
        Its corners, each a handle, [picture units], and how high each is told to lie, [m]
    x, y : float
        Where its label stands, [picture units]
    is_pumped : bool
        Whether a pump drives it
    length : float
        Along the level, [m]
    bends : int
        Turns that need a fitting
    is_told, follows : bool
        Whether its corners are told, and whether its length follows from it
    """

    run: str
    label: str
    name: str
    points: str
    corners: tuple[tuple[float, float, float | None], ...]
    x: float
    y: float
    is_pumped: bool
    length: float
    bends: int
    is_told: bool
    follows: bool


@dataclass(frozen=True, slots=True)
class Joint:
    """A junction.

    Attributes
    ----------
    id, label : str
        Its id and label
    x, y : float
        Its place, [picture units]
    """

    id: str
    label: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class MarkDrawn:
    """Something on the site that is no part of the plan.

    Attributes
    ----------
    mark : GroundMark
        What it is
    x, y, width, height : float
        Its upper left corner and its size, [picture units]
    """

    mark: GroundMark
    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True)
class GroundPicture:
    """All that is drawn.

    Attributes
    ----------
    width, height : float
        Of the picture, [picture units]
    per_metre : float
        Picture units of a metre
    left, foot : float
        Where the ground plan begins: its near left corner, [picture units]
    ground : Ground
        The site
    site : str
        Its outline
    site_corners : tuple of (float, float)
        Corners of the site, each a handle, [picture units]
    standing, beyond : tuple of str
        Where a person can stand, and what of a bed they do not reach, as paths
    across, down : tuple of (float, bool)
        Lines of the grid, and whether each is a fifth one, [picture units]
    square : str
        Side of a square of the grid
    feet, ways, joints, marks : tuple
        What is on it, in the order in which it is drawn
    bar : float
        Length of the bar that tells the scale, [picture units]
    bar_words : str
        And on the ground
    summary : str
        The picture in a sentence
    """

    width: float
    height: float
    per_metre: float
    left: float
    foot: float
    ground: Ground
    site: str
    site_corners: tuple[XY, ...]
    standing: tuple[str, ...]
    beyond: tuple[str, ...]
    across: tuple[tuple[float, bool], ...]
    down: tuple[tuple[float, bool], ...]
    square: str
    feet: tuple[Foot, ...]
    ways: tuple[WayDrawn, ...]
    joints: tuple[Joint, ...]
    marks: tuple[MarkDrawn, ...]
    bar: float
    bar_words: str
    summary: str
