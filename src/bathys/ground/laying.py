"""Edits of the ground plan: vessels placed, runs led, and lengths that follow."""

from collections.abc import Mapping, Sequence

from bathys.edits import Edit, EditRefused, apply_edits
from bathys.ground.placing import placed, site_of
from bathys.ground.routes import RunRoute, laid_routes
from bathys.plan.model import Plan

__all__ = ["follow_route", "laid_lengths", "lay", "lay_route", "outline_site"]

_ELBOW = "elbow_90"
_LEAST_SITE = 0.1  # side of a site [m]
_SAME = 5e-4  # lengths that are as good as the same [m]


def laid_lengths(before: Plan, after: Plan) -> list[Edit]:
    """What makes the lengths and elbows of runs follow the ground from one plan to the next.

    Parameters
    ----------
    before, after : Plan
        The plan before something was placed or led, and after

    Returns
    -------
    list of Edit
        Of runs whose length follows from their route: its length along the level, rounded to a
        millimetre; and so many elbows more or fewer as it has more or fewer bends. Upright bends
        are the plan's own
    """
    old = {r.run.id: r for r in laid_routes(before)}
    edits: list[Edit] = []
    for route in laid_routes(after):
        run = route.run
        if run.route is None or not run.route.sets_length:
            continue
        if abs(route.length - run.level_length) > _SAME:
            edits.append(Edit(f"runs.{run.id}.level_length", round(route.length, 3)))
        was = old.get(run.id)
        follows = was is not None and was.run.route is not None and was.run.route.sets_length
        if was is not None and follows and route.bends != was.bends:
            edits += _elbows(route, route.bends - was.bends)
    return edits


def _elbows(route: RunRoute, more: int) -> list[Edit]:
    fittings = [f.model_dump(mode="json") for f in route.run.fittings]
    found = next((f for f in fittings if f["kind"] == _ELBOW), None)
    count = max((found["count"] if found is not None else 0) + more, 0)
    if found is not None:
        found["count"] = count
    elif count:
        fittings.append({"kind": _ELBOW, "count": count})
    kept = [f for f in fittings if f["count"] > 0]
    return [Edit(f"runs.{route.run.id}.fittings", kept)]


def _settled(plan: Plan, edits: Sequence[Edit]) -> Plan:
    after = apply_edits(plan, edits)
    more = laid_lengths(plan, after)
    return apply_edits(after, more) if more else after


def lay(plan: Plan, part: str, x: float, y: float, turned: float | None = None) -> Plan:
    """Place a vessel or a junction; every other vessel keeps where it is drawn.

    Parameters
    ----------
    plan : Plan
        The plan
    part : str
        Id of the vessel or junction
    x, y : float
        Where its middle comes to stand, [m]
    turned : float, optional
        To the left; as it is turned if not given, [degrees]

    Returns
    -------
    Plan
        The plan after, with the lengths of runs that follow the ground

    Raises
    ------
    EditRefused
        If there is no such part, or it cannot stand there
    """
    places = placed(plan)
    edits: list[Edit] = []
    if part in places:
        if places[part].vessel.within is not None:
            raise EditRefused("It stands in another vessel: move that.")
        for id_, spot in places.items():
            if id_ == part:
                turn = (spot.turned if turned is None else turned) % 360.0
                edits.append(_spot("vessels", id_, x, y, turn))
            elif spot.vessel.spot is None and spot.vessel.within is None:
                edits.append(_spot("vessels", id_, spot.x, spot.y, spot.turned))
    elif any(j.id == part for j in plan.junctions):
        edits.append(_spot("junctions", part, x, y, 0.0))
    else:
        raise EditRefused("Choose a vessel or a junction of this plan.")
    return _settled(plan, edits)


def _spot(group: str, id_: str, x: float, y: float, turned: float) -> Edit:
    spot = {"x": round(x, 3), "y": round(y, 3), "turned": round(turned, 1)}
    return Edit(f"{group}.{id_}.spot", spot)


def outline_site(plan: Plan, corners: Sequence[tuple[float, float]]) -> Plan:
    """Give the site an outline.

    Parameters
    ----------
    plan : Plan
        The plan
    corners : sequence of (float, float)
        Round the site, [m]; none for the rectangle it was

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    EditRefused
        If they do not go round a site
    """
    ground = site_of(plan, placed(plan))[0].model_dump(mode="json")
    ground["outline"] = [{"x": round(x, 3), "y": round(y, 3)} for x, y in corners]
    if corners:
        ground["length"] = max([_LEAST_SITE, *(round(x, 3) for x, _ in corners)])
        ground["width"] = max([_LEAST_SITE, *(round(y, 3) for _, y in corners)])
    return apply_edits(plan, [Edit("ground", ground)])


def lay_route(
    plan: Plan,
    run: str,
    corners: Sequence[tuple[float, float]] | None,
    heights: Sequence[float | None] = (),
) -> Plan:
    """Lead a run over the ground.

    Parameters
    ----------
    plan : Plan
        The plan
    run : str
        Id of the run
    corners : sequence of (float, float) or None
        Between its ends, [m]; none for the shortest way at right angles
    heights : sequence of float or None
        Of the corners over the datum, [m]; none for as high as before it

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    EditRefused
        If there is no such run, or a corner lies beyond all bounds
    """
    before = _run_route(plan, run)
    told = None if corners is None else _told_corners(corners, heights)
    sets_length = before["sets_length"] if before is not None else False
    value = {"corners": told, "sets_length": sets_length}
    return _settled(plan, [Edit(f"runs.{run}.route", value)])


def _told_corners(
    corners: Sequence[tuple[float, float]], heights: Sequence[float | None]
) -> list[dict[str, float | None]]:
    known = [*heights, *[None] * (len(corners) - len(heights))]
    return [
        {"x": round(x, 3), "y": round(y, 3), "height": None if z is None else round(z, 3)}
        for (x, y), z in zip(corners, known[: len(corners)], strict=True)
    ]


def follow_route(plan: Plan, runs: Sequence[str], follows: bool) -> Plan:
    """Let runs take their lengths from the ground, or keep those typed.

    Parameters
    ----------
    plan : Plan
        The plan
    runs : sequence of str
        Ids of the runs
    follows : bool
        Whether they do

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    EditRefused
        If there is no such run
    """
    edits = []
    for id_ in runs:
        before = _run_route(plan, id_) or {"corners": None}
        edits.append(Edit(f"runs.{id_}.route", {**before, "sets_length": follows}))
    return _settled(plan, edits)


def _run_route(plan: Plan, id_: str) -> Mapping[str, object] | None:
    found = next((r for r in plan.runs if r.id == id_), None)
    if found is None:
        raise EditRefused("There is no such run in this plan any more.")
    return None if found.route is None else found.route.model_dump(mode="json")
