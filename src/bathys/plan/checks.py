"""What must hold between the parts of a plan for it to mean anything.

Each check raises :class:`PlanFault` with the path of the part and a sentence. What is merely
unwise is not refused here: it becomes a finding.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from bathys.plan.model import BellSiphon, Plan, Vessel

__all__ = ["PlanFault", "check_links", "check_unique_ids", "check_vessel_heights"]


class PlanFault(ValueError):
    """A plan that contradicts itself.

    Attributes
    ----------
    path : str
        Path of the part at fault, such as ``vessels.B1.media``
    sentence : str
        What is wrong, for the builder
    """

    def __init__(self, path: str, sentence: str) -> None:
        super().__init__(f"{path}: {sentence}")
        self.path = path
        self.sentence = sentence


def check_unique_ids(plan: Plan) -> None:
    """No two parts share an id."""
    seen: set[str] = set()
    for kind in ("vessels", "pumps", "runs", "siphons"):
        for part in getattr(plan, kind):
            if part.id in seen:
                raise PlanFault(f"{kind}.{part.id}.id", f"another part is called {part.id} too")
            seen.add(part.id)
    for vessel in plan.vessels:
        names = [port.name for port in vessel.ports]
        if len(names) != len(set(names)):
            raise PlanFault(f"vessels.{vessel.id}.ports", "two ports share a name")


def _ports(plan: Plan) -> tuple[set[str], set[str]]:
    vessel_ports = {f"{v.id}.{p.name}" for v in plan.vessels for p in v.ports}
    starts = {f"{p.id}.out" for p in plan.pumps} | {f"{s.id}.tail" for s in plan.siphons}
    return vessel_ports | starts, vessel_ports


def check_links(plan: Plan) -> None:
    """Pumps and siphons stand in vessels that exist; runs join ports that exist."""
    vessels = {v.id for v in plan.vessels}
    for kind in ("pumps", "siphons"):
        for part in getattr(plan, kind):
            if part.stands_in not in vessels:
                raise PlanFault(
                    f"{kind}.{part.id}.stands_in", f"there is no vessel called {part.stands_in}"
                )
    starts, ends = _ports(plan)
    taken: set[str] = set()
    for run in plan.runs:
        if run.start not in starts:
            raise PlanFault(f"runs.{run.id}.from", f"there is no port called {run.start}")
        if run.end not in ends:
            raise PlanFault(f"runs.{run.id}.to", f"there is no vessel port called {run.end}")
        if run.start == run.end:
            raise PlanFault(f"runs.{run.id}.to", "the run ends where it starts")
        if run.start in taken:
            raise PlanFault(f"runs.{run.id}.from", f"another run starts at {run.start} already")
        taken.add(run.start)


def _heights(vessel: Vessel) -> Iterator[tuple[str, str, float]]:
    if vessel.water_depth is not None:
        yield "water_depth", "the water", vessel.water_depth
    if vessel.media is not None:
        yield "media.top", "the media", vessel.media.top
    yield "freeboard", "the freeboard", vessel.freeboard


def _siphon_heights(siphon: BellSiphon) -> Iterator[tuple[str, str, float]]:
    yield "rim_height", "the standpipe's rim", siphon.rim_height


def check_vessel_heights(plan: Plan) -> None:
    """What stands in a vessel stays below its rim."""
    shells = {v.id: v.shape.height for v in plan.vessels}
    for vessel in plan.vessels:
        for field, what, height in _heights(vessel):
            if height > vessel.shape.height:
                raise PlanFault(
                    f"vessels.{vessel.id}.{field}", f"{what} would be higher than the vessel's rim"
                )
        if vessel.media is not None and vessel.media.bottom >= vessel.media.top:
            raise PlanFault(
                f"vessels.{vessel.id}.media.bottom", "the media must begin below where they end"
            )
    for siphon in plan.siphons:
        for field, what, height in _siphon_heights(siphon):
            if height > shells[siphon.stands_in]:
                raise PlanFault(
                    f"siphons.{siphon.id}.{field}", f"{what} would be higher than the bed's rim"
                )
    for pump in plan.pumps:
        if pump.inlet_height >= shells[pump.stands_in]:
            raise PlanFault(
                f"pumps.{pump.id}.inlet_height", "the pump would stand above the vessel's rim"
            )
