"""Water shaded by what it carries, over a side view that is drawn."""

from collections.abc import Mapping
from dataclasses import dataclass

from bathys.drawing.scene import Rect, Scene, Shape, Text

__all__ = ["STEPS", "Tint", "tint_of"]

STEPS = 5
"""Shades from the worst to the best."""

_WATER = ("water-low", "water-high")


@dataclass(frozen=True)
class Tint:
    """One constituent drawn over the water.

    Attributes
    ----------
    key, name : str
        What it goes by in addresses, and its name
    rects, shapes : tuple
        Over the water of each vessel, looks from ``tint-0``, the worst, to ``tint-4``
    texts : tuple of Text
        Its figure in each
    """

    key: str
    name: str
    rects: tuple[Rect, ...]
    shapes: tuple[Shape, ...]
    texts: tuple[Text, ...]


def tint_of(
    scene: Scene, key: str, name: str, goodness: Mapping[str, float], words: Mapping[str, str]
) -> Tint:
    """Shade the water of a side view.

    Parameters
    ----------
    scene : Scene
        The side view
    key, name : str
        Of the constituent
    goodness : mapping of str to float
        From 0 to 1, by vessel, [-]
    words : mapping of str to str
        Its figure, by vessel

    Returns
    -------
    Tint
        What to draw over it
    """

    def look(id_: str) -> str:
        return f"tint-{min(int(STEPS * goodness[id_]), STEPS - 1)}"

    rects = tuple(
        r._replace(look=look(r.part))
        for r in scene.rects
        if r.look in _WATER and r.part in goodness
    )
    shapes = tuple(
        s._replace(look=look(s.part))
        for s in scene.shapes
        if s.look in _WATER and s.part in goodness
    )
    middles: dict[str, tuple[float, float]] = {}
    for rect in rects:
        middles.setdefault(rect.part, (rect.x + 0.5 * rect.width, rect.y + 0.5 * rect.height))
    for shape in shapes:
        corners = [tuple(map(float, p.split(","))) for p in shape.points.split()]
        xs, ys = [c[0] for c in corners], [c[1] for c in corners]
        middles.setdefault(shape.part, (0.5 * (min(xs) + max(xs)), 0.5 * (min(ys) + max(ys))))
    texts = tuple(
        Text(round(x, 1), round(y + 18.0, 1), words[id_], "tint-figure", "middle")
        for id_, (x, y) in middles.items()
    )
    return Tint(key, name, rects, shapes, texts)
