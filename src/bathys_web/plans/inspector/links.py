"""Boxes that name another part: what a pump stands in, where a run leads, what goes straight on."""

from collections.abc import Callable, Iterator
from typing import Any

from bathys.parts.jobs import JOBS
from bathys.plan import Plan
from bathys.plan.places import part_id
from bathys.plan.topology import runs_at
from bathys_web.plans.inspector.row import Row

__all__ = ["LINKS", "link_rows"]

Options = tuple[tuple[str, str], ...]
_NONE = ""


def _named(part: Any) -> tuple[str, str]:
    return part.id, f"{part.name} ({part.id})"


def _vessels(plan: Plan, part: Any) -> Options:
    return tuple(_named(v) for v in plan.vessels)


def _starts(plan: Plan, run: Any) -> Options:
    """Where a run may begin: whatever has no run of its own there yet, vessels and junctions."""
    free = [p for p in (*plan.pumps, *plan.ways_out) if plan.run_of(p) in (None, run)]
    inside = (j for j in plan.junctions if not plan.is_outfall(j.id))
    found = (*free, *plan.vessels, *inside)
    return tuple(_named(p) for p in found if p.id != run.target)


def _ends(plan: Plan, run: Any) -> Options:
    found = (*plan.vessels, *plan.junctions)
    return tuple(_named(p) for p in found if p.id != run.source)


def _straights(plan: Plan, junction: Any) -> Options:
    return ((_NONE, "none is named"), *(_named(r) for r in runs_at(plan, junction.id)))


def _sources(plan: Plan, transfer: Any) -> Options:
    own = getattr(transfer, "target", None) or getattr(transfer, "stands_in", None)
    return ((_NONE, "fresh water"), *(_named(v) for v in plan.vessels if v.id != own))


def _targets(plan: Plan, transfer: Any) -> Options:
    held = (_named(v) for v in plan.vessels if v.id != transfer.source)
    return ((_NONE, "out of the system"), *held)


def _around(plan: Plan, vessel: Any) -> Options:
    held = (_named(v) for v in plan.vessels if v.id != vessel.id and v.within is None)
    return ((_NONE, "no other vessel"), *held)


def _jobs(plan: Plan, vessel: Any) -> Options:
    return tuple((name, job.name.lower()) for name, job in JOBS.items())


LINKS: dict[str, tuple[str, str, Callable[[Plan, Any], Options]]] = {
    "job": ("Used as", "", _jobs),
    "stands_in": ("Stands in", "", _vessels),
    "within": (
        "Stands within",
        "A bucket in a bucket: its overflow is a weir over its rim.",
        _around,
    ),
    "start": ("From", "", _starts),
    "end": ("To", "A vessel gets a hole of its own for it.", _ends),
    "straight": ("Straight on", "The run that goes straight through.", _straights),
    "source": ("From", "", _sources),
    "target": ("To", "", _targets),
}
"""By field: its label, its hint and what may be chosen."""

_OUTSIDE = {"start": "from", "end": "to"}  # as the plan file has them


def link_rows(plan: Plan, part: Any, name: str, path: str) -> Iterator[Row]:
    """The box of a field that names another part; none where there is nothing to choose.

    Parameters
    ----------
    plan : Plan
        The plan
    part : object
        The part
    name : str
        Its name
    path : str
        Path of the field, such as ``vessels.B1.floor_height``

    Yields
    ------
    Row
        One row, or none
    """
    label, hint, options = LINKS[name]
    found = options(plan, part)
    value = part_id(getattr(part, name) or _NONE)
    if len(found) > 1:
        field = _OUTSIDE.get(name, name)
        yield Row(f"{path}.{field}", label, "link", value, hint, options=found)
