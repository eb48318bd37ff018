"""A part added with its pipes, its branch throttled so that the old outlets keep their water."""

from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.edits.joining import add_joined
from bathys.edits.valves import throttle
from bathys.network import NotSolved, balance
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.plan.pipes import Run

__all__ = ["add_with_pipes"]

_ANGLES = (0.0, 30.0, 40.0, 45.0, 50.0, 55.0, 60.0, 65.0, 70.0)
_KEPT = 0.5  # share of its flow that every older run keeps at least


def add_with_pipes(
    plan: Plan, kind: str, stands_in: str = "", feed: str = "", drain: str = ""
) -> tuple[list[Edit], str]:
    """Add a part as :func:`add_joined` does, with a valve on a branch of a pumped line.

    Parameters
    ----------
    plan : Plan
        The plan
    kind : str
        A key of ``ADDABLE``
    stands_in : str
        The vessel it stands in, for what does
    feed, drain : str
        Parts that it is joined to; empty for no pipe

    Returns
    -------
    (list of Edit, str)
        The edits, and the new part's id

    Raises
    ------
    EditRefused
        If there is no such kind, or it cannot be joined so
    """
    edits, new = add_joined(plan, kind, stands_in, feed, drain)
    after = apply_edits(plan, edits)
    branch = next((r.id for r in after.runs if r.target == new), "")
    if isinstance(plan.part(feed), Run) and branch:
        edits += _branch_valve(plan, after, branch)
    return edits, new


def _branch_valve(before: Plan, after: Plan, branch: str) -> list[Edit]:
    """A ball valve on a new branch, as far open as lets every run that carried water before keep
    half of it; a new branch that ends lower would otherwise take all (common practice). None if
    the plan before carried no water, or if the branch is not under pressure."""
    run, water = after.part(branch), water_at(after.site.water_temperature)
    try:
        carried = {r: f for r, f in balance(before, water).flows.items() if f > 0.0}
        pumped = balance(after, water).feeds
    except NotSolved:
        return []
    if not isinstance(run, Run) or not carried or branch not in pumped:
        return []
    edits: list[Edit] = []
    for angle in _ANGLES:
        edits = [Edit(f"runs.{branch}.valve", throttle(angle))]
        try:
            flows = balance(apply_edits(after, edits), water).flows
        except (NotSolved, EditRefused):
            continue
        if all(flows.get(r, 0.0) >= _KEPT * f for r, f in carried.items()):
            break
    return edits
