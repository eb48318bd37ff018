"""A plan as it stands once a stage is built."""

from dataclasses import dataclass

from bathys.build import STOCK, ShoppingList, shopping_list
from bathys.edits import apply_edits, remove_part
from bathys.parts.fittings import JUNCTIONS
from bathys.pipeline import Assessment, assess
from bathys.plan import Plan
from bathys.shelf import PriceList

__all__ = ["StageResult", "plan_at_stage", "stage_results", "stages_of"]


@dataclass(frozen=True, slots=True)
class StageResult:
    """A stage once it is built.

    Attributes
    ----------
    number : int
        Its number
    added : tuple of str
        Ids of the vessels that come with it
    found : Assessment
        Numbers and findings of all that stands then
    bought : ShoppingList
        All that is bought up to then
    """

    number: int
    added: tuple[str, ...]
    found: Assessment
    bought: ShoppingList


def stages_of(plan: Plan) -> tuple[int, ...]:
    """The stages that a plan is built in.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of int
        Their numbers, the first first
    """
    return tuple(sorted({v.stage for v in plan.vessels}))


def plan_at_stage(plan: Plan, stage: int) -> Plan:
    """What stands once a stage is built.

    Parameters
    ----------
    plan : Plan
        The plan
    stage : int
        The stage

    Returns
    -------
    Plan
        Without the vessels of later stages, what stands in them and the runs that lead there alone;
        what stays keeps its sizes and its valves as they are in the whole

    Raises
    ------
    EditRefused
        If nothing stands by then
    """
    for vessel in plan.vessels:
        if vessel.stage > stage and plan.group_of(vessel.id):
            plan = apply_edits(plan, remove_part(plan, vessel.id))
    while blind := _blind_ends(plan):
        plan = apply_edits(plan, remove_part(plan, blind[0]))
    return plan


def _blind_ends(plan: Plan) -> list[str]:
    """Joints from which nothing leads on any more, though they are no outfall: laid later."""
    return [
        j.id
        for j in plan.junctions
        if not JUNCTIONS[j.kind].is_end and not (plan.runs_from(j.id) and plan.runs_to(j.id))
    ]


def stage_results(whole: Assessment, prices: PriceList) -> tuple[StageResult, ...]:
    """Every stage worked out.

    Parameters
    ----------
    whole : Assessment
        Numbers and findings of the whole plan
    prices : PriceList
        What things cost

    Returns
    -------
    tuple of StageResult
        The first first; the last is the whole

    Raises
    ------
    NotSolved
        If the balance of a stage does not settle
    """
    plan = whole.evaluation.plan
    stages = stages_of(plan)
    rows = []
    for number in stages:
        found = whole if number == stages[-1] else assess(plan_at_stage(plan, number))
        rows.append(
            StageResult(
                number,
                tuple(v.id for v in plan.vessels if v.stage == number),
                found,
                shopping_list(found.evaluation, STOCK[1], prices),
            )
        )
    return tuple(rows)
