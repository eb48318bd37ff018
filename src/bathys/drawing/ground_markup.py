"""The ground plan as SVG: text, in which every word of a plan is escaped."""

from collections.abc import Iterator
from html import escape

from bathys.drawing.ground_picture import Foot, GroundPicture, WayDrawn

__all__ = ["ground_markup"]

_CALLED = {"power": "power point"}


def ground_markup(picture: GroundPicture, picked: str = "", has_handles: bool = False) -> str:
    """Everything of the ground plan.

    Parameters
    ----------
    picture : GroundPicture
        What to draw
    picked : str
        Id of the part or mark that is picked; empty for the site itself
    has_handles : bool
        Whether the corners of the site are handles while nothing else is picked

    Returns
    -------
    str
        SVG, its words escaped
    """
    return "\n".join(_pieces(picture, picked, has_handles and not picked))


def _pieces(picture: GroundPicture, picked: str, has_handles: bool) -> Iterator[str]:
    yield f'<polygon class="site" points="{picture.site}"/>'
    yield f'<g class="grid">{"".join(_grid(picture))}</g>'
    yield f'<g class="standing">{_areas(picture.standing)}</g>'
    yield f'<polygon class="site-edge" points="{picture.site}"/>'
    yield from _marks(picture, picked)
    yield from (_foot(foot, foot.placed.vessel.id == picked) for foot in picture.feet)
    yield f'<g class="beyond">{_areas(picture.beyond)}</g>'
    yield from (_way(way, way.run == picked) for way in picture.ways)
    for joint in picture.joints:
        yield (
            f"{_handle('joint', joint.id == picked, 'joint', joint.id, joint.label)}"
            f'<circle cx="{joint.x}" cy="{joint.y}" r="5"/></g>'
        )
    yield from (_label(foot) for foot in picture.feet)
    for way in picture.ways:
        words = escape(way.label)
        yield f'<text class="way-label" x="{way.x}" y="{way.y}" dy="-5">{words}</text>'
    if has_handles:
        corners = "".join(
            f'<circle class="corner" cx="{x}" cy="{y}" r="7" data-site="{n}" tabindex="0" '
            f'role="button" aria-label="Corner {n + 1} of the site"/>'
            for n, (x, y) in enumerate(picture.site_corners)
        )
        yield f'<polygon class="site-grip" points="{picture.site}"/>'
        yield f'<g class="site-corners">{corners}</g>'
    yield (
        f'<g class="scale-bar"><rect x="12" y="12" width="{picture.bar}" height="5"/>'
        f'<text x="18" dx="{picture.bar}" y="19">{escape(picture.bar_words)}</text></g>'
    )


def _grid(picture: GroundPicture) -> Iterator[str]:
    for x, is_fifth in picture.across:
        look = ' class="fifth"' if is_fifth else ""
        yield f'<line x1="{x}" y1="0" x2="{x}" y2="{picture.height}"{look}/>'
    for y, is_fifth in picture.down:
        look = ' class="fifth"' if is_fifth else ""
        yield f'<line x1="0" y1="{y}" x2="{picture.width}" y2="{y}"{look}/>'


def _areas(paths: tuple[str, ...]) -> str:
    return "".join(f'<path fill-rule="evenodd" d="{path}"/>' for path in paths)


def _handle(look: str, is_picked: bool, kind: str, id_: str, label: str, more: str = "") -> str:
    """The beginning of a group that can be picked, dragged and reached by keys."""
    picked = " is-picked" if is_picked else ""
    return (
        f'<g class="{look}{picked}" data-{kind}="{escape(id_)}"{more} tabindex="0" role="button" '
        f'aria-label="{escape(label)}">'
    )


def _marks(picture: GroundPicture, picked: str) -> Iterator[str]:
    for row in picture.marks:
        kind, x, y = row.mark.kind, row.x, row.y
        is_picked = row.mark.id == picked
        yield (
            f"{_handle(f'ground-mark is-{kind}', is_picked, 'mark', row.mark.id, kind)}"
            f'<rect x="{x}" y="{y}" width="{row.width}" height="{row.height}"/>'
            f'<text x="{x}" y="{y}" dy="-4">{_CALLED.get(kind, kind)}</text></g>'
        )


def _foot(foot: Foot, is_picked: bool) -> str:
    vessel = foot.placed.vessel
    look = f"foot load-{foot.shade}{' is-under' if foot.is_under else ''}"
    turned = f' data-turned="{foot.placed.turned}"'
    legs = "".join(f'<polygon class="leg" points="{leg}"/>' for leg in foot.legs)
    begin = _handle(look, is_picked, "foot", vessel.id, vessel.name, turned)
    return f'{begin}<polygon points="{foot.points}"/>{legs}</g>'


def _label(foot: Foot) -> str:
    # What stands under another is named over its middle, where the other's label is not.
    x, y, below = foot.x, foot.y, 25
    if foot.is_under:
        y, below = round(y - 34.0, 1), -16
    name = escape(foot.placed.vessel.name)
    return (
        f'<g class="foot-label"><circle cx="{x}" cy="{y}" r="11"/>'
        f'<text x="{x}" y="{y}" dy="4">{escape(foot.label)}</text>'
        f'<text class="foot-name" x="{x}" y="{y}" dy="{below}">{name}</text></g>'
    )


def _way(way: WayDrawn, is_picked: bool) -> str:
    look = f"way{' is-pumped' if way.is_pumped else ''}"
    corners = "".join(
        f'<circle class="corner" cx="{x}" cy="{y}" r="7" data-corner="{n}" '
        f'data-height="{"" if z is None else z}"/>'
        for n, (x, y, z) in enumerate(way.corners if is_picked else ())
    )
    return (
        f"{_handle(look, is_picked, 'way', way.run, way.name)}"
        f'<polyline class="way-grip" points="{way.points}"/>'
        f'<polyline points="{way.points}"/>{corners}</g>'
    )
