"""What the units switch shows, and the number of a part."""

from collections.abc import Mapping

from django import template

from bathys.units import FAMILIES, System, own_system

__all__ = ["families", "of"]

register = template.Library()


@register.simple_tag
def families(units: System) -> list[tuple[str, str, str]]:
    """Each family of quantities: its key, its name, and the system it is shown in.

    Parameters
    ----------
    units : System
        The reader's units

    Returns
    -------
    list of (str, str, str)
        Key, name and system of each
    """
    return [
        (key, words, own_system(units, quantities[0]))
        for key, (words, quantities) in FAMILIES.items()
    ]


@register.filter
def of(numbers: Mapping[str, str] | str, part: str) -> str:
    """The label of a part; nothing for what has none.

    Parameters
    ----------
    numbers : mapping of str to str or str
        The label of each part, or nothing
    part : str
        Id of a part, or nothing

    Returns
    -------
    str
        The label, or nothing
    """
    return numbers.get(part, "") if isinstance(numbers, Mapping) else ""
