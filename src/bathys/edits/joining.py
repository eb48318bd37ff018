"""Add a part with the pipes that join it to the others."""

from collections.abc import Sequence
from dataclasses import dataclass

from bathys.edits.adding import ADDABLE, add_part
from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.edits.rerouting import INLET_OVER_RIM, OUTLET_SHARE, connect, known_part
from bathys.edits.splitting import new_ids, split_at_start
from bathys.kinds import kind_of, models_of
from bathys.parts.jobs import JOBS
from bathys.plan.base import LeadsOn
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.topology import reached
from bathys.plan.vessel import Vessel

__all__ = ["Joins", "add_joined", "joins_for"]

_WIDER = 2  # sizes that a drain is wider than the usual pipe
_FALL = 0.1  # from a new vessel's outlet to where it drains, at least [m]


@dataclass(frozen=True, slots=True)
class Joins:
    """What a new part may be joined to.

    Attributes
    ----------
    feeds : tuple of str
        Ids of what may feed it: runs that get a tee, vessels that get a hole, junctions, and
        pumps and ways out that lead nowhere yet; none for what stands in a vessel
    drains : tuple of str
        Ids of where its water may go: vessels and junctions; none for what leads nowhere
    feed, drain : str
        The usual choice of each; empty for none
    """

    feeds: tuple[str, ...] = ()
    drains: tuple[str, ...] = ()
    feed: str = ""
    drain: str = ""


def joins_for(plan: Plan, kind: str, stands_in: str = "") -> Joins:
    """What a new part of a kind may be joined to, and what is usual: as others of its kind are.

    Parameters
    ----------
    plan : Plan
        The plan
    kind : str
        A key of :data:`ADDABLE`
    stands_in : str
        The vessel it would stand in, for what does

    Returns
    -------
    Joins
        The choices; none for a kind that is not known, or is joined to nothing

    """
    ends = tuple(p.id for p in (*plan.vessels, *plan.junctions) if p.id != stands_in)
    if kind in JOBS:
        feeds = [*_pumped_runs(plan), *_free_starts(plan), *(v.id for v in plan.vessels)]
        feeds += [j.id for j in plan.junctions if not plan.is_outfall(j.id)]
        feed, drain = _usual(plan, kind, feeds)
        return Joins(tuple(feeds), ends, feed, drain)
    vessel = plan.part(stands_in)
    if not isinstance(vessel, Vessel) or not _leads_on(plan, kind, stands_in):
        return Joins()
    if kind == "pump":
        fed = [v.id for v in plan.vessels if v.id != stands_in and not JOBS[v.job].takes_up]
        return Joins(drains=ends, drain=fed[0] if fed else "")
    drain = _drain_of(plan, vessel) or _pumps_vessel(plan)
    return Joins(drains=ends, drain=drain if drain != stands_in else "")


def _leads_on(plan: Plan, kind: str, stands_in: str) -> bool:
    """Whether a run may lead on from a part of a kind; no, if the vessel has no room for one."""
    if kind not in ADDABLE:
        return False
    try:
        edits, new = add_part(plan, kind, stands_in)
        after = apply_edits(plan, edits)
    except EditRefused:
        return False
    return isinstance(after.part(new), LeadsOn)


def _pumped_runs(plan: Plan) -> list[str]:
    """Runs under pressure: from each pump on, through tees."""
    first = [r.id for p in plan.pumps if (r := plan.run_of(p)) is not None]
    runs = {r.id: r for r in plan.runs}
    return list(reached(first, lambda id_: [r.id for r in plan.runs_from(runs[id_].end)]))


def _free_starts(plan: Plan) -> list[str]:
    return [p.id for p in (*plan.pumps, *plan.ways_out) if plan.run_of(p) is None]


def _pumps_vessel(plan: Plan) -> str:
    """Where the water gathers: the vessel that the first pump stands in."""
    return plan.pumps[0].stands_in if plan.pumps else ""


def _usual(plan: Plan, job: str, feeds: Sequence[str]) -> tuple[str, str]:
    """What feeds a vessel of a job and where it drains: as its peers; else from the first pump,
    and back to where that stands. A sump is joined by hand: where it goes says what it is for."""
    if not JOBS[job].wants_flow:
        return "", ""
    feed = drain = ""
    for pump in plan.pumps[:1]:
        run = plan.run_of(pump)
        feed = run.id if run is not None else pump.id
    for peer in (v for v in plan.vessels if v.job == job):
        for run in (r for r in plan.runs if r.target == peer.id):
            hole = plan.elevation(run.start) if plan.port(run.start) is not None else None
            falls = hole is not None and hole > peer.floor_height + peer.shape.height
            source = run.source if falls else run.id
            feed = source if source in feeds else feed
        drain = _drain_of(plan, peer) or drain
    return feed, drain if drain and drain != feed else _pumps_vessel(plan)


