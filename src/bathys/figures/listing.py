"""Every figure of an evaluation, in the order of the water. Public: :func:`list_figures`;
:func:`list_details` for what only the benches show."""

from collections.abc import Iterator

from bathys.evaluation.beds import BedResult
from bathys.evaluation.falls import falls_of
from bathys.evaluation.result import Evaluation
from bathys.figures.beds import bed_details, cycle_figure, cycles_figure, siphon_figure
from bathys.figures.figure import Figure
from bathys.figures.pumps import power_figure, pump_details, pump_flow, pump_head
from bathys.figures.runs import fall_figure, run_details, run_figures
from bathys.figures.vessels import (
    closing_levels,
    reserves,
    total_water,
    vessel_details,
    vessel_figures,
)

__all__ = ["list_details", "list_figures", "list_headlines"]

_MOST_HEADLINES = 2  # of one kind, so that the head of the page stays readable


def list_headlines(found: Evaluation) -> tuple[Figure, ...]:
    """Figures for the head of the page, without the many that stand behind them.

    Parameters
    ----------
    found : Evaluation
        Its numbers

    Returns
    -------
    tuple of Figure
        In the order of the water
    """
    tanks = [v for v in found.vessels.values() if v.vessel.use.keeps_fish]
    few = _has_few_beds(found)
    rows = [
        *_of_pumps(found),
        *(f for v in tanks[:_MOST_HEADLINES] for f in vessel_figures(found, v, headline=True)),
        *(f for b in found.beds if few for f in _of_bed(found, b)),
        *_of_many_beds(found),
        *_of_closers(found),
        total_water(found),
        *_of_power(found),
    ]
    return tuple(f for f in rows if f.headline)


def list_figures(found: Evaluation) -> tuple[Figure, ...]:
    """Figures of an evaluation.

    Parameters
    ----------
    found : Evaluation
        Its numbers

    Returns
    -------
    tuple of Figure
        Headlines first come first
    """
    tanks = [v for v in found.vessels.values() if v.vessel.use.keeps_fish]
    return (
        *_of_pumps(found),
        *(
            f
            for v in found.vessels.values()
            for f in vessel_figures(found, v, v in tanks[:_MOST_HEADLINES])
        ),
        *(f for b in found.beds for f in _of_bed(found, b)),
        *_of_many_beds(found),
        *_of_closers(found),
        total_water(found),
        *reserves(found),
        *_of_power(found),
        *(f for r in found.runs.values() for f in run_figures(found, r)),
    )


def _has_few_beds(found: Evaluation) -> bool:
    return len(found.beds) <= _MOST_HEADLINES


def _of_pumps(found: Evaluation) -> Iterator[Figure]:
    for number, duty in enumerate(found.duties.values()):
        yield pump_flow(found, duty, number < _MOST_HEADLINES)


def _of_power(found: Evaluation) -> Iterator[Figure]:
    for number, duty in enumerate(found.duties.values()):
        yield power_figure(found, duty, number < _MOST_HEADLINES)
        yield pump_head(found, duty)


def _of_bed(found: Evaluation, bed: BedResult) -> Iterator[Figure]:
    few = _has_few_beds(found)
    yield cycle_figure(bed, few)
    yield siphon_figure(bed, few and len(found.beds) == 1)


def _of_many_beds(found: Evaluation) -> Iterator[Figure]:
    if not _has_few_beds(found):
        yield cycles_figure(found.beds)


def _of_closers(found: Evaluation) -> Iterator[Figure]:
    plan = found.plan
    for closer in dict.fromkeys(found.balance.closing.values()):
        # A vessel beside the loop, such as a mineralising drum, has no level that matters.
        if plan.vessel(closer).use.takes_up or any(
            closer in (plan.owner_of(r.start), r.target) for r in plan.runs
        ):
            yield from closing_levels(found, closer)


def list_details(found: Evaluation) -> tuple[Figure, ...]:
    """Figures that only the benches' tables show, to be asked for one by one.

    Parameters
    ----------
    found : Evaluation
        Its numbers

    Returns
    -------
    tuple of Figure
        None of them a headline
    """
    known = {f.key for f in list_figures(found)}
    rows: list[Figure] = []
    for duty in found.duties.values():
        rows += pump_details(duty)
    for vessel in found.vessels.values():
        rows += vessel_details(found, vessel)
    for bed in found.beds:
        rows += bed_details(bed)
    for run in found.runs.values():
        rows += run_details(run, found.water.kinematic_viscosity)
    rows += map(fall_figure, falls_of(found))
    return tuple(f for f in rows if f.key not in known)
