"""A shell in a few words."""

from bathys.plan.shell import Shell
from bathys.units import System, show

__all__ = ["shell_in_words"]

_SIZES = {"length": "long", "width": "wide", "diameter": "across", "height": "high"}


def shell_in_words(shell: Shell, units: System) -> str:
    """What a shell is and its sizes inside.

    Parameters
    ----------
    shell : Shell
        The shell
    units : System
        The reader's units

    Returns
    -------
    str
        Such as ``Box, 1,800 mm long, 1,200 mm wide, 650 mm high``
    """
    told = [
        f"{show(float(getattr(shell, field)), 'length', units)} {word}"
        for field, word in _SIZES.items()
        if getattr(shell, field, None) is not None
    ]
    return ", ".join([shell.CHOICE.capitalize(), *told])
