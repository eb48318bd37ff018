"""How a rota of sowing and harvest was kept, by what was entered."""

from collections.abc import Sequence
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.fieldlog.logged import Logged, total_of
from bathys.quality.sowing import rotas_of

__all__ = ["RotaKept", "rotas_kept"]

_DAYS = 28.0  # looked back [d]
_WEEKS = _DAYS / 7.0
_LEAST = 1.0  # plants a week; of fewer, four weeks tell nothing (assumed)
_FEW = 0.7  # of what the rota has; fewer leave gaps (assumed) [-]


@dataclass(frozen=True, slots=True)
class RotaKept:
    """What was sown in and harvested from a bed or raft in the last four weeks.

    Attributes
    ----------
    vessel : str
        Its id
    sown, harvested : float
        Sown or planted out, and heads harvested, by what was entered
    seeds, plants : float
        Seeds and plants that the rota has in four weeks
    """

    vessel: str
    sown: float
    harvested: float
    seeds: float
    plants: float

    @property
    def leaves_gaps(self) -> bool:
        """Whether so few were sown, even if all of them were plants, that places stay empty."""
        return self.sown < _FEW * self.plants


def rotas_kept(entries: Sequence[Logged], found: Evaluation) -> tuple[RotaKept, ...]:
    """How each rota was kept.

    Parameters
    ----------
    entries : sequence of Logged
        The log, in any order
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    tuple of RotaKept
        In the plan's order, of beds and rafts with a plant a week or more in which anything was
        sown more than four weeks ago: before that there is nothing to hold against the rota
    """
    rows = []
    for rota in rotas_of(found):
        own = [e for e in entries if e.part == rota.vessel.id]
        sown = [e for e in own if e.kind == "sown"]
        if rota.harvested < _LEAST or not any(e.age > _DAYS for e in sown):
            continue
        cut = [e for e in own if e.kind == "harvest" and e.age <= _DAYS]
        rows.append(
            RotaKept(
                rota.vessel.id,
                total_of((e for e in sown if e.age <= _DAYS), "count"),
                total_of(cut, "count"),
                _WEEKS * rota.sown,
                _WEEKS * rota.harvested,
            )
        )
    return tuple(rows)
