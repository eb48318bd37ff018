"""From a plan to its numbers."""

from bathys.evaluation.duty import duty_of
from bathys.evaluation.loop_figures import figures_of_loop
from bathys.evaluation.result import Evaluation, LoopResult, Omission, VesselLevels
from bathys.physics.water import Water, water_at
from bathys.plan.model import Plan, Pump
from bathys.simulation import BellSiphonModel, PumpedBedLoop, cut_power, run_cycle
from bathys.vessels import footprint

__all__ = ["evaluate"]


def evaluate(plan: Plan) -> Evaluation:
    """All numbers of a plan, deterministic and without side effects.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    Evaluation
        Its numbers, and what could not be worked out

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    water = water_at(plan.site.water_temperature)
    results: list[LoopResult] = []
    omissions: list[Omission] = []
    for pump in plan.pumps:
        found = _loop_of_pump(plan, pump, water)
        if isinstance(found, Omission):
            omissions.append(found)
        elif _shares_water(found, results):
            omissions.append(Omission(pump.id, _SHARED.format(tank=found.tank.name)))
        else:
            results.append(_work_out(plan, found, water))
    omissions += _left_over(plan, results, omissions)
    figures = [f for r in results for f in figures_of_loop(r, plan.site)]
    return Evaluation(
        plan, water, tuple(results), _levels(results), tuple(omissions), tuple(figures)
    )


_SHARED = (
    "Another pump already moves the water of {tank}; two loops on one tank are not worked out yet."
)


def _shares_water(loop: PumpedBedLoop, results: list[LoopResult]) -> bool:
    return any({loop.tank.id, loop.bed.id} & {r.loop.tank.id, r.loop.bed.id} for r in results)


def _loop_of_pump(plan: Plan, pump: Pump, water: Water) -> PumpedBedLoop | Omission:
    riser = plan.run_from(f"{pump.id}.out")
    if riser is None:
        return Omission(
            pump.id, f"{pump.name} has no pipe on it yet; draw a run from {pump.id}.out."
        )
    tank = plan.vessel(pump.stands_in)
    bed = plan.vessel(riser.end.partition(".")[0])
    siphons = [s for s in plan.siphons if s.stands_in == bed.id]
    if tank.id == bed.id:
        return Omission(riser.id, f"{riser.name} ends in the vessel it starts from.")
    if tank.water_depth is None:
        return Omission(tank.id, f"{tank.name} has no water yet; say how deep it is filled.")
    if len(siphons) != 1:
        return Omission(
            bed.id, f"{bed.name} has {len(siphons) or 'no'} siphons; a pumped bed is worked out "
            "with one bell siphon so far.",
        )  # fmt: skip
    tail = plan.run_from(f"{siphons[0].id}.tail")
    if tail is None:
        return Omission(siphons[0].id, f"{siphons[0].name} has no tail; draw a run from its foot.")
    if tail.end.partition(".")[0] != tank.id:
        return Omission(
            tail.id, f"{tail.name} does not lead back to {tank.name}; only a bed that drains "
            "straight back to the pump’s vessel is worked out so far.",
        )  # fmt: skip
    bell = BellSiphonModel(plan, siphons[0], tail, water.kinematic_viscosity)
    return PumpedBedLoop(plan, pump, riser, bed, tank, bell, water)


def _work_out(plan: Plan, loop: PumpedBedLoop, water: Water) -> LoopResult:
    cycle = run_cycle(loop)
    duty = duty_of(loop, cycle, water, plan.site)
    mean_level = 0.5 * (cycle.tank_low + cycle.tank_high) - loop.tank.floor_height
    tank_volume = float(loop.tank_storage.volume(mean_level))
    shell = footprint(loop.bed.shape) * loop.bed.shape.height
    return LoopResult(
        loop, duty, cycle, cut_power(loop, cycle),
        cycle.mean_inflow / tank_volume if tank_volume > 0.0 else 0.0,
        cycle.mean_inflow / shell,
    )  # fmt: skip


def _left_over(plan: Plan, results: list[LoopResult], omissions: list[Omission]) -> list[Omission]:
    """Vessels in no loop, unless something is said of them already."""
    known = {v.id for r in results for v in (r.loop.tank, r.loop.bed)}
    known |= {o.place for o in omissions}
    return [
        Omission(v.id, f"{v.name} is in no loop that is worked out yet; no figure is given for it.")
        for v in plan.vessels
        if v.id not in known
    ]


def _levels(results: list[LoopResult]) -> dict[str, VesselLevels]:
    levels: dict[str, VesselLevels] = {}
    for result in results:
        loop, cycle = result.loop, result.cycle
        rest = loop.tank.floor_height + (loop.tank.water_depth or 0.0)
        levels[loop.tank.id] = VesselLevels(cycle.tank_low, cycle.tank_high, rest)
        floor = loop.bed.floor_height
        levels[loop.bed.id] = VesselLevels(
            floor + cycle.bed_low, floor + cycle.bed_high, floor + loop.bell.intake
        )
    return levels
