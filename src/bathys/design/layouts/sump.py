"""The sump that layouts drain into."""

from collections.abc import Callable

from bathys.design.brief import DesignBrief
from bathys.design.draft import Draft
from bathys.design.falls import SUMP_UNDER_RIM, sump_floor
from bathys.design.sumps import sump_need
from bathys.plan.shell import Shell

__all__ = ["add_sump", "one_sump"]


def one_sump(name: str = "Sump") -> Callable[[DesignBrief], dict[str, float]]:
    """A layout's only sump: all water that goes up and down does so in it.

    Parameters
    ----------
    name : str
        Its name

    Returns
    -------
    callable
        From a brief to what goes up and down in it, [m³]
    """

    def needs(brief: DesignBrief) -> dict[str, float]:
        return {name: sump_need(brief)}

    return needs


def add_sump(
    draft: Draft, brief: DesignBrief, sump: Shell, name: str = "Sump"
) -> tuple[str, float]:
    """Put down the sump, filled to where it may be with the pump off.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    sump : Shell
        What it is made of
    name : str
        Its name

    Returns
    -------
    (str, float)
        Its id, and the height at which drains end in it, [m]
    """
    floor = sump_floor(brief, sump)
    depth = round(sump.height - 0.09, 3)
    id_ = draft.vessel(draft.named("S"), name, "sump", sump, floor, water_depth=depth)
    return id_, floor + sump.height - SUMP_UNDER_RIM
