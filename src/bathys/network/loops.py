"""Which vessels share one water, and which of them stands at whatever is left of it."""

from bathys.network.layout import Layout

__all__ = ["closing_vessels"]


def closing_vessels(layout: Layout) -> dict[str, str]:
    """By vessel, the vessel of its loop whose level is whatever water is left.

    Parameters
    ----------
    layout : Layout
        The plan compiled

    Returns
    -------
    dict of str to str
        Id of that vessel, by each vessel's id
    """
    chosen: dict[str, str] = {}
    for loop in _loops(layout):
        best = _closing_of(layout, loop)
        if best is not None:
            chosen.update(dict.fromkeys(sorted(loop), best))
    return chosen


def _loops(layout: Layout) -> list[set[str]]:
    """Sets of vessels that open runs join, through junctions."""
    plan = layout.plan
    leader: dict[str, str] = {v.id: v.id for v in plan.vessels}

    def lead(place: str) -> str:
        leader.setdefault(place, place)
        while leader[place] != place:
            leader[place] = leader[leader[place]]
            place = leader[place]
        return place

    for run in plan.runs:
        if not layout.lines[run.id].shut and not plan.is_outfall(run.end):
            one, two = (lead(plan.owner_of(p) or p) for p in (run.start, run.end))
            leader[one] = two
    loops: dict[str, set[str]] = {}
    for vessel in plan.vessels:
        loops.setdefault(lead(vessel.id), set()).add(vessel.id)
    return list(loops.values())


def _closing_of(layout: Layout, loop: set[str]) -> str | None:
    """A pumped vessel with water in it; a sump before any other, and one that nothing drains."""
    floats = {p.stands_in for p in layout.plan.pumps if p.band is not None}
    pumped = {p.stands_in for p in layout.plan.pumps}
    filled = [
        v
        for v in layout.plan.vessels
        if v.id in loop and v.water_depth is not None and v.id not in floats
    ]
    order = sorted(
        filled,
        key=lambda v: (v.id not in pumped, not v.use.takes_up, bool(layout.drained_by(v.id))),
    )
    return order[0].id if order else None
