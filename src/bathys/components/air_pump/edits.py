"""An air pump as it is usually begun."""

from bathys.edits.usual import Data

__all__ = ["NAME", "usual"]

NAME = "air pump"


def usual() -> Data:
    """3,600 L an hour at no depth, down to three metres at most.

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"name": "Air pump", "max_flow": 1e-3, "max_pressure": 30000.0, "power": 25.0}
