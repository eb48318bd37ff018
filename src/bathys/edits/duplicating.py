"""A second one of a part: a vessel with what stands in it and with its pipes."""

from collections.abc import Iterator
from typing import Any

from bathys.edits.adding import LETTERS, right_end
from bathys.edits.editing import Edit, EditRefused
from bathys.edits.rerouting import known_part
from bathys.edits.splitting import new_ids, split_at_end, split_at_start
from bathys.plan.model import GROUPS, Plan
from bathys.plan.pipes import Junction, Run
from bathys.plan.places import part_id
from bathys.plan.vessel import Vessel

__all__ = ["duplicate_part"]

_LONGEST_NAME = 80
_MOST_FEEDS = 2  # a vessel that takes up what many others drain is copied without their pipes


def duplicate_part(plan: Plan, id_: str) -> tuple[list[Edit], str]:
    """A second one of a part, beside it. A vessel comes with all that stands in it, fed by a tee
    from the pipe that feeds the first, and drained to where the first drains; one that holds a
    pump, or takes up many drains, without pipes.

    Parameters
    ----------
    plan : Plan
        The plan
    id_ : str
        The part

    Returns
    -------
    (list of Edit, str)
        The edits, and the new part's id

    Raises
    ------
    EditRefused
        If it is a run: two runs cannot lead from one place
    """
    part, group = known_part(plan, id_), plan.group_of(id_)
    if group == "runs":
        raise EditRefused("A run leads from one place to another; lead a new one instead.")
    return _Copying(plan).edits_of(part, group)


class _Copying:
    """The copies of one part, their ids, and the edits that make them."""

    def __init__(self, plan: Plan) -> None:
        self.plan, self.edits = plan, list[Edit]()
        self.ids: dict[str, str] = {}
        self._new_id = new_ids(plan)

    def edits_of(self, part: Any, group: str) -> tuple[list[Edit], str]:
        new = self._copy(part, group)
        if isinstance(part, Vessel):
            for inner_group in GROUPS:
                for inner in getattr(self.plan, inner_group):
                    if getattr(inner, "stands_in", None) == part.id:
                        self._copy(inner, inner_group, new)
            for run in self.plan.runs if self._comes_with_pipes(part) else ():
                if run.source in self.ids and run.target in self.ids:
                    self._copy_run(run, self._place(run.start), self._place(run.end))
                elif run.target in self.ids:
                    self._copy_run(run, self._branch_of(run), self._place(run.end))
                elif run.source in self.ids:
                    self._copy_run(run, self._place(run.start), self._end_for(run))
        return self.edits, new

    def _comes_with_pipes(self, vessel: Vessel) -> bool:
        """Whether a second one makes sense on the same pipes: not of what a pump stands in, whose
        level closes a loop, nor of what takes up the drains of many."""
        feeds = sum(run.target == vessel.id for run in self.plan.runs)
        return feeds <= _MOST_FEEDS and all(p.stands_in != vessel.id for p in self.plan.pumps)

    def _copy(self, part: Any, group: str, stands_in: str = "") -> str:
        new = self._new_id(part.id.rstrip("0123456789") or LETTERS[group])
        self.ids[part.id] = new
        data = part.model_dump(mode="json", by_alias=True)
        data |= {"id": new, "name": f"{part.name} {new}"[:_LONGEST_NAME]}
        if stands_in:
            data["stands_in"] = stands_in
        if isinstance(part, Junction):
            data |= {"straight": None, "spot": None}
        if isinstance(part, Vessel):
            data |= {"along": right_end(self.plan), "spot": None}  # it cannot stand in the first
        self.edits.append(Edit(f"{group}.+", data))
        return new

    def _place(self, place: str) -> str:
        """The same place of the copy."""
        part, dot, end = place.partition(".")
        return f"{self.ids[part]}{dot}{end}"

    def _copy_run(self, run: Run, start: str, end: str) -> None:
        new = self._new_id("R")
        data = run.model_dump(mode="json", by_alias=True)
        data |= {"id": new, "name": f"{run.name} {new}"[:_LONGEST_NAME], "from": start, "to": end}
        data["route"] = None
        self.edits.append(Edit("runs.+", data))

    def _branch_of(self, run: Run) -> str:
        """Where a second run like this one begins: at a port of its own where this one begins at a
        vessel's wall, else at a tee put into it."""
        port = self.plan.port(run.start)
        if port is not None:
            return self._another_port(run.start)
        edits, tee = split_at_start(self.plan, run, self._new_id)
        self.edits += edits
        return tee

    def _end_for(self, run: Run) -> str:
        """Where a second run like this one ends: at a port of its own, else at a wye put into the
        line that this one leads to."""
        if self.plan.port(run.end) is not None:
            return self._another_port(run.end)
        edits, wye = split_at_end(self.plan, run, self._new_id)
        self.edits += edits
        return wye

    def _another_port(self, place: str) -> str:
        """A port like this one, beside it."""
        port, vessel = self.plan.port(place), self.plan.vessel(part_id(place))
        if port is None:
            raise EditRefused(f"There is no hole “{place}”.")
        taken = {p.name for p in vessel.ports} | set(self._ports_of(vessel.id))
        stem = port.name.rstrip("0123456789")
        name = next(n for n in (f"{stem}{k}" for k in range(2, 10_000)) if n not in taken)
        data = port.model_dump(mode="json") | {"name": name}
        self.edits.append(Edit(f"vessels.{vessel.id}.ports.+", data))
        return f"{vessel.id}.{name}"

    def _ports_of(self, vessel: str) -> Iterator[str]:
        for edit in self.edits:
            if edit.path == f"vessels.{vessel}.ports.+":
                yield edit.value["name"]
