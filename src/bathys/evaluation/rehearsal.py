"""A plan rehearsed: followed until it repeats itself, its plug pulled, its parts let fail."""

from dataclasses import dataclass

from bathys.evaluation.result import Evaluation
from bathys.simulation import NotSimulated
from bathys.simulation.claims import SumpClaims, claims_of
from bathys.simulation.drill import PowerDrill, drill_power_cut
from bathys.simulation.settled import Settling, settle_down
from bathys.simulation.what_if import WhatIf, mishaps_of, try_mishap

__all__ = ["Rehearsal", "rehearse"]

_MOST_MISHAPS = 60


@dataclass(frozen=True)
class Rehearsal:
    """What a plan does through time, and when things go wrong.

    Attributes
    ----------
    evaluation : Evaluation
        Its steady numbers
    settling : Settling
        From rest until it repeats itself
    drills : tuple of PowerDrill
        Power cuts at the worst moments
    claims : tuple of SumpClaims
        What each sump must hold
    what_ifs : tuple of WhatIf
        Mishaps that do harm, the quickest first
    harmless : int
        How many were tried that do none
    """

    evaluation: Evaluation
    settling: Settling
    drills: tuple[PowerDrill, ...]
    claims: tuple[SumpClaims, ...]
    what_ifs: tuple[WhatIf, ...]
    harmless: int


def rehearse(evaluation: Evaluation, with_mishaps: bool = True) -> Rehearsal:
    """Follow a plan through time and try what may go wrong.

    Parameters
    ----------
    evaluation : Evaluation
        Its steady numbers
    with_mishaps : bool
        Whether every part is let fail in turn

    Returns
    -------
    Rehearsal
        What happens

    Raises
    ------
    NotSimulated
        If the layout is not followed
    NotSolved
        If a balance does not settle
    """
    plan = evaluation.plan
    if not any(plan.run_from(f"{p.id}.out") for p in plan.pumps):
        raise NotSimulated("No pump of it moves any water yet.")
    settling = settle_down(plan)
    closers = set(evaluation.balance.closing.values())
    drills = drill_power_cut(plan, settling, closers)
    claims = claims_of(evaluation.balance, settling, drills)
    tried = []
    for number, mishap in enumerate(mishaps_of(plan) if with_mishaps else ()):
        if number >= _MOST_MISHAPS:
            break
        tried.append(try_mishap(plan, settling, mishap))
    harmful = [w for w in tried if w is not None and not w.is_harmless]
    harmful.sort(key=lambda w: (not w.half_in, w.hurts_after or 0.0))
    harmless = sum(w is not None and w.is_harmless for w in tried)
    return Rehearsal(evaluation, settling, drills, claims, tuple(harmful), harmless)
