"""Where vessels stand from the left, as the side view draws them."""

from bathys.plan.model import Plan

__all__ = ["GAP", "spans_of"]

GAP = 0.35
"""Room between vessels that the plan does not place [m]."""


def spans_of(plan: Plan) -> dict[str, tuple[float, float]]:
    """Left and right end of each vessel; those that the plan does not place stand in its order.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of (float, float)
        By vessel id, from the left, [m]
    """
    spans: dict[str, tuple[float, float]] = {}
    edge = 0.0
    for vessel in plan.vessels:
        left = edge if vessel.along is None else float(vessel.along)
        spans[vessel.id] = (left, left + vessel.shape.width_at(vessel.shape.height))
        edge = max(edge, spans[vessel.id][1] + GAP)
    return spans
