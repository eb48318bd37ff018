"""Fittings that lead a pipe through a wall, and the holes they take.

Sizes are those usually met with (common practice, from memory): the size that is stamped on the
fitting counts, and a scrap is drilled first.
"""

from dataclasses import dataclass

__all__ = ["SAME_PIPE", "WALL_FITTINGS", "WallFitting"]

SAME_PIPE = 0.03
"""Of a pipe's outside width, within which it is the same pipe [-]."""


@dataclass(frozen=True, slots=True)
class WallFitting:
    """A kind of wall fitting.

    Attributes
    ----------
    name : str
        In the trade
    holes : tuple of (float, float)
        Outside width of the pipe and diameter of the hole, [m]
    tool, sealing : str
        What it takes, in a few words
    """

    name: str
    holes: tuple[tuple[float, float], ...]
    tool: str
    sealing: str

    def hole_for(self, outside: float) -> float | None:
        """Diameter of the hole for a pipe [m].

        Parameters
        ----------
        outside : float
            Its outside width, [m]

        Returns
        -------
        float or None
            None for a pipe whose fittings are not known here
        """
        pipe, hole = min(self.holes, key=lambda row: abs(row[0] - outside))
        return hole if abs(pipe - outside) <= SAME_PIPE * pipe else None


_BULKHEAD_HOLES = (
    (0.0213, 0.0286),
    (0.0250, 0.0330),
    (0.0267, 0.0349),
    (0.0334, 0.0445),
    (0.0422, 0.0572),
    (0.0483, 0.0603),
    (0.0603, 0.0762),
    (0.0889, 0.1080),
)

WALL_FITTINGS: dict[str, WallFitting] = {
    "bulkhead": WallFitting(
        "bulkhead",
        _BULKHEAD_HOLES,
        "hole saw; in a thin shell that tears, drill a circle of small holes and cut with a knife",
        "washer on the wet side, turned hand-tight and a quarter",
    ),
    "grommet": WallFitting(
        "rubber grommet",
        (
            (0.0213, 0.0318),
            (0.0267, 0.0318),
            (0.0334, 0.0445),
            (0.0422, 0.0508),
            (0.0483, 0.0635),
            (0.0603, 0.0762),
            (0.0889, 0.1016),
            (0.1143, 0.1270),
        ),
        "hole saw, edge smoothed",
        "pipe bevelled by 45° and soaped, pushed in from outside",
    ),
    "conduit": WallFitting(
        "conduit adapter with O-ring",
        (
            (0.0213, 0.0222),
            (0.0267, 0.0286),
            (0.0334, 0.0349),
            (0.0422, 0.0445),
            (0.0483, 0.0508),
            (0.0603, 0.0635),
        ),
        "hole saw or step drill, flat wall only",
        "O-ring on the wet side, locknut on the other",
    ),
    "screwed": WallFitting(
        "screwed connector with backnut",
        (
            (0.0200, 0.0220),
            (0.0213, 0.0220),
            (0.0250, 0.0270),
            (0.0267, 0.0270),
            (0.0320, 0.0340),
            (0.0334, 0.0340),
            (0.0400, 0.0430),
            (0.0422, 0.0430),
            (0.0483, 0.0490),
            (0.0500, 0.0490),
            (0.0603, 0.0610),
            (0.0630, 0.0610),
        ),
        "hole saw",
        "rubber washer on both sides, thread sealed with tape",
    ),
    "liner": WallFitting(
        "flange through liner and board",
        _BULKHEAD_HOLES,
        "hole saw through the board only; cut the liner last, within the flange",
        "gasket on both sides of the liner, the flange screwed on before the liner is cut",
    ),
    "glass": WallFitting(
        "bulkhead in drilled glass",
        _BULKHEAD_HOLES,
        "diamond core drill, wet and slow, on a flat bed; toughened glass bursts, never drill it",
        "soft washer on both sides, hand-tight",
    ),
}
"""Kinds a hole may be drilled for."""
