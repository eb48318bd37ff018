"""What goes missing from a loop until somebody tops it up."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.evaluation.reserve import loop_of, reserve_of

__all__ = ["ToppingUp", "topping_up_of"]

_USUALLY = 2 * 86400.0
"""Where a plan does not tell it, somebody tops it up so often (assumed) [s]."""


@dataclass(frozen=True, slots=True)
class ToppingUp:
    """Of the loop that a vessel closes.

    Attributes
    ----------
    rate : float
        What goes missing, [m³/s]
    every : float
        Time between two visits of somebody who tops it up, [s]
    most : float
        What may be missing before somebody comes and the pump yet keeps its water, [m³]
    """

    rate: float
    every: float
    most: float


def topping_up_of(found: Evaluation, vessel: str) -> ToppingUp | None:
    """What goes missing from the loop that a vessel closes.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    vessel : str
        Its id

    Returns
    -------
    ToppingUp or None
        None where it closes no loop or nothing goes missing, such as under a float valve
    """
    if vessel not in found.balance.closing.values():
        return None
    kept = reserve_of(found, vessel)
    if kept is None or kept.rate <= 0.0:
        return None
    inside, rate = loop_of(found, vessel), kept.rate / 86400.0
    visits = (t.visit for t in found.plan.top_ups if t.stands_in in inside)
    every = min((v.every for v in visits if v is not None), default=_USUALLY)
    return ToppingUp(rate, every, min(rate * every, max(kept.volume, 0.0)))
