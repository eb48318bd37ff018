"""How many fish there are now, by the plan and what was entered since."""

from collections.abc import Sequence
from dataclasses import dataclass

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.fieldlog.logged import Logged, mass_each, total_of

__all__ = ["Stock", "count_at", "stock_edits", "stock_of"]

_CHANGES = {"came": 1.0, "deaths": -1.0, "moved": -1.0, "caught": -1.0}
"""Kinds of entries that make fish more or fewer."""

_SAME = 0.05  # a mean weight that differs by less is the plan's [-]


@dataclass(frozen=True, slots=True)
class Stock:
    """The fish of one cohort.

    Attributes
    ----------
    cohort : str
        Its id
    planned : int
        Fish that the plan has
    counted : int or None
        Fish that were counted last; none where they never were
    came, died, moved, caught : int
        Fish that came, died, were moved elsewhere and caught since they were counted, else since
        the log begins
    each : float
        Mean weight of a fish: as last weighed, else by the plan, [kg]
    planned_each : float
        By the plan, [kg]
    is_weighed : bool
        Whether that was weighed
    fry : float or None
        As many were counted last; none where none were
    """

    cohort: str
    planned: int
    counted: int | None
    came: int
    died: int
    moved: int
    caught: int
    each: float
    planned_each: float
    is_weighed: bool
    fry: float | None = None

    @property
    def count(self) -> int:
        """How many there are now."""
        first = self.planned if self.counted is None else self.counted
        return max(first + self.came - self.died - self.moved - self.caught, 0)

    @property
    def mass(self) -> float:
        """All of them [kg]."""
        return self.count * self.each

    @property
    def is_changed(self) -> bool:
        """Whether the log tells of others than the plan has."""
        went = self.came or self.died or self.moved or self.caught
        return bool(went) or self.count != self.planned

    @property
    def differs(self) -> bool:
        """Whether the plan has another number of fish, or of another weight."""
        return (
            self.count != self.planned
            or abs(self.each - self.planned_each) > _SAME * self.planned_each
        )


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
        counted = min((e for e in own if e.kind == "counted"), key=lambda e: e.age, default=None)
        since = [e for e in own if counted is None or e.age < counted.age]
        came, died, moved, caught = (
            round(total_of((e for e in since if e.kind == kind), "count")) for kind in _CHANGES
        )
        weighed = [e for e in own if e.kind == "netted"]
        weighed += [e for e in own if e.kind == "counted" and "mass" in e.values]
        last = min(
            (e for e in weighed if float(e.values["count"]) > 0.0),
            key=lambda e: e.age,
            default=None,
        )
        fry = min((e for e in own if e.kind == "brood"), key=lambda e: e.age, default=None)
        rows.append(
            Stock(
                cohort.id,
                cohort.count,
                None if counted is None else round(float(counted.values["count"])),
                came,
                died,
                moved,
                caught,
                cohort.mass_each if last is None else mass_each(last),
                cohort.mass_each,
                last is not None,
                float(fry.values["count"]) if fry is not None and "count" in fry.values else None,
            )
        )
    return tuple(rows)


def stock_edits(stock: Sequence[Stock]) -> tuple[Edit, ...]:
    """What makes a plan's fish those that there are now.

    Parameters
    ----------
    stock : sequence of Stock
        The fish by the log

    Returns
    -------
    tuple of Edit
        Number and weight of each cohort that the plan has otherwise; of one with no fish left
        nothing, since a plan has none of no fish
    """
    edits = []
    for row in stock:
        if row.differs and row.count > 0:
            edits.append(Edit(f"fish.{row.cohort}.count", row.count))
            edits.append(Edit(f"fish.{row.cohort}.mean_mass", float(f"{row.each:.4g}")))
    return tuple(edits)


def count_at(own: Sequence[Logged], planned: float, age: float) -> float:
    """How many fish of a cohort there were at some time.

    Parameters
    ----------
    own : sequence of Logged
        All that was entered at the cohort, in any order
    planned : float
        How many the plan has: when the log begins, where they were never counted, [fish]
    age : float
        How long ago, [d]

    Returns
    -------
    float
        From the last count before; else from the next one after, less what changed until then,
        [fish]
    """
    counts = [e for e in own if e.kind == "counted"]
    before = min((e for e in counts if e.age >= age), key=lambda e: e.age, default=None)
    after = max((e for e in counts if e.age < age), key=lambda e: e.age, default=None)
    if before is None and after is not None:
        return max(
            float(after.values["count"]) - _changed(own, from_age=age, to_age=after.age), 0.0
        )
    begin = float("inf") if before is None else before.age
    first = planned if before is None else float(before.values["count"])
    return max(first + _changed(own, from_age=begin, to_age=age), 0.0)


def _changed(own: Sequence[Logged], from_age: float, to_age: float) -> float:
    """Fish more at the later than at the earlier of two times."""
    return sum(
        sign * total_of((e for e in own if e.kind == kind and to_age <= e.age < from_age), "count")
        for kind, sign in _CHANGES.items()
    )
