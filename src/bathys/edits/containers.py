"""A vessel made of a container."""

import json
from collections.abc import Mapping
from typing import Any

from bathys.edits.editing import Edit, EditRefused
from bathys.edits.rerouting import known_part
from bathys.kinds import model_named
from bathys.parts.containers import container
from bathys.plan.model import Plan
from bathys.plan.shell import Shell
from bathys.plan.vessel import Vessel

__all__ = ["share_kept", "use_container", "use_shape"]


def use_container(plan: Plan, vessel: str, key: str) -> list[Edit]:
    """Make a vessel of a container. What stands in it keeps its height over the floor; where any
    of it would be higher than the new rim, all of it is scaled to fit. A pipe that ends over the
    rim stays as far over it.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : str
        The vessel's id
    key : str
        The container's key

    Returns
    -------
    list of Edit
        The edits

    Raises
    ------
    EditRefused
        If there is no such vessel or container
    """
    found = container(key)
    if found is None:
        raise EditRefused("Choose a vessel and one of the containers.")
    return use_shape(plan, vessel, found.shape)


def use_shape(plan: Plan, vessel: str, sizes: Mapping[str, Any]) -> list[Edit]:
    """As :func:`use_container`, of a shell that is told by its sizes.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : str
        The vessel's id
    sizes : mapping of str to object
        The shell as plan data, lengths in [m]

    Returns
    -------
    list of Edit
        The edits

    Raises
    ------
    EditRefused
        If there is no such vessel
    """
    part, shape = known_part(plan, vessel), dict(sizes)
    if not isinstance(part, Vessel):
        raise EditRefused("Choose a vessel and one of the containers.")
    rim = part.shape.height
    shell = model_named("shells", shape["kind"]).model_validate_json(json.dumps(shape))
    new_rim = float(shell.height)
    share = share_kept(plan, part, shell)
    inside = [(p, h) for p, h in _heights(plan, part) if h <= rim]
    over = [
        (f"vessels.{vessel}.ports.{p.name}.height", p.height) for p in part.ports if p.height > rim
    ]
    edits = [Edit(f"vessels.{vessel}.shape", shape)]
    if part.settler is not None:
        fitted = part.settler.fitted_to(part.shape, shell)
        edits.append(Edit(f"vessels.{vessel}.settler", fitted))
    edits += [Edit(path, round(h * share, 3)) for path, h in inside if share < 1.0]
    return [*edits, *(Edit(path, round(new_rim + h - rim, 3)) for path, h in over)]


def share_kept(plan: Plan, vessel: Vessel, shell: Shell) -> float:
    """What heights within a vessel are scaled by when it gets another shell.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : Vessel
        The vessel
    shell : Shell
        Its new shell

    Returns
    -------
    float
        1 where all of it fits under the new rim, [-]
    """
    rim = vessel.shape.height
    highest = max((h for _, h in _heights(plan, vessel) if h <= rim), default=0.0)
    return min(shell.height / rim, 1.0) if highest > shell.height else 1.0


def _heights(plan: Plan, vessel: Vessel) -> list[tuple[str, float]]:
    """Heights over the vessel's floor of what stands in it, by their paths."""
    own = f"vessels.{vessel.id}"
    found = [(f"{own}.ports.{p.name}.height", p.height) for p in vessel.ports]
    found.append((f"{own}.freeboard", vessel.freeboard))
    if vessel.water_depth is not None:
        found.append((f"{own}.water_depth", vessel.water_depth))
    if vessel.false_cone is not None:
        found.append((f"{own}.false_cone.cone_height", vessel.false_cone.cone_height))
    if vessel.media is not None:
        found += [(f"{own}.media.{f}", getattr(vessel.media, f)) for f in ("bottom", "top")]
    for way in (w for w in plan.ways_out if w.stands_in == vessel.id):
        found += [(f"{way.GROUP}.{way.id}.{field}", h) for field, _, h in way.heights()]
    found += [(f"top_ups.{t.id}.level", t.level) for t in plan.top_ups if t.stands_in == vessel.id]
    found += [
        (f"pumps.{p.id}.inlet_height", p.inlet_height)
        for p in plan.pumps
        if p.stands_in == vessel.id
    ]
    return found
