"""Settlers that would do for a flow, of containers that can be had."""

import json
import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from bathys.edits import Edit, apply_edits, duplicate_part
from bathys.edits.containers import share_kept, use_shape
from bathys.evaluation import Evaluation, evaluate
from bathys.kinds import kind_of, model_named, models_of
from bathys.network import NotSolved
from bathys.parts.containers import Container, containers
from bathys.parts.practice import OUTLET_CALM, SETTLER_RATE, SETTLER_RETENTION, SETTLER_USUAL
from bathys.physics import area_of
from bathys.plan.model import Plan
from bathys.plan.settler import Settler
from bathys.plan.shell import Shell
from bathys.plan.vessel import Vessel
from bathys.quality.settling import OUTLET_UNDER, fresh_caught, settler_of

__all__ = [
    "OWN",
    "Order",
    "PairReached",
    "SettlerOption",
    "pair_edits",
    "pair_reached",
    "settler_edits",
    "settler_options",
    "smallest_that_does",
]

OWN = "own"
"""Key of the vessel as it stands, among the containers."""

_DRILL, _PITCH, _ROWS = 0.02, 0.04, 3  # of the outlet holes that are proposed [m, m, -]
_BETWEEN = 0.04  # row under row of holes [m]
_DRAIN = 0.05  # sludge drain [m]
_MARK = 0.15  # sludge mark over the shell's height
_MOST_IN_PARALLEL = 6
_BAND = 0.1  # of what is caught, within which the smaller is better


@dataclass(frozen=True, slots=True)
class SettlerOption:
    """A container built as a settler of one kind.

    Attributes
    ----------
    container : Container
        The container
    settler : Settler
        What stands in it
    rate : float
        Flow over its open area, [m/s]
    retention : float
        How long water stays, [s]
    caught, low, high : float
        Share of fresh waste that it catches, and with grains half or twice as coarse, [-]
    outlet_speed : float
        Through its outlet holes, [m/s]
    needed : int or None
        How many of them in parallel would do; 1 for one that does alone, none if not six do
    area : float
        Open area that would do alone, [m²]
    price : float or None
        Of one such container; none if it is not known
    """

    container: Container
    settler: Settler
    rate: float
    retention: float
    caught: float
    low: float
    high: float
    outlet_speed: float
    needed: int | None
    area: float
    price: float | None = None

    @property
    def does(self) -> bool:
        """Whether one of them does."""
        return self.needed == 1


def _by_catch(option: SettlerOption) -> tuple[float, ...]:
    return -int(option.caught / _BAND), option.container.litres or math.inf


def _by_height(option: SettlerOption) -> tuple[float, ...]:
    return option.container.shape.get("height", math.inf), *_by_catch(option)


def _by_size(option: SettlerOption) -> tuple[float, ...]:
    return option.container.litres or math.inf, -option.caught


def _by_price(option: SettlerOption) -> tuple[float, ...]:
    price = option.price if option.price is not None else math.inf
    return price * (option.needed or 1), *_by_size(option)


Order = Literal["catch", "height", "size", "price"]
_ORDERS: dict[Order, Callable[[SettlerOption], tuple[float, ...]]] = {
    "catch": _by_catch,
    "height": _by_height,
    "size": _by_size,
    "price": _by_price,
}


@dataclass(frozen=True, slots=True)
class PairReached:
    """What two settlers side by side do, as the water really parts.

    Attributes
    ----------
    shares : (float, float)
        Of the flow, [-]
    rate : float
        Overflow rate of the one that gets more, [m/s]
    retention : float
        How long water stays in that one, [s]
    caught : float
        Of fresh waste by both, [-]
    """

    shares: tuple[float, float]
    rate: float
    retention: float
    caught: float

    @property
    def does(self) -> bool:
        """Whether both hold to the limits, by a hair."""
        return self.rate <= 1.05 * SETTLER_RATE and self.retention >= 0.95 * SETTLER_RETENTION


