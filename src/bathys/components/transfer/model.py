"""Water that is carried by the clock."""

from typing import Literal

from bathys.plan.supply import Transfer

__all__ = ["MODEL", "ClockedTransfer"]


class ClockedTransfer(Transfer):
    """Water that is moved at a set time: by hand, by a dosing pump, out to the garden."""

    kind: Literal["transfer"] = "transfer"


MODEL = ClockedTransfer
