"""Every hole that is drilled in a vessel, by which fitting, and where in its wall."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import combinations

from bathys.build.walls import Wall, wall_met, walls_of
from bathys.evaluation import Evaluation
from bathys.ground import LEG, laid_routes, placed
from bathys.parts.wall_fittings import WALL_FITTINGS, WallFitting
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.plan.wall_hole import SIDES, WallHole
from bathys.plan.way_out import WayOut

__all__ = [
    "FLOOR",
    "Crowded",
    "CutEdge",
    "Hole",
    "crowded_holes",
    "cut_edges",
    "holes_of",
    "usual_fitting",
]

FLOOR = "floor"
"""The side of a hole that goes down through the floor."""

_FLOOR = 1e-6  # so little over the floor is in it [m]
_WIDEST = 1.5  # a hole is at most so many times as wide as its pipe, by the fittings known [-]
_STEP = 0.01  # by which a hole is put aside from others [m]


@dataclass(frozen=True, slots=True)
class Hole:
    """A hole for one pipe.

    Attributes
    ----------
    vessel : Vessel
        That it is drilled in
    run : Run
        The pipe that goes through it
    is_start : bool
        Whether that begins here; else it ends here
    name : str
        What it is for
    height : float
        Of its middle over the floor, [m]; 0 in the floor itself
    over_datum : float
        Of its middle, [m]
    pipe : float
        Outside width of the pipe, [m]
    to_water : float or None
        Of its middle over the highest water, below 0 if under it, [m]; none in the floor
    fitting : str
        Kind of its wall fitting, as chosen or as usual
    side : str
        Side of the vessel as it stands before it is turned, or ``floor``
    across : float
        Of its middle from the left corner of that side seen from outside, or from the left end of
        the floor; round a round vessel, along its wall, [m]
    stamped : float or None
        What is drilled where it is told, as stamped on the fitting, [m]
    is_chosen : bool
        Whether its fitting and its side are chosen; else the usual ones are taken
    """

    vessel: Vessel
    run: Run
    is_start: bool
    name: str
    height: float
    over_datum: float
    pipe: float
    to_water: float | None
    fitting: str
    side: str
    across: float
    stamped: float | None
    is_chosen: bool

    @property
    def is_in_floor(self) -> bool:
        """Whether it goes through the floor."""
        return self.height <= _FLOOR

    @property
    def by(self) -> WallFitting:
        """Its wall fitting."""
        return WALL_FITTINGS[self.fitting]

    @property
    def diameter(self) -> float | None:
        """What is drilled [m]; none where the size for its pipe is not known here."""
        return self.stamped if self.stamped is not None else self.by.hole_for(self.pipe)

    @property
    def wide(self) -> float:
        """What is drilled, at least [m]."""
        return self.diameter or self.pipe


@dataclass(frozen=True, slots=True)
class Crowded:
    """A hole too near to another, or to a corner.

    Attributes
    ----------
    hole : Hole
        The hole
    other : Hole or None
        The other; none for a corner
    clear : float
        From edge to edge, below 0 if they overlap, [m]
    wanted : float
        At least so much, [m]
    """

    hole: Hole
    other: Hole | None
    clear: float
    wanted: float


@dataclass(frozen=True, slots=True)
class CutEdge:
    """A hole that cuts the rim of its vessel, or into its floor.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    run : Run
        The run that joins it there
    is_rim : bool
        Whether it cuts the rim
    by : float
        How far it reaches beyond, [m]
    """

    vessel: Vessel
    run: Run
    is_rim: bool
    by: float


def usual_fitting(vessel: Vessel, pipe: float) -> str:
    """The fitting that is taken where none is chosen.

    Parameters
    ----------
    vessel : Vessel
        That is drilled
    pipe : float
        Outside width of the pipe, [m]

    Returns
    -------
    str
        The first of those that suit its wall and are made for such a pipe; else the first
    """
    kinds = vessel.shape.WALL_FITTINGS
    made = (k for k in kinds if WALL_FITTINGS[k].hole_for(pipe) is not None)
    return next(made, kinds[0])


def holes_of(found: Evaluation) -> tuple[Hole, ...]:
    """Every hole of every vessel: where runs join its ports, and where siphons and outlets leave.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Hole
        Vessel by vessel, from the floor up. Where water falls in over the rim there is none, nor
        for a pump that hangs its pipe over it. A hole whose place is not chosen lies where its run
        comes from on the ground plan, as far aside as others ask for
    """
    return tuple(_placed_holes(found.plan, found))


def crowded_holes(plan: Plan) -> tuple[Crowded, ...]:
    """Holes that are too near to each other or to a corner: less than the wider hole's width from
    edge to edge (common practice).

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of Crowded
        Each pair once; a corner only where the vessel has corners
    """
    return tuple(_crowded(plan))


def cut_edges(plan: Plan) -> tuple[CutEdge, ...]:
    """Holes of walls that are drilled through the rim, or into the floor.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of CutEdge
        Run by run
    """
    return tuple(_cut_edges(plan))


def _cut_edges(plan: Plan) -> Iterator[CutEdge]:
    for run in plan.runs:
        pipe = run.bore.outside
        for is_start, owner, _, height in _of_run(plan, run):
            if height <= _FLOOR:
                continue
            vessel = plan.vessel(owner)
            told = (run.start_hole if is_start else run.end_hole) or WallHole()
            fitting = WALL_FITTINGS[told.fitting or usual_fitting(vessel, pipe)]
            half = 0.5 * (told.drill or fitting.hole_for(pipe) or pipe)
            over, under = height + half - vessel.shape.height, half - height
            if max(over, under) > _FLOOR:
                yield CutEdge(vessel, run, over >= under, max(over, under))


def _crowded(plan: Plan) -> Iterator[Crowded]:
    if not _is_laid(plan) and _have_room(plan):
        return
    sides: dict[tuple[str, str], list[Hole]] = {}
    for hole in _placed_holes(plan, None):
        sides.setdefault((hole.vessel.id, hole.side), []).append(hole)
    for (vessel, side), holes in sides.items():
        wall = walls_of(plan.vessel(vessel).shape)[side]
        for hole in holes:
            clear = min(hole.across, wall.width - hole.across) - 0.5 * hole.wide
            wanted = _edge(hole)
            if wall.has_corners and clear < wanted - _FLOOR:
                yield Crowded(hole, None, clear, wanted)
        for one, two in combinations(holes, 2):
            wanted = max(one.wide, two.wide)
            clear = _clear(one, two, wall)
            if clear < wanted - _FLOOR:
                yield Crowded(one, two, clear, wanted)


def _is_laid(plan: Plan) -> bool:
    """Whether it is told where anything stands, or how a hole is drilled."""
    return any(v.spot is not None for v in plan.vessels) or any(
        r.start_hole is not None or r.end_hole is not None for r in plan.runs
    )


def _have_room(plan: Plan) -> bool:
    """Whether every hole is sure to find room beside the others, whichever sides they come to: a
    hole keeps others as far off as four times the widest, and a corner one and a half times."""
    opened: dict[tuple[str, bool], list[float]] = {}
    for run in plan.runs:
        pipe = run.bore.outside
        for _, vessel, _, height in _of_run(plan, run):
            opened.setdefault((vessel, height <= _FLOOR), []).append(_WIDEST * pipe)
    for (id_, in_floor), wides in opened.items():
        walls, widest = walls_of(plan.vessel(id_).shape), max(wides)
        asked = (4.0 * widest + 2.0 * _STEP) * (len(wides) - 1)
        for side in (FLOOR,) if in_floor else SIDES:
            edge = max(widest, LEG) if in_floor else widest
            corners = 2.0 * edge + widest if walls[side].has_corners else 0.0
            if walls[side].width < asked + corners:
                return False
    return True


def _edge(hole: Hole) -> float:
    """Wanted between a hole and the end of its side [m]: in the floor of what stands on legs or
    blocks, those are in the way of its pipe."""
    stands = hole.side == FLOOR and hole.vessel.floor_height > LEG
    return max(hole.wide, LEG) if stands else hole.wide


def _clear(one: Hole, two: Hole, wall: Wall) -> float:
    """Between the edges of two holes of one side [m]."""
    aside = abs(one.across - two.across)
    if not wall.has_corners and wall.round_about:
        aside = min(aside, wall.round_about - aside)
    apart = (aside**2 + (one.height - two.height) ** 2) ** 0.5
    return float(apart - 0.5 * (one.wide + two.wide))


def _placed_holes(plan: Plan, found: Evaluation | None) -> Iterator[Hole]:
    """Holes, each where it is told or else where it has room; water heights only with figures."""
    routes = {route.run.id: route for route in laid_routes(plan)}
    spots = placed(plan)
    open_: dict[str, list[tuple[Run, bool, str, float]]] = {}
    for run in plan.runs:
        for is_start, owner, name, height in _of_run(plan, run):
            open_.setdefault(owner, []).append((run, is_start, name, height))
    for vessel in plan.vessels:
        walls, put = walls_of(vessel.shape), list[Hole]()
        rows = sorted(open_.get(vessel.id, ()), key=lambda row: (row[3], row[0].id))
        for run, is_start, name, height in rows:
            told = (run.start_hole if is_start else run.end_hole) or WallHole()
            met, across = wall_met(spots[vessel.id], routes[run.id].points, is_start)
            side = FLOOR if height <= _FLOOR else told.side or met
            pipe = run.bore.outside
            high = None if found is None else found.vessels[vessel.id].levels.high
            middle = across if side == met else 0.5 * walls[side].width
            hole = Hole(
                vessel,
                run,
                is_start,
                name,
                height,
                vessel.floor_height + height,
                pipe,
                None if side == FLOOR or high is None else height - (high - vessel.floor_height),
                told.fitting or usual_fitting(vessel, pipe),
                side,
                middle if told.across is None else told.across,
                told.drill,
                told.fitting is not None and (side == FLOOR or told.side is not None),
            )
            if told.across is None:
                beside = [h for h in put if h.side == side]
                hole = _with_room(hole, beside, walls[side])
            put.append(hole)
        yield from put


def _with_room(hole: Hole, beside: list[Hole], wall: Wall) -> Hole:
    """A hole at the nearest place that is clear of corners and of others, else at the clearest."""
    wide = hole.wide
    off = _edge(hole) + 0.5 * wide
    low, high = (off, wall.width - off) if wall.has_corners else (0.0, wall.width)
    if low > high:
        low = high = 0.5 * wall.width
    wanted = min(max(hole.across, low), high)
    best: tuple[float, Hole] | None = None
    reach = round((high - low) / _STEP) + 1
    for number in range(2 * reach + 1):
        aside = _STEP * ((number + 1) // 2) * (1.0 if number % 2 else -1.0)
        place = round(wanted + aside, 3)
        if not low - _FLOOR <= place <= high + _FLOOR:
            continue
        tried = replace(hole, across=place)
        short = min((_clear(tried, h, wall) - max(wide, h.wide) for h in beside), default=0.0)
        if short >= 0.0:
            return tried
        if best is None or short > best[0] + _FLOOR:
            best = short, tried
    return best[1] if best is not None else replace(hole, across=round(wanted, 3))


def _of_run(plan: Plan, run: Run) -> Iterator[tuple[bool, str, str, float]]:
    """Whether the run begins there, the vessel, what for, and the height over its floor [m]. Water
    that goes over from a vessel to the one around it, or back, goes through no hole."""
    one, two = (plan.owner_of(place) for place in (run.start, run.end))
    if any(v.id in (one, two) and v.within in (one, two) for v in plan.vessels if v.within):
        return
    for place, is_start in ((run.start, True), (run.end, False)):
        owner = place.partition(".")[0]
        port = plan.port(place)
        if port is not None and port.height < plan.vessel(owner).shape.height:
            yield is_start, owner, port.name, port.height
    part = plan.part(run.source)
    if isinstance(part, WayOut):
        vessel = plan.vessel(part.stands_in)
        height = part.leaves_at(run.bore.inside)
        if height < vessel.shape.height:
            yield True, vessel.id, part.name, max(height, 0.0)
