"""The sump that layouts drain into."""

from bathys.design.brief import DesignBrief
from bathys.design.draft import Draft
from bathys.design.falls import SUMP_UNDER_RIM, sump_floor
from bathys.plan.shell import Shell

__all__ = ["add_sump"]


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
