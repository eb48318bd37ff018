"""How many fish there are now, by the plan and what was entered since."""

from collections.abc import Sequence
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.fieldlog.logged import Logged, mass_each, total_of

__all__ = ["Stock", "stock_of"]


@dataclass(frozen=True, slots=True)
class Stock:
    """The fish of one cohort.

    Attributes
    ----------
    cohort : str
        Its id
    planned, came, died, moved : int
        Fish that the plan has, and that came, died and were moved elsewhere since the log begins
    each : float
        Mean weight of a fish: as last weighed, else by the plan, [kg]
    is_weighed : bool
        Whether that was weighed
    fry : float or None
        As many were counted last; none where none were
    """

    cohort: str
    planned: int
    came: int
    died: int
    moved: int
    each: float
    is_weighed: bool
    fry: float | None = None

    @property
    def count(self) -> int:
        """How many there are now."""
        return max(self.planned + self.came - self.died - self.moved, 0)

    @property
    def mass(self) -> float:
        """All of them [kg]."""
        return self.count * self.each

    @property
    def is_changed(self) -> bool:
        """Whether there are others than the plan has."""
        return bool(self.came or self.died or self.moved)


def stock_of(entries: Sequence[Logged], found: Evaluation) -> tuple[Stock, ...]:
    """How many fish there are now.

    Parameters
    ----------
    entries : sequence of Logged
        The log, in any order
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    tuple of Stock
        By cohort, in the plan's order
    """
    rows = []
    for cohort in found.plan.fish:
        own = [e for e in entries if e.part == cohort.id]
        came, died, moved = (
            round(total_of((e for e in own if e.kind == kind), "count"))
            for kind in ("came", "deaths", "moved")
        )
        weighed = min((e for e in own if e.kind == "netted"), key=lambda e: e.age, default=None)
        each = cohort.mass_each if weighed is None else mass_each(weighed)
        fry = min((e for e in own if e.kind == "brood"), key=lambda e: e.age, default=None)
        seen = float(fry.values["count"]) if fry is not None and "count" in fry.values else None
        rows.append(
            Stock(cohort.id, cohort.count, came, died, moved, each, weighed is not None, seen)
        )
    return tuple(rows)
