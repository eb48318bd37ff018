"""A scene as SVG: text, in which every word of a plan is escaped."""

from collections.abc import Iterable, Iterator
from html import escape

from bathys.drawing.scene import Rect, Scene, Shape, Stroke, Text, Water
from bathys.drawing.tints import Tint

__all__ = ["picked", "rects_markup", "scene_markup"]

_UNDER = ("stand", "contour")
_ON_THE_RULE = ("mark", "rule")
_TEXTURES = {"media": "stones", "water-low": "ripples"}
"""Pattern drawn over what looks so; the page holds them once, for all its pictures."""


def scene_markup(
    scene: Scene, part: str = "", bare: bool = False, tints: Iterable[Tint] = ()
) -> str:
    """Everything of a scene but its badges and handles.

    Parameters
    ----------
    scene : Scene
        What to draw
    part : str
        Id of the part that is picked
    bare : bool
        Whether names, marks and what plays are left out, for a small picture
    tints : iterable of Tint
        What the water can be shaded by, under the words

    Returns
    -------
    str
        SVG, its words escaped
    """
    pieces = [*_pieces(scene, part, bare), *(_tint(t) for t in tints)]
    if not bare:
        pieces += [_text(t) for t in scene.texts]
    return "\n".join(pieces)


def _pieces(scene: Scene, part: str, bare: bool) -> Iterator[str]:
    yield f'<rect x="-600" y="{scene.ground}" width="3600" height="{scene.height}" class="earth"/>'
    for stroke in scene.strokes:
        if stroke.look == "stand" or (stroke.look == "contour" and not bare):
            yield _stroke(stroke, "")
    inside = [r for r in scene.rects if r.look == "inside"]
    yield from (_rect(r, part) for r in inside)
    yield from (_shape(s) for s in scene.shapes if s.look == "inside")
    if not bare:
        yield from (_water(w) for w in scene.waters)
    yield from (_shape(s) for s in scene.shapes if s.look != "inside")
    yield from (_rect(r, part) for r in scene.rects if r.look != "inside")
    for stroke in scene.strokes:
        if stroke.look not in _UNDER and not (bare and stroke.look in _ON_THE_RULE):
            yield _stroke(stroke, part)
    yield f'<line x1="-600" x2="3000" y1="{scene.ground}" y2="{scene.ground}" class="ground"/>'


def _text(text: Text) -> str:
    return (
        f'<text x="{text.x}" y="{text.y}" text-anchor="{text.anchor}" class="{text.look}">'
        f"{escape(text.words)}</text>"
    )


def _tint(tint: Tint) -> str:
    drawn = [*(_rect(r, "") for r in tint.rects), *(_shape(s) for s in tint.shapes)]
    drawn += [_text(t) for t in tint.texts]
    return (
        f'<g class="tints" data-tint="{escape(tint.key)}" aria-hidden="true">{"".join(drawn)}</g>'
    )


def picked(own: str, part: str) -> str:
    """What marks the part that is picked.

    Parameters
    ----------
    own : str
        Id of the part drawn
    part : str
        Id of a part

    Returns
    -------
    str
        A class for the element, or nothing
    """
    return " is-picked" if part and own == part else ""


def rects_markup(rects: Iterable[Rect]) -> str:
    """Rectangles as SVG, with the textures of what they show.

    Parameters
    ----------
    rects : iterable of Rect
        The rectangles

    Returns
    -------
    str
        SVG
    """
    return "\n".join(_rect(r, "") for r in rects)


def _rect(rect: Rect, part: str) -> str:
    of = f' data-of="{rect.part}"' if rect.part else ""
    return _textured(
        f'<rect x="{rect.x}" y="{rect.y}" width="{rect.width}" height="{rect.height}"',
        rect.look,
        picked(rect.part, part),
        of,
    )


def _shape(shape: Shape) -> str:
    of = f' data-of="{shape.part}"'
    return _textured(f'<polygon points="{shape.points}"', shape.look, "", of)


def _textured(begun: str, look: str, picked: str, of: str) -> str:
    drawn = f'{begun} class="{look}{picked}"{of}/>'
    pattern = _TEXTURES.get(look)
    if pattern is None:
        return drawn
    hides = ' class="rippled"' if pattern == "ripples" else ""
    return f'{drawn}{begun} fill="url(#{pattern})"{hides}{of}/>'


def _stroke(stroke: Stroke, part: str) -> str:
    of = ""
    if stroke.look == "shell":
        of = f' data-of="{stroke.part}" data-shell="{stroke.part}"'
    elif stroke.part:
        of = f' data-pipe="{stroke.part}"'
    return (
        f'<polyline points="{stroke.points}" stroke-width="{stroke.width}" '
        f'class="{stroke.look}{picked(stroke.part, part)}"{of}/>'
    )


def _water(water: Water) -> str:
    clip, within = "", ""
    if water.outline:
        clip = f'<clipPath id="within-{water.part}"><polygon points="{water.outline}"/></clipPath>'
        within = f' clip-path="url(#within-{water.part})"'
    return (
        f'{clip}<rect class="play-water" data-water="{water.part}" data-floor="{water.floor}" '
        f'x="{water.x}" width="{water.width}" y="0" height="0"{within}/>'
    )
