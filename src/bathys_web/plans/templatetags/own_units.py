"""What the units switch shows."""

from django import template

from bathys.units import FAMILIES, System, own_system

__all__ = ["families"]

register = template.Library()


@register.simple_tag
def families(units: System) -> list[tuple[str, str, str]]:
    """Each family of quantities: its key, its name, and the system it is shown in."""
    return [
        (key, words, own_system(units, quantities[0]))
        for key, (words, quantities) in FAMILIES.items()
    ]
