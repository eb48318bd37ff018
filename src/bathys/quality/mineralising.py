"""What a mineralising drum hands back of the nutrients that its sludge holds."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.supply import Move
from bathys.quality.solids import SolidsResult

__all__ = ["NITROGEN_IN_SOLIDS", "Mineralised", "mineralised"]

NITROGEN_IN_SOLIDS = 0.028
"""Nitrogen in dry solids: of 100 g fed 12 g end in them (split assumed), in feed of 36 % protein
[-]."""

_ROTS = 0.1  # of what an aerated drum holds, a day (assumed) [1/d]
_DAY, _WEEK = 86400.0, 604800.0


@dataclass(frozen=True, slots=True)
class Mineralised:
    """A drum's week.

    Attributes
    ----------
    id, drum, source : str
        Of the round, of the drum, and of the settler
    target : str or None
        Where its clear water goes; none outside
    litres : float
        Handed back a week, [m³]
    days : float
        That water stays in the drum in the mean
    share : float
        Of what comes in, broken down by then, [-]
    nitrogen : float
        Handed back a week, [g]
    """

    id: str
    drum: str
    source: str
    target: str | None
    litres: float
    days: float
    share: float
    nitrogen: float


def mineralised(found: Evaluation, solids: SolidsResult) -> tuple[Mineralised, ...]:
    """The week of every mineralising drum.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    solids : SolidsResult
        What becomes of its solids

    Returns
    -------
    tuple of Mineralised
        In the order of their rounds
    """
    plan, rows = found.plan, []
    for transfer in plan.transfers:
        moves = [m for m in plan.moves if m.id == transfer.id]
        pairs: list[tuple[Move, Move]] = [
            (a, b) for a in moves for b in moves if a.source is not None and a.source == b.target
        ]
        for out, filled in pairs:
            if filled.source is None or out.source is None:
                continue
            drum = found.vessels[out.source]
            days = drum.rest_volume / max(out.volume, 1e-9) * out.every / _DAY
            share = _ROTS * days / (1.0 + _ROTS * days)  # of a mixed drum in the long run
            caught = solids.held(filled.source) * _WEEK / _DAY
            rows.append(
                Mineralised(
                    transfer.id,
                    out.source,
                    filled.source,
                    out.target,
                    out.volume * _WEEK / out.every,
                    days,
                    share,
                    caught * NITROGEN_IN_SOLIDS * share,
                )
            )
    return tuple(rows)
