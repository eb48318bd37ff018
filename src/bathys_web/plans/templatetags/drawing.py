"""Pictures in templates."""

from collections.abc import Iterable

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe

from bathys.drawing import Rect, Scene
from bathys.drawing.ground_markup import ground_markup
from bathys.drawing.ground_picture import GroundPicture
from bathys.drawing.markup import rects_markup, scene_markup
from bathys.drawing.sheet import TEXTURES
from bathys.drawing.tints import Tint
from bathys_web.plans.badges import badges_markup

__all__ = ["drawn", "drawn_badges", "drawn_rects", "icon", "textures"]

register = template.Library()


@register.simple_tag
def drawn(
    scene: Scene, part: str = "", bare: bool = False, tints: Iterable[Tint] = ()
) -> SafeString:
    """A scene as SVG.

    Parameters
    ----------
    scene : Scene
        The picture
    part : str
        Id of a part, or nothing
    bare : bool
        Whether without names, marks and what plays
    tints : iterable of Tint
        What the water can be shaded by

    Returns
    -------
    SafeString
        SVG
    """
    return mark_safe(scene_markup(scene, part, bare, tints))  # noqa: S308 - its words are escaped


@register.simple_tag
def drawn_badges(scene: Scene, here: str, inspector: str, part: str) -> SafeString:
    """Its numbers and handles.

    Parameters
    ----------
    scene : Scene
        The picture
    here : str
        Address of the plan's page
    inspector : str
        Address of the inspector
    part : str
        Id of a part, or nothing

    Returns
    -------
    SafeString
        SVG
    """
    return badges_markup(scene, here, inspector, part)


@register.simple_tag
def drawn_rects(rects: Iterable[Rect]) -> SafeString:
    """Rectangles as SVG.

    Parameters
    ----------
    rects : iterable of Rect
        The rectangles

    Returns
    -------
    SafeString
        SVG
    """
    return mark_safe(rects_markup(rects))  # noqa: S308 - no words in them


@register.simple_tag
def textures() -> SafeString:
    """Patterns that pictures are filled with; a page holds them once.

    Returns
    -------
    SafeString
        SVG
    """
    return mark_safe(TEXTURES)  # noqa: S308 - no words in them


@register.simple_tag
def icon(name: str) -> SafeString:
    """A mark beside the words of a button; the page holds its outline.

    Parameters
    ----------
    name : str
        Its name

    Returns
    -------
    SafeString
        SVG
    """
    return format_html('<svg class="icon" aria-hidden="true"><use href="#icon-{}"/></svg>', name)


@register.simple_tag
def drawn_ground(picture: GroundPicture, picked: str) -> SafeString:
    """The ground plan on its page.

    Parameters
    ----------
    picture : GroundPicture
        What to draw
    picked : str
        Id of the part or mark that is picked

    Returns
    -------
    SafeString
        SVG
    """
    return mark_safe(ground_markup(picture, picked, has_handles=True))  # noqa: S308 - escaped


@register.simple_tag
def drawn_ground_file(picture: GroundPicture) -> SafeString:
    """The ground plan in a file of its own.

    Parameters
    ----------
    picture : GroundPicture
        What to draw

    Returns
    -------
    SafeString
        SVG
    """
    return mark_safe(ground_markup(picture))  # noqa: S308 - escaped
