"""Benches. A new one is a module with its page, a template, and one line of ``BENCHES``."""

from bathys.plan import Plan
from bathys_web.plans.benches import (
    air,
    figures,
    hours,
    levels,
    moving,
    practice,
    pump,
    siphon,
    solids,
    stages,
    water,
    week,
)
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCHES", "Bench", "BenchRequest", "benches_of"]

BENCHES: dict[str, Bench] = {
    b.key: b
    for b in (
        pump.BENCH,
        siphon.BENCH,
        solids.BENCH,
        water.BENCH,
        air.BENCH,
        levels.BENCH,
        hours.BENCH,
        week.BENCH,
        figures.BENCH,
        stages.BENCH,
        moving.BENCH,
        practice.BENCH,
    )
}


def benches_of(plan: Plan) -> list[Bench]:
    """The benches that have something to say of a plan.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    list of Bench
        The benches, in the order of the page
    """
    return [b for b in BENCHES.values() if b.shows(plan)]
