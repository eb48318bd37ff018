"""Every figure of an evaluation, in the order of the water. Public: :func:`list_figures`;
:func:`list_details` for what only the benches show, :func:`list_claims` for what only time does."""

from typing import TYPE_CHECKING

from bathys.evaluation.falls import falls_of
from bathys.evaluation.figures import Figure
from bathys.evaluation.listing.beds import bed_details, cycle_figure, siphon_figure
from bathys.evaluation.listing.claims import list_claims
from bathys.evaluation.listing.pumps import power_figure, pump_details, pump_flow, pump_head
from bathys.evaluation.listing.runs import fall_figure, run_details, run_figures
from bathys.evaluation.listing.vessels import closing_levels, vessel_details, vessel_figures

if TYPE_CHECKING:
    from bathys.evaluation.result import Evaluation


__all__ = ["list_claims", "list_details", "list_figures"]

_MOST_HEADLINES = 2  # of one kind, so that the head of the page stays readable


def list_figures(found: "Evaluation") -> tuple[Figure, ...]:
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
    rows: list[Figure] = []
    for number, duty in enumerate(found.duties.values()):
        rows.append(pump_flow(found, duty, number < _MOST_HEADLINES))
    tanks = [v for v in found.vessels.values() if v.vessel.job == "fish_tank"]
    for vessel in found.vessels.values():
        rows += vessel_figures(found, vessel, vessel in tanks[:_MOST_HEADLINES])
    few = len(found.beds) <= _MOST_HEADLINES
    for bed in found.beds:
        rows += [cycle_figure(bed, few), siphon_figure(bed, few and len(found.beds) == 1)]
    for closer in dict.fromkeys(found.balance.closing.values()):
        rows += closing_levels(found, closer)
    for number, duty in enumerate(found.duties.values()):
        rows += [power_figure(found, duty, number < _MOST_HEADLINES), pump_head(found, duty)]
    for run in found.runs.values():
        rows += run_figures(found, run)
    return tuple(rows)


def list_details(found: "Evaluation") -> tuple[Figure, ...]:
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
    known = {f.key for f in found.figures}
    rows: list[Figure] = []
    for duty in found.duties.values():
        rows += pump_details(duty)
    for vessel in found.vessels.values():
        rows += vessel_details(found, vessel)
    for bed in found.beds:
        rows += bed_details(bed)
    for run in found.runs.values():
        rows += run_details(run)
    rows += map(fall_figure, falls_of(found))
    return tuple(f for f in rows if f.key not in known)