def settler_options(
    found: Evaluation,
    vessel: Vessel,
    more: Sequence[Container] = (),
    order: Order = "catch",
    prices: Mapping[str, float] | None = None,
) -> tuple[SettlerOption, ...]:
    """The present vessel as a settler of every kind, and every container as that which catches
    most in it.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    vessel : Vessel
        The settler in whose place it would stand, with its flow
    more : sequence of Container
        Containers besides those that ship
    order : Order
        What counts first among those that do: ``catch``, ``height``, ``size`` or ``price``, where
        what has no price comes last
    prices : mapping of str to float, optional
        Of one container, by its key, :data:`OWN` for the vessel as it stands

    Returns
    -------
    tuple of SettlerOption
        Those that do, in that order; then those that do not, by how many would
    """
    flow = found.vessels[vessel.id].inflow
    if flow <= 0.0:
        return ()
    options = list(_built(found, vessel, _as_it_stands(vessel), flow))
    for made in (*more, *containers()):
        kinds = list(_built(found, vessel, made, flow))
        if kinds:
            options.append(max(kinds, key=lambda o: (o.does, o.caught)))
    known = prices or {}
    options = [replace(o, price=known.get(o.container.key)) for o in options]
    return tuple(
        sorted(
            options,
            key=lambda o: (
                o.needed if o.needed is not None else _MOST_IN_PARALLEL + 1,
                *_ORDERS[order](o),
            ),
        )
    )


def smallest_that_does(found: Evaluation, vessel: Vessel) -> SettlerOption | None:
    """The vessel as it stands, built so that it does; else the smallest container that does: of
    its own shape and with the usual hold if there is one.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    vessel : Vessel
        The settler in whose place it would stand, with its flow

    Returns
    -------
    SettlerOption or None
        None if no container does alone
    """
    flow = found.vessels[vessel.id].inflow
    if flow <= 0.0:
        return None
    held = sorted(containers(), key=lambda c: c.litres or math.inf)
    alike = [c for c in held if c.shape["kind"] == kind_of(type(vessel.shape))]
    for tried, least in ((alike, SETTLER_USUAL), (held, SETTLER_USUAL), (held, SETTLER_RETENTION)):
        for made in (_as_it_stands(vessel), *tried):
            built = _built(found, vessel, made, flow)
            does = [o for o in built if o.does and o.retention >= least]
            if does:
                return max(does, key=lambda o: o.caught)
    return None


def _as_it_stands(vessel: Vessel) -> Container:
    shell = vessel.shape
    held = 1000.0 * shell.holds(shell.height)
    return Container(OWN, "", "As it stands", shell.model_dump(mode="json"), held)


def _built(
    found: Evaluation, vessel: Vessel, made: Container, flow: float
) -> Iterator[SettlerOption]:
    shell = model_named("shells", made.shape["kind"]).model_validate_json(json.dumps(made.shape))
    result = found.vessels[vessel.id]
    depth = result.levels.high - vessel.floor_height
    level = depth * share_kept(found.plan, vessel, shell)
    if not 0.2 * shell.height < level < shell.height:
        return
    viscosity = found.water.kinematic_viscosity
    for model in models_of("settlers"):
        inside = _settler(model, shell, level, flow)
        if inside is None or inside.fault(shell) is not None:
            continue
        stands = vessel.model_copy(update={"shape": shell, "settler": inside})
        rate = flow / inside.open_area(shell)
        retention = shell.holds(level) / flow
        caught, low, high = fresh_caught(stands, rate, viscosity)
        needed = max(
            math.ceil(rate / SETTLER_RATE - 0.05), math.ceil(SETTLER_RETENTION / retention)
        )
        yield SettlerOption(
            made,
            inside,
            rate,
            retention,
            caught,
            low,
            high,
            flow / inside.outlet_area,
            needed if needed <= _MOST_IN_PARALLEL else None,
            max(flow / SETTLER_RATE, SETTLER_RETENTION * flow / level),
        )


