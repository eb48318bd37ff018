"""A scene as SVG. Written here and not in a template, since a large plan has a thousand shapes and
is drawn anew with every edit."""

from collections.abc import Iterable, Iterator

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from bathys_web.plans.side_view.scene import Badge, Rect, Scene, Shape, Stroke, Water

__all__ = ["badges_markup", "rects_markup", "scene_markup"]

_UNDER = ("stand", "contour")
_ON_THE_RULE = ("mark", "rule")
_TEXTURES = {"media": "stones", "water-low": "ripples"}
"""Pattern drawn over what looks so; the page holds them once, for all its pictures."""


def scene_markup(scene: Scene, part: str = "", bare: bool = False) -> SafeString:
    """Everything of a scene but its badges and handles.

    Parameters
    ----------
    scene : Scene
        What to draw
    part : str
        Id of the part that is picked
    bare : bool
        Whether names, marks and what plays are left out, for a small picture

    Returns
    -------
    SafeString
        SVG, its words escaped
    """
    return mark_safe("\n".join(_pieces(scene, part, bare)))  # noqa: S308 - words are escaped below


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
    if bare:
        return
    for text in scene.texts:
        yield (f'<text x="{text.x}" y="{text.y}" text-anchor="{text.anchor}" class="{text.look}">'
               f"{escape(text.words)}</text>")  # fmt: skip


def _picked(own: str, part: str) -> str:
    return " is-picked" if part and own == part else ""


def rects_markup(rects: Iterable[Rect]) -> SafeString:
    """Rectangles as SVG, with the textures of what they show."""
    return mark_safe("\n".join(_rect(r, "") for r in rects))  # noqa: S308 - no words in them


def _rect(rect: Rect, part: str) -> str:
    of = f' data-of="{rect.part}"' if rect.part else ""
    return _textured(
        f'<rect x="{rect.x}" y="{rect.y}" width="{rect.width}" height="{rect.height}"', rect.look,
        _picked(rect.part, part), of,
    )  # fmt: skip


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
    return (f'<polyline points="{stroke.points}" stroke-width="{stroke.width}" '
            f'class="{stroke.look}{_picked(stroke.part, part)}"{of}/>')  # fmt: skip


def _water(water: Water) -> str:
    clip, within = "", ""
    if water.outline:
        clip = f'<clipPath id="within-{water.part}"><polygon points="{water.outline}"/></clipPath>'
        within = f' clip-path="url(#within-{water.part})"'
    return (f'{clip}<rect class="play-water" data-water="{water.part}" data-floor="{water.floor}" '
            f'x="{water.x}" width="{water.width}" y="0" height="0"{within}/>')  # fmt: skip


def badges_markup(scene: Scene, here: str, inspector: str, part: str) -> SafeString:
    """What of a scene is pressed or dragged: the shells' handles, the numbers of the stations.

    Parameters
    ----------
    scene : Scene
        What to draw
    here, inspector : str
        Addresses of the plan and of its inspector
    part : str
        Id of the part that is picked

    Returns
    -------
    SafeString
        SVG, its words escaped
    """
    handles = (
        f'<rect x="{r.x}" y="{r.y}" width="{r.width}" height="{r.height}" class="handle'
        f'{_picked(r.part, part)}" data-lift="{r.part}">'
        "<title>Press to change it, drag to move it</title></rect>"
        for r in scene.handles
    )  # fmt: skip
    badges = (_badge(b, escape(here), escape(inspector), part) for b in scene.badges)
    return mark_safe("\n".join([*handles, *badges]))  # noqa: S308 - words are escaped


def _badge(badge: Badge, here: str, inspector: str, part: str) -> str:
    station, pin = badge.station, badge.pin
    name = escape(station.name)
    look = _picked(station.id, part) + (f" has-{pin}" if pin else "")
    told = f"{station.number} {name}" + (f", {pin}" if pin else "")
    mark = (f'<polygon class="pin" points="{badge.pin_points}"/><title>{name}: {pin}</title>'
            if pin else "")  # fmt: skip
    return (
        f'<a class="badge-link{look}" href="{here}?part={station.id}" '
        f'hx-get="{inspector}?part={station.id}" hx-target="#inspector" hx-swap="outerHTML" '
        'hx-sync="#inspector:replace" '
        f'data-part="{station.id}" aria-label="{told}">'
        f'<circle cx="{badge.x}" cy="{badge.y}" r="9.5"/>'
        f'<text x="{badge.x}" y="{badge.y}" dy="4" text-anchor="middle">{station.number}</text>'
        f"{mark}</a>"
    )
