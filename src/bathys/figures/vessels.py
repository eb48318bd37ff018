"""Figures of vessels."""

from collections.abc import Iterator

from bathys.evaluation.reserve import reserve_of
from bathys.evaluation.result import Evaluation
from bathys.evaluation.vessels import VesselResult
from bathys.figures import formulas as by
from bathys.figures import formulas_of_beds as of_beds
from bathys.figures.figure import Figure, Input
from bathys.simulation import PumpedBedLoop
from bathys.vessels import storage_of

__all__ = ["closing_levels", "reserves", "total_water", "vessel_details", "vessel_figures"]


def vessel_figures(found: Evaluation, result: VesselResult, headline: bool) -> Iterator[Figure]:
    """Level, water and turnover of a vessel.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    result : VesselResult
        The numbers of the vessel
    headline : bool
        Whether it stands at the head of the page

    Yields
    ------
    Figure
        Level, water and turnover
    """
    vessel = result.vessel
    if result.inflow <= 0.0 or result.volume <= 0.0:
        return
    through = Input("inflow from elsewhere", result.treated, "flow")
    figures = {}
    holds = Input("water in it", result.volume, "volume")
    aims = vessel.use.turnover
    if result.returned > 0.0:
        aims += "; " * bool(aims) + "with what is sprayed straight back, {all:per_hour}"
        figures = {"all": result.inflow / result.volume}
    yield by.TURNOVER.of(
        f"{vessel.id}.turnover",
        vessel.id,
        (through, holds),
        aims,
        figures,
        headline=headline,
        label=f"{vessel.name} turnover",
    )
    if result.treated <= 0.0:
        return
    yield by.HOLD.of(
        f"{vessel.id}.hold", vessel.id, (holds, through), label=f"Water stays in {vessel.name}"
    )


def total_water(found: Evaluation) -> Figure:
    """All the water of a plan, and how long its reserve lasts.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Figure
        Water in the system
    """
    closers = dict.fromkeys(found.balance.closing.values())
    kept = [r for c in closers if (r := reserve_of(found, c)) is not None]
    days = [r.days for r in kept if r.days is not None]
    told = "its reserve over the pump lasts {days:ratio} days" if days else ""
    if kept and not days:
        told = "what dries off is made up by itself"
    return by.TOTAL_WATER.of(
        "plan.water",
        next(iter(closers), found.plan.vessels[0].id),
        tuple(
            Input(v.vessel.name, v.rest_volume, "volume")
            for v in found.vessels.values()
            if v.rest_volume > 0.0
        ),
        told,
        {"days": min(days, default=0.0)},
        value=sum(v.rest_volume for v in found.vessels.values()),
        headline=True,
    )


def reserves(found: Evaluation) -> Iterator[Figure]:
    """How long each loop lasts without a hand.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Yields
    ------
    Figure
        One a loop that a pump draws from and that dries
    """
    for closer in dict.fromkeys(found.balance.closing.values()):
        kept = reserve_of(found, closer)
        if kept is None or kept.days is None:
            continue
        yield by.RESERVE.of(
            f"{closer}.reserve",
            closer,
            (
                Input("water over what the pump needs", max(kept.volume, 0.0), "volume"),
                Input("dries off a day", kept.dries, "volume"),
                Input("is taken out a day", kept.taken, "volume"),
                Input("comes a day", kept.comes, "volume"),
            ),
            label=f"{found.plan.vessel(closer).name} lasts without a hand",
        )


def closing_levels(found: Evaluation, id_: str) -> Iterator[Figure]:
    """The vessel that takes up what the others hold, and the one that most comes back to.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    id_ : str
        Id of the part

    Yields
    ------
    Figure
        One figure after the other
    """
    result = found.vessels[id_]
    vessel, floor = result.vessel, result.vessel.floor_height
    inlets = [p.inlet_height for p in found.plan.pumps if p.stands_in == id_]
    yield by.LEVEL_LOW.of(
        f"{id_}.low",
        id_,
        (Input("water in it at rest", result.rest_volume, "volume"),),
        "over its floor"
        + ("; the pump’s inlet is at {inlet:length}" if inlets else "")
        + ", filled to {filled:length}",
        {"inlet": max(inlets, default=0.0), "filled": vessel.water_depth or 0.0},
        value=result.levels.low - floor,
        headline=True,
        label=f"{vessel.name} at its lowest",
    )
    yield _after_a_cut(found, id_)


