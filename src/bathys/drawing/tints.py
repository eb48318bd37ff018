"""Water shaded by what it carries, over a side view that is drawn."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import chain
from threading import Lock

from cachetools import LRUCache, cached

from bathys.drawing.scene import Rect, Scene, Shape, Text, wide_as

__all__ = ["STEPS", "Tint", "tint_of"]

STEPS = 5
"""Shades from the worst to the best."""

_WATER = ("water-low", "water-high")
_LOWER = 2.0  # than the litres
_BASE = 4.0  # from the middle of a figure down to its base line
_DOWN, _ACROSS = (0.5, 0.75, 0.3, 0.9, 0.15), (0.5, 0.3, 0.7, 0.15, 0.85)
_Box = tuple[float, float, float, float]


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

    water = _kept(scene)[0][1]
    return Tint(
        key,
        name,
        tuple(r._replace(look=look(r.part)) for r in water.rects if r.part in goodness),
        tuple(s._replace(look=look(s.part)) for s in water.shapes if s.part in goodness),
        tuple(
            _figure(scene, box, water.holds[id_], words[id_])
            for id_, box in water.boxes.items()
            if id_ in goodness
        ),
    )


@dataclass(frozen=True)
class _Water:
    """The water of a side view: what it is drawn of, the box around each vessel's, and where its
    litres stand in it."""

    rects: tuple[Rect, ...]
    shapes: tuple[Shape, ...]
    boxes: dict[str, _Box]
    holds: dict[str, Text | None]


def _same(scene: Scene) -> int:
    return id(scene)


@cached(LRUCache(maxsize=8), key=_same, lock=Lock())
def _kept(scene: Scene) -> list[tuple[Scene, _Water]]:
    """Kept with its scene, so that no other can have its identity: every shade asks."""
    rects = tuple(r for r in scene.rects if r.look in _WATER)
    shapes = tuple(s for s in scene.shapes if s.look in _WATER)
    boxes: dict[str, _Box] = {}
    for rect in rects:
        _hold(boxes, rect.part, (rect.x, rect.y, rect.x + rect.width, rect.y + rect.height))
    for shape in shapes:
        corners = [tuple(map(float, p.split(","))) for p in shape.points.split()]
        xs, ys = [c[0] for c in corners], [c[1] for c in corners]
        _hold(boxes, shape.part, (min(xs), min(ys), max(xs), max(ys)))
    litres = [t for t in scene.texts if t.look == "holds"]
    holds = {
        id_: next((t for t in litres if x < t.x < right and y < t.y < bottom), None)
        for id_, (x, y, right, bottom) in boxes.items()
    }
    return [(scene, _Water(rects, shapes, boxes, holds))]


def _hold(boxes: dict[str, _Box], id_: str, more: _Box) -> None:
    """Widen the box of a vessel's water, low and high, to hold one piece more."""
    box = boxes.get(id_, more)
    boxes[id_] = (
        min(box[0], more[0]),
        min(box[1], more[1]),
        max(box[2], more[2]),
        max(box[3], more[3]),
    )


def _figure(scene: Scene, box: _Box, holds: Text | None, words: str) -> Text:
    """In place of the litres, which are hidden meanwhile; else where the water is free."""
    if holds is not None:
        return Text(holds.x, holds.y + _LOWER, words, "tint-figure", holds.anchor)
    left, top, right, bottom = box
    wide, tall = right - left, bottom - top
    half = 0.5 * wide_as(words, "tint-figure")
    places = (
        Text(
            round(left + across * wide - half, 1),
            round(top + down * tall + _BASE, 1),
            words,
            "tint-figure",
        )
        for down in _DOWN
        for across in _ACROSS
    )
    first = next(places)
    return next((text for text in chain((first,), places) if scene.is_free(text.box)), first)
