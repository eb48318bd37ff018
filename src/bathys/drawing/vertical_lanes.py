"""Where upright stretches of pipe stand, so that no two lie on each other in the picture."""

from collections.abc import Iterable

__all__ = ["VerticalLanes"]

_GAP = 3.0  # between the walls of two pipes, in picture units


class VerticalLanes:
    """Upright stretches that have their place already."""

    def __init__(self) -> None:
        self._stretches: list[tuple[float, float, float, float]] = []

    def add(self, x: float, top: float, foot: float, half: float) -> None:
        """One more, ``half`` as wide as its pipe to each side of its middle [px]."""
        self._stretches.append((x, min(top, foot), max(top, foot), half))

    def room(self, x: float, top: float, foot: float, half: float) -> float:
        """How far a stretch there would stand off its nearest neighbour [px]; negative where they
        overlap."""
        return min(
            (
                abs(x - other) - half - wide - _GAP
                for other, above, below, wide in self._stretches
                if above < foot and top < below
            ),
            default=1.0,
        )

    def first_clear(self, places: Iterable[float], top: float, foot: float, half: float) -> float:
        """The first place [px] that is clear of all others, else the one with most room.

        Raises
        ------
        ValueError
            If there is no place to choose from
        """
        best: tuple[float, float] | None = None
        for x in places:
            room = self.room(x, top, foot, half)
            if room >= 0.0:
                return x
            if best is None or room > best[0]:
                best = (room, x)
        if best is None:
            raise ValueError("no place to choose from")
        return best[1]
