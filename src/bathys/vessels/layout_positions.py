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
    for vessel in (v for v in plan.vessels if v.within is None):
        left = edge if vessel.along is None else float(vessel.along)
        spans[vessel.id] = (left, left + vessel.shape.width_at(vessel.shape.height))
        edge = max(edge, spans[vessel.id][1] + GAP)
    for vessel in (v for v in plan.vessels if v.within is not None):
        # Side by side within the vessel around them, unless the plan places them.
        left, right = spans[vessel.within or ""]
        peers = [v for v in plan.vessels if v.within == vessel.within]
        place = left + (peers.index(vessel) + 0.5) * (right - left) / len(peers)
        wide = vessel.shape.width_at(vessel.shape.height)
        begin = place - 0.5 * wide if vessel.along is None else float(vessel.along)
        spans[vessel.id] = (begin, begin + wide)
    return {v.id: spans[v.id] for v in plan.vessels}
