"""A side view as a file that stands by itself: for print, a document or a notebook."""

from collections.abc import Iterator
from html import escape

from bathys.drawing.markup import scene_markup
from bathys.drawing.scene import Badge, Scene

__all__ = ["TEXTURES", "small_svg_file", "svg_file"]

_INK, _WATER, _DEEP, _LAND, _CLAY, _MARK, _SOFT = (
    "#22313a",
    "#a9d3e0",
    "#2f7f9b",
    "#ece5d2",
    "#c98f5e",
    "#b3392c",
    "#62737c",
)

_MANNER = f"""
text {{ font-family: Georgia, serif; fill: {_INK}; }}
polyline {{ fill: none; stroke: {_INK}; stroke-linejoin: round; }}
.earth {{ fill: {_LAND}; }} .ground {{ stroke: #a88f57; stroke-width: 1.6; }}
.contour {{ stroke: #cfc6ae; stroke-dasharray: 1 5; }} .rule, .stand {{ stroke: {_SOFT}; }}
.rule-figure, .axis {{ font-size: 11px; fill: {_SOFT}; }}
.rule-name {{ font-size: 13px; font-style: italic; fill: {_SOFT}; }}
.inside, .junction {{ fill: #fff; }} .pipe {{ stroke: #fff; }}
.water-low {{ fill: {_WATER}; }} .water-high {{ fill: #d3e9f0; }}
.media {{ fill: {_CLAY}; fill-opacity: .38; stroke: {_CLAY}; stroke-dasharray: 2 4; }}
.guard {{ fill: #fff; fill-opacity: .55; stroke: {_SOFT}; stroke-dasharray: 3 2; }}
.bell, .mark, .valve {{ stroke: {_MARK}; }} .air-tube {{ stroke: #3f7d4d; }}
polyline.valve-body {{ fill: #fff; stroke: {_MARK}; }} .ball {{ fill: {_MARK}; stroke: #fff; }}
.supply, .carried, .carried-tip {{ stroke: {_DEEP}; }} .carried {{ stroke-dasharray: 1 5; }}
.junction {{ stroke: {_INK}; stroke-width: 1.5; }} .raft {{ stroke: #7a8f5a; }}
.filter {{ fill: none; stroke: {_INK}; }} .fish {{ fill: #fff; stroke: {_INK}; }}
.stone-bar {{ stroke: {_INK}; }} .bubble {{ fill: none; stroke: #fff; }}
.pump {{ fill: {_INK}; }} .flow, .play-water {{ display: none; }}
.mark-figure {{ font-size: 12px; fill: {_MARK}; }}
.vessel-name {{ font-size: 16px; font-style: italic; }}
.bore-figure {{ font-size: 10.5px; fill: {_SOFT}; }}
.holds {{ font-size: 12px; fill: {_INK}; }}
.stone {{ fill: none; stroke: {_CLAY}; stroke-width: .9; }}
.ripple {{ fill: none; stroke: {_DEEP}; opacity: .28; }}
.number circle {{ fill: #fff; stroke: {_INK}; stroke-width: 1.5; }}
.number text {{ font-size: 10.5px; font-weight: 700; }}
.number .label-3 {{ font-size: 9px; }} .number .label-4 {{ font-size: 7.5px; }}
"""

_HALO = """
.mark-figure, .vessel-name, .bore-figure, .holds { paint-order: stroke; stroke: #fff; }
.mark-figure, .vessel-name, .bore-figure, .holds { stroke-width: 3px; }
"""
"""For what paints a letter's edge before the letter; others would paint it over."""

TEXTURES = (
    '<pattern id="stones" width="24" height="17" patternUnits="userSpaceOnUse">'
    '<path class="stone" d="M2 4q2-3 5-1t2 4-5 1-2-4zM13 3q3-2 5 0t1 4-5 1-1-5z'
    'M6 12q1-3 5-2t3 4-5 2-3-4zM17 11q2-2 4 0t1 4-4 1-1-5z"/></pattern>'
    '<pattern id="ripples" width="72" height="26" patternUnits="userSpaceOnUse">'
    '<path class="ripple" d="M4 7q4-3 8 0t8 0M40 20q4-3 8 0t8 0"/></pattern>'
)
"""Patterns that the shapes of a scene are filled with."""

_LINE = 17.0  # of the list of names under the picture
_COLUMN = 240.0


def svg_file(scene: Scene, title: str, has_halo: bool = True) -> str:
    """A scene with its numbers, what they stand for, and its manner, as one SVG document.

    Parameters
    ----------
    scene : Scene
        A side view
    title : str
        Written over it
    has_halo : bool
        Whether words stand out from what is behind them

    Returns
    -------
    str
        An SVG document; every word of the plan is escaped
    """
    columns = max(int(scene.width // _COLUMN), 1)
    listed = sorted(scene.badges, key=lambda b: b.station.number)
    tall = scene.height + 40.0 + _LINE * -(-len(listed) // columns)
    return "\n".join(
        [
            '<?xml version="1.0" encoding="UTF-8"?>',
            f'<svg xmlns="http://www.w3.org/2000/svg" '
            f'viewBox="0 -34 {scene.width:.0f} {tall + 34:.0f}"'
            f' width="{scene.width:.0f}" height="{tall + 34:.0f}" role="img">',
            f"<title>{escape(title)}</title>",
            f"<desc>{escape(scene.summary)}</desc>",
            f"<style>{_MANNER}{_HALO if has_halo else ''}</style>",
            f"<defs>{TEXTURES}</defs>",
            f'<rect x="0" y="-34" width="{scene.width:.0f}" height="{tall + 34:.0f}" fill="#fff"/>',
            f'<text x="12" y="-12" font-size="20">{escape(title)}</text>',
            f'<svg width="{scene.width:.0f}" height="{scene.height:.0f}">',
            scene_markup(scene),
            *(_number(b) for b in scene.badges),
            "</svg>",
            *_names(scene, listed, columns),
            "</svg>",
            "",
        ]
    )


def small_svg_file(scene: Scene, title: str) -> str:
    """A scene as a small picture: no names, figures or numbers.

    Parameters
    ----------
    scene : Scene
        A side view
    title : str
        What a screen reader calls it

    Returns
    -------
    str
        An SVG document
    """
    size = f"{scene.width:.0f} {scene.height:.0f}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {size}" role="img">'
        f"<title>{escape(title)}</title><style>{_MANNER}</style><defs>{TEXTURES}</defs>"
        f'<rect width="100%" height="100%" fill="#fff"/>{scene_markup(scene, bare=True)}</svg>'
    )


def _number(badge: Badge) -> str:
    return (
        f'<g class="number"><circle cx="{badge.x}" cy="{badge.y}" r="9.5"/>'
        f'<text x="{badge.x}" y="{badge.y}" dy="4" text-anchor="middle" '
        f'class="label-{len(badge.station.label)}">{escape(badge.station.label)}'
        "</text></g>"
    )


def _names(scene: Scene, listed: list[Badge], columns: int) -> Iterator[str]:
    """Which part each number is, in columns that are read downwards."""
    rows = -(-len(listed) // columns)
    for place, badge in enumerate(listed):
        x, y = 14.0 + _COLUMN * (place // rows), scene.height + 30.0 + _LINE * (place % rows)
        station = badge.station
        words = f"{station.id}  {station.name}"
        yield f'<text x="{x:.0f}" y="{y:.0f}" font-size="12">{escape(words)}</text>'
