"""Fittings that are known by a loss coefficient alone."""

from functools import lru_cache
from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.parts.fittings import FITTINGS
from bathys.plan.bore import Bore, InsideDiameter, bore_of_size
from bathys.plan.in_line import InLine

__all__ = ["MODEL", "Fitting"]


class Fitting(InLine):
    """Some fittings of one kind on a run."""

    NAMES: ClassVar[dict[str, str]] = {kind: fitting.name for kind, fitting in FITTINGS.items()}

    kind: Literal[
        "elbow_90",
        "elbow_90_long",
        "elbow_45",
        "tee_run",
        "tee_branch",
        "union",
        "clean_out",
        "barb",
        "reducer",
        "expander",
        "swing_check",
        "spring_check",
        "foot_valve",
    ]
    other_bore: Bore | None = Field(
        default=None, title="bore", description="Of a reducer or an expander."
    )

    @classmethod
    def usual(cls, kind: str, bore: Bore) -> dict[str, Any]:
        """The next size up, for what leads to another bore."""
        return {"other_bore": _wider(bore).model_dump()} if FITTINGS[kind].changes_bore else {}

    def loss_of_one(self, bore: float) -> float:
        other = self.other_bore.inside if self.other_bore is not None else bore
        return _loss(self.kind, bore, other)

    @property
    def has_place(self) -> bool:
        return FITTINGS[self.kind].has_place

    @property
    def holds_back(self) -> bool:
        return FITTINGS[self.kind].holds_back

    @property
    def fault(self) -> tuple[str, str] | None:
        if FITTINGS[self.kind].changes_bore == (self.other_bore is not None):
            return None
        lacks = self.other_bore is None
        return "other_bore", f"“{self.piece}” " + (
            "needs its other bore" if lacks else "has no other bore"
        )

    @property
    def label(self) -> str:
        if self.other_bore is None:
            return self.words
        size = self.other_bore.size
        return f"{self.words} {'another bore' if size is None else size.nominal}"


@lru_cache(maxsize=4096)
def _loss(kind: str, bore: float, other: float) -> float:
    return FITTINGS[kind].loss(bore, other)


def _wider(bore: Bore) -> Bore:
    if bore.size is not None:
        return bore_of_size(next(iter(bore.wider), bore.size))
    return InsideDiameter(diameter=1.25 * bore.inside)


MODEL = Fitting