def _settler(model: Any, shell: Shell, level: float, flow: float) -> Settler | None:
    """As it is usually built in a shell, with calm holes, a drain and a mark."""
    a_row = int(math.pi * shell.across / _PITCH)
    wanted = math.ceil(flow / OUTLET_CALM / area_of(_DRILL))
    count = min(math.ceil(wanted / _ROWS), a_row)
    rows = [
        {
            "count": count,
            "diameter": _DRILL,
            "height": round(level - OUTLET_UNDER - k * _BETWEEN, 3),
        }
        for k in range(_ROWS)
    ]
    if count < 1 or rows[-1]["height"] < 0.3 * shell.height:
        return None
    data = {
        **model.usual(shell),
        "kind": kind_of(model),
        "hole_rows": rows,
        "drain_diameter": _DRAIN,
        "sludge_mark": round(_MARK * shell.height, 3),
    }
    settler: Settler = model.model_validate_json(json.dumps(data))
    return settler


def settler_edits(plan: Plan, vessel: str, option: SettlerOption) -> list[Edit]:
    """What makes a vessel this settler.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : str
        Id of the vessel
    option : SettlerOption
        The settler

    Returns
    -------
    list of Edit
        The edits: its container, with what stands in it kept or scaled; its floor raised by what
        the outlet came down, so that water goes on as before; and its insides
    """
    path = f"vessels.{vessel}.settler"
    insides = Edit(path, option.settler.model_dump())
    if option.container.key == OWN:
        return [insides]
    edits = [e for e in use_shape(plan, vessel, option.container.shape) if e.path != path]
    return [*edits, *_raised(plan, vessel, edits), insides]


def pair_edits(plan: Plan, vessel: str, first: Sequence[Edit]) -> tuple[list[Edit], str]:
    """What puts a second settler like a first one beside it, fed by a tee and drained alike.

    Parameters
    ----------
    plan : Plan
        The plan
    vessel : str
        Id of the vessel
    first : sequence of Edit
        What makes the first one; none if it stays as it is

    Returns
    -------
    (list of Edit, str)
        The edits, those of the first one with them; and the id of the second

    Raises
    ------
    EditRefused
        If the plan would not hold together
    """
    second, id_ = duplicate_part(apply_edits(plan, first), vessel)
    return [*first, *second], id_


def pair_reached(plan: Plan, pair: tuple[str, str], edits: Sequence[Edit]) -> PairReached | None:
    """How two settlers side by side share the flow once they are built.

    Parameters
    ----------
    plan : Plan
        The plan before
    pair : (str, str)
        Ids of both
    edits : sequence of Edit
        What builds them

    Returns
    -------
    PairReached or None
        By the balance of the plan so built; none if it has no balance

    Raises
    ------
    EditRefused
        If the plan would not hold together
    """
    try:
        found = evaluate(apply_edits(plan, edits))
    except NotSolved:
        return None
    results = [settler_of(found, id_) for id_ in pair]
    both = [r for r in results if r is not None]
    if len(both) < len(pair):
        return None
    flow = sum(r.flow for r in both)
    return PairReached(
        (both[0].flow / flow, both[1].flow / flow),
        max(r.rate for r in both),
        min(r.retention for r in both),
        sum(r.caught * r.flow for r in both) / flow,
    )


def _raised(plan: Plan, vessel: str, edits: list[Edit]) -> list[Edit]:
    """The floor raised by what the outlet came down."""
    part = plan.vessel(vessel)
    drains = [r.start for r in plan.runs if plan.owner_of(r.start) == vessel]
    for port in part.ports:
        if f"{vessel}.{port.name}" in drains:
            path = f"vessels.{vessel}.ports.{port.name}.height"
            now = next((float(e.value) for e in edits if e.path == path), port.height)
            if now < port.height:
                floor = round(part.floor_height + port.height - now, 3)
                return [Edit(f"vessels.{vessel}.floor_height", floor)]
    return []
