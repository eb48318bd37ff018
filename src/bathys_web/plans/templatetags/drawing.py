"""Pictures in templates."""

from collections.abc import Iterable

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

from bathys_web.plans.side_view import Rect, Scene
from bathys_web.plans.side_view.markup import badges_markup, rects_markup, scene_markup

__all__ = ["drawn", "drawn_badges", "drawn_rects", "icon"]

register = template.Library()


@register.simple_tag
def drawn(scene: Scene, part: str = "", bare: bool = False) -> SafeString:
    """A scene as SVG."""
    return scene_markup(scene, part, bare)


@register.simple_tag
def drawn_badges(scene: Scene, here: str, inspector: str, part: str) -> SafeString:
    """Its numbers and handles."""
    return badges_markup(scene, here, inspector, part)


@register.simple_tag
def drawn_rects(rects: Iterable[Rect]) -> SafeString:
    """Rectangles as SVG."""
    return rects_markup(rects)


@register.simple_tag
def icon(name: str) -> SafeString:
    """A mark beside the words of a button; the page holds its outline."""
    return format_html('<svg class="icon" aria-hidden="true"><use href="#icon-{}"/></svg>', name)