def _drain_of(plan: Plan, vessel: Vessel) -> str:
    """The vessel that another one drains to in the end."""
    inside = {w.id for w in plan.ways_out if w.stands_in == vessel.id} | {vessel.id}
    runs = {r.id: r for r in plan.runs}

    def ends(run: str) -> bool:
        return isinstance(plan.part(runs[run].target), Vessel)

    def onward(run: str) -> list[str]:
        return [] if ends(run) else [r.id for r in plan.runs_from(runs[run].end)]

    way = reached([r.id for r in plan.runs if r.source in inside], onward)
    return next((runs[run].target for run in way if ends(run)), "")


def add_joined(
    plan: Plan, kind: str, stands_in: str = "", feed: str = "", drain: str = ""
) -> tuple[list[Edit], str]:
    """Add a part with its pipes: a vessel is fed from one part and drains to another, a bed
    through a siphon; a pump, a siphon or an outlet leads to a part.

    Parameters
    ----------
    plan : Plan
        The plan
    kind : str
        A key of :data:`ADDABLE`
    stands_in : str
        The vessel it stands in, for what does
    feed, drain : str
        As :class:`Joins` lists them; empty for no pipe

    Returns
    -------
    (list of Edit, str)
        The edits, and the new part's id

    Raises
    ------
    EditRefused
        If there is no such kind, or it cannot be joined so
    """
    edits, new = add_part(plan, kind, stands_in)
    growing = _Growing(plan)
    growing.add([_lifted(plan, kind, edit, drain) for edit in edits])
    if kind in JOBS:
        if feed:
            growing.feed(feed, new)
        if drain:
            growing.drain(new, drain, _siphon_kind(plan) if JOBS[kind].floods else "")
    elif drain:
        growing.connect(new, drain)
    return growing.edits, new


def _lifted(plan: Plan, kind: str, edit: Edit, drain: str) -> Edit:
    """A vessel as high as the last one of its job, and high enough to run off to its drain."""
    if edit.path != "vessels.+":
        return edit
    peers = [v for v in plan.vessels if v.job == kind and v.id != drain]
    floor = peers[-1].floor_height if peers else edit.value["floor_height"]
    into = plan.part(drain)
    if isinstance(into, Vessel) and not JOBS[kind].floods:
        fall = INLET_OVER_RIM + _FALL - OUTLET_SHARE * edit.value["shape"]["height"]
        floor = max(floor, round(into.floor_height + into.shape.height + fall, 3))
    elif isinstance(into, Vessel):
        floor = max(floor, round(into.floor_height + into.shape.height + INLET_OVER_RIM + _FALL, 3))
    return Edit(edit.path, {**edit.value, "floor_height": floor})


def _siphon_kind(plan: Plan) -> str:
    """The siphons this plan has, else the first there are."""
    return plan.siphons[-1].kind if plan.siphons else kind_of(models_of("siphons")[0])


class _Growing:
    """A plan that parts are added to, and the edits so far."""

    def __init__(self, plan: Plan) -> None:
        self.plan, self.edits = plan, list[Edit]()

    def add(self, edits: Sequence[Edit]) -> None:
        self.plan = apply_edits(self.plan, edits)
        self.edits += edits

    def connect(self, start: str, end: str) -> str:
        edits, run = connect(self.plan, start, end)
        self.add(edits)
        return run

    def feed(self, feed: str, new: str) -> None:
        """From a run, which gets a tee and gives its bore and valve; else from the part itself."""
        run = known_part(self.plan, feed)
        if not isinstance(run, Run):
            self._feed_from_part(feed, new)
            return
        edits, tee = split_at_start(self.plan, run, new_ids(self.plan))
        self.add(edits)
        own = run.model_dump(mode="json", by_alias=True)
        like = {field: own[field] for field in ("bore", "valve")}
        branch, _ = connect(self.plan, tee, new)
        self.add([Edit(e.path, {**e.value, **like}) if e.path == "runs.+" else e for e in branch])

    def _feed_from_part(self, feed: str, new: str) -> None:
        """From a vessel's wall, as high as the hole that feeds its peers."""
        peers = {v.id for v in self.plan.vessels if v.job == self.plan.vessel(new).job}
        holes = [self.plan.port(r.start) for r in self.plan.runs if r.target in peers - {new}]
        own = isinstance(self.plan.part(feed), Vessel) and self.plan.vessel(feed).ports
        like = [h for h in holes if own and h in own]
        edits, _ = connect(self.plan, feed, new)
        hole = {"height": like[-1].height} if like and like[-1] is not None else {}
        first = f"vessels.{feed}.ports.+"
        self.add([Edit(e.path, {**e.value, **hole}) if e.path == first else e for e in edits])

    def drain(self, new: str, drain: str, siphon: str) -> None:
        """From a siphon in it; else from a hole in its wall, in pipe two sizes wider, since water
        that only falls is slower than pumped water (common practice)."""
        if siphon:
            edits, start = add_part(self.plan, siphon, new)
            self.add(edits)
            self.connect(start, drain)
            return
        edits, id_ = connect(self.plan, new, drain)
        bore = apply_edits(self.plan, edits).part(id_).bore
        wide = {"bore": bore.wider[:_WIDER][-1].as_data} if bore.wider else {}
        self.add([Edit(e.path, {**e.value, **wide}) if e.path == "runs.+" else e for e in edits])
