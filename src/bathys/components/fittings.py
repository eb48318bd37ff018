"""Fittings that are known by a loss coefficient alone."""

from functools import lru_cache
from typing import Any, ClassVar, Literal

from pydantic import Field

from bathys.parts.bores import pipe_sizes
from bathys.parts.fittings import FITTINGS
from bathys.plan.bore import Bore, InsideDiameter, StandardBore
from bathys.plan.in_line import InLine

__all__ = ["MODEL", "Fitting"]


class Fitting(InLine):
    """Some fittings of one kind on a run."""

    NAMES: ClassVar[dict[str, str]] = {kind: fitting.name for kind, fitting in FITTINGS.items()}

    kind: Literal[
        "elbow_90", "elbow_90_long", "elbow_45", "tee_run", "tee_branch", "union", "barb",
        "reducer", "expander", "swing_check", "spring_check", "foot_valve",
    ]  # fmt: skip
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
        if isinstance(self.other_bore, StandardBore):
            return f"{self.words} {self.other_bore.nominal}"
        return self.words if self.other_bore is None else f"{self.words} another bore"


@lru_cache(maxsize=4096)
def _loss(kind: str, bore: float, other: float) -> float:
    return FITTINGS[kind].loss(bore, other)


def _wider(bore: Bore) -> Bore:
    if isinstance(bore, StandardBore):
        sizes = pipe_sizes(bore.standard)
        wider = next((s for s in sizes if s.bore > bore.inside), sizes[-1])
        return StandardBore(standard=bore.standard, nominal=wider.nominal)
    return InsideDiameter(diameter=1.25 * bore.inside)


MODEL = Fitting
