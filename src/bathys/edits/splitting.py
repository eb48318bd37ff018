"""A line split by a new tee or wye, so that another run begins or ends there."""

from collections.abc import Callable

from bathys.edits.editing import Edit
from bathys.plan.model import Plan
from bathys.plan.pipes import Run

__all__ = ["new_ids", "split_at_end", "split_at_start"]

NewId = Callable[[str], str]

_STUB = 0.3  # length of the pipe from where a line was split to the new tee [m]
_OVER = 0.05  # a new tee in a riser lies so far over the end it feeds [m]


def new_ids(plan: Plan) -> NewId:
    """Ids that no part has, each given once.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    callable
        From the letter an id begins with to the id
    """
    taken: set[str] = set()

    def new_id(letter: str) -> str:
        numbers = (f"{letter}{number}" for number in range(1, 100_000))
        new = next(n for n in numbers if n not in taken and plan.part(n) is None)
        taken.add(new)
        return new

    return new_id


def split_at_start(plan: Plan, run: Run, new_id: NewId) -> tuple[list[Edit], str]:
    """Put a tee near the start of a run, for another run to begin at.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        The run
    new_id : callable
        Gives the new parts' ids

    Returns
    -------
    (list of Edit, str)
        The edits, and the tee's id
    """
    height = plan.elevation(run.start)
    if height is None:  # of a pump, whose pipe has risen by then, or of a way out
        is_pumped = plan.group_of(run.source) == "pumps"
        height = (plan.elevation(run.end) or 0.0) + (_OVER if is_pumped else 0.0)
    made, tee = _junction("tee", height, new_id)
    stub = _stub(plan, run, run.start, tee, run.start, new_id)
    return [made, *stub, Edit(f"runs.{run.id}.from", tee)], tee


def split_at_end(plan: Plan, run: Run, new_id: NewId) -> tuple[list[Edit], str]:
    """Put a wye near the end of a run, for another run to end at.

    Parameters
    ----------
    plan : Plan
        The plan
    run : Run
        The run
    new_id : callable
        Gives the new parts' ids

    Returns
    -------
    (list of Edit, str)
        The edits, and the wye's id
    """
    made, wye = _junction("wye", plan.elevation(run.end) or 0.0, new_id)
    stub = _stub(plan, run, wye, run.end, run.end, new_id)
    return [made, *stub, Edit(f"runs.{run.id}.to", wye)], wye


def _junction(kind: str, height: float, new_id: NewId) -> tuple[Edit, str]:
    new = new_id("J")
    name = f"{kind.capitalize()} {new}"
    return Edit("junctions.+", {"id": new, "name": name, "kind": kind, "height": height}), new


def _stub(plan: Plan, run: Run, start: str, end: str, at: str, new_id: NewId) -> list[Edit]:
    """The short pipe between the old end of a run and its new one."""
    new, bore = new_id("R"), run.bore.model_dump(mode="json")
    data = {"id": new, "name": f"Pipe {new}", "bore": bore, "level_length": _STUB}
    edits = [Edit("runs.+", {**data, "from": start, "to": end})]
    if any(j.id == at and j.straight == run.id for j in plan.junctions):
        edits.append(Edit(f"junctions.{at}.straight", new))
    return edits