def _after_a_cut(found: Evaluation, closer: str) -> Figure:
    loop = [found.vessels[v] for v, c in found.balance.closing.items() if c == closer]
    result = max(loop, key=lambda r: (r.rest_volume - r.volume, r.vessel.id == closer))
    vessel, floor, id_ = result.vessel, result.vessel.floor_height, result.vessel.id
    outages = [
        o
        for b in found.beds
        for o in b.outages
        if isinstance(b.loop, PumpedBedLoop) and b.loop.tank.id == id_
    ]
    rest = max([o.tank_level for o in outages], default=result.levels.at_rest) - floor
    low, storage = result.levels.low - floor, storage_of(found.plan, vessel)
    rise = max(storage.volume_at(rest) - storage.volume_at(low), 0.0)
    back = max([o.returned for o in outages], default=rise)
    return by.LEVEL_REST.of(
        f"{id_}.outage",
        id_,
        (Input("water in it at rest", result.rest_volume, "volume"),),
        "over its floor; the rim is at {rim:length}; up to {back:volume} over its lowest",
        {"rim": vessel.shape.height, "back": back},
        value=rest,
        headline=True,
        label=f"{vessel.name} after a power cut",
    )


def vessel_details(found: Evaluation, result: VesselResult) -> Iterator[Figure]:
    """What the tables tell of a vessel besides.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    result : VesselResult
        The numbers of the vessel

    Yields
    ------
    Figure
        One figure after the other
    """
    vessel, floor, levels = result.vessel, result.vessel.floor_height, result.levels
    id_, name = vessel.id, vessel.name
    yield from _swing(found, result)
    plates = vessel.baffles
    if plates is not None and result.inflow > 0.0:
        yield by.BAFFLE_SPEED.of(
            f"{id_}.baffles",
            id_,
            (
                Input("flow", result.inflow, "flow"),
                Input("gap", plates.gap, "length"),
                Input("width of a plate", plates.width, "length"),
            ),
            label=f"Velocity under the plates of {name}",
        )
    yield by.LEVEL_OFF.of(
        f"{id_}.rest",
        id_,
        (Input("water in it then", result.rest_volume, "volume"),),
        "over its floor",
        value=levels.at_rest - floor,
        label=f"{name} with the pumps off",
    )
    middle = 0.5 * (levels.low + levels.high) - floor
    yield by.HOLDS.of(
        f"{id_}.holds",
        id_,
        (Input("depth", middle, "length"), Input("area at the rim", result.area, "area")),
        "its shell holds {shell:volume} to the rim, with nothing in it",
        {"shell": result.shell_volume},
        value=result.volume,
        label=f"Water in {name}",
    )
    brought = [
        Input(r.run.name, abs(r.mean_flow), "flow")
        for r in found.runs.values()
        if r.mean_flow and (r.run.target if r.mean_flow > 0.0 else r.run.source) == id_
    ]
    yield by.THROUGH.of(f"{id_}.inflow", id_, brought, label=f"Flow through {name}")


def _swing(found: Evaluation, result: VesselResult) -> Iterator[Figure]:
    """Its lowest and highest level, by what sets them: a siphon, the rest of the water, or what
    must leave."""
    vessel, floor, levels = result.vessel, result.vessel.floor_height, result.levels
    over, rim = "over its floor; the rim is at {rim:length}", {"rim": vessel.shape.height}
    beds = (b for b in found.beds if vessel.id in b.linked and b.cycle.period is not None)
    bed = next(beds, None)
    inputs: tuple[Input, ...] = (Input("what passes through", result.inflow, "flow"),)
    low = high = by.LEVEL
    if bed is not None:
        low, high, built = of_beds.BED_LOW, of_beds.BED_HIGH, bed.loop.built
        inputs = (Input("standpipe’s rim", built.rim, "length"),)
    elif vessel.id in found.balance.closing.values():
        low = high = by.LEVEL_LOW
        inputs = (Input("water in it at rest", result.rest_volume, "volume"),)
    lows = (
        inputs
        if bed is None
        else (
            Input("where air gets in", built.intake, "length"),
            Input("its floor over the siphon bed’s", floor - bed.bed.floor_height, "length"),
        )
    )
    yield low.of(
        f"{vessel.id}.low",
        vessel.id,
        lows,
        over,
        rim,
        value=levels.low - floor,
        label=f"{vessel.name} at its lowest",
    )
    yield high.of(
        f"{vessel.id}.high",
        vessel.id,
        inputs,
        over,
        rim,
        value=levels.high - floor,
        label=f"{vessel.name} at its highest",
    )
