"""What of a picture is pressed or dragged, as SVG. Written here and not in a template, since a
large plan has hundreds and is drawn again with every edit."""

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from bathys.drawing.markup import picked
from bathys.drawing.scene import Badge, Scene

__all__ = ["badges_markup"]


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
        f'{picked(r.part, part)}" data-lift="{r.part}">'
        "<title>Press to change it, drag to move it</title></rect>"
        for r in scene.handles
    )
    badges = (_badge(b, escape(here), escape(inspector), part) for b in scene.badges)
    return mark_safe("\n".join([*handles, *badges]))  # noqa: S308 - words are escaped


def _badge(badge: Badge, here: str, inspector: str, part: str) -> str:
    station, pin = badge.station, badge.pin
    name = escape(station.name)
    look = picked(station.id, part) + (f" has-{pin}" if pin else "")
    label = escape(station.label)
    told = f"{label} {name}" + (f", {pin}" if pin else "")
    mark = (
        f'<polygon class="pin" points="{badge.pin_points}"/><title>{name}: {pin}</title>'
        if pin
        else ""
    )
    return (
        f'<a class="badge-link{look}" href="{here}?part={station.id}" '
        f'hx-get="{inspector}?part={station.id}" hx-target="#inspector" hx-swap="outerHTML" '
        'hx-sync="#inspector:replace" '
        f'data-part="{station.id}" aria-label="{told}">'
        f'<circle cx="{badge.x}" cy="{badge.y}" r="9.5"/>'
        f'<text x="{badge.x}" y="{badge.y}" dy="4" text-anchor="middle" '
        f'class="label-{len(station.label)}">{label}</text>'
        f"{mark}</a>"
    )
