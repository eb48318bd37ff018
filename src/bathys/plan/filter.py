"""What every filter on a run has, whatever its kind."""

import math
from abc import abstractmethod
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import Field

from bathys.plan.base import Kind
from bathys.plan.quantities import Cycle, Height, Mass, Opening

__all__ = ["FLOC", "FaceArea", "Filter", "Grain"]

FLOC = 20.0
"""Dry mass of waste in the pores of a filter that it has filled, over their volume: 2 % dry, as
fresh sludge (common practice) [kg/m³]."""

_MOST_LOADED = 0.95

FaceArea = Annotated[
    float, Field(ge=1e-4, le=20.0, allow_inf_nan=False, json_schema_extra={"quantity": "area"})
]
"""An area that water enters [m²]."""
Grain = Annotated[
    float, Field(ge=1e-6, le=0.05, allow_inf_nan=False, json_schema_extra={"quantity": "length"})
]
"""A size of grain, mesh or fibre [m]."""


class Filter(Kind):
    """Something on a run that holds back what the water carries, and clogs.

    What it holds and how its resistance grows are assumed for every kind, and told as such: no
    published figures cover what builders make of brushes, netting and cloth.
    """

    GROUP: ClassVar[str] = "filters"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    STANDS: ClassVar[Literal["before", "on", "behind"]]
    """In the vessel before the run, on the run, or at its end."""
    MARK: ClassVar[tuple[tuple[float, float], ...]]
    """Its line in the side view, in picture units."""
    CLEANING: ClassVar[str]
    """What is done to clean it."""

    kind: Any
    loaded: Annotated[Opening, Field(le=_MOST_LOADED)] = Field(
        default=0.0, title="Loaded", description="Of what it can hold: 0 clean."
    )
    past_head: Height = Field(
        default=0.0,
        title="Water goes past it at",
        description="So far over the water behind it are its telltale holes, its open top or a "
        "bypass; 0 for none.",
    )
    clean_every: Cycle | None = Field(
        default=None, title="Cleaned every", description="None if it is not settled yet."
    )
    cut: Grain = Field(
        default=60e-6, title="Grains held from", description="Its mesh, or the finest it stops."
    )
    holds_coarse: Opening = Field(
        default=0.4, title="Holds of those", description="Each time that they pass (assumed)."
    )
    holds_fine: Opening = Field(
        default=0.05, title="Holds of finer ones", description="Each time that they pass (assumed)."
    )
    holds_dry: Annotated[Mass, Field(gt=0.0)] | None = Field(
        default=None,
        title="Can hold, dry",
        description="Until it lets nothing through; none to work it out from its pores.",
    )

    @classmethod
    @abstractmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Its fields as they begin on a run of this bore [m]."""

    @property
    @abstractmethod
    def room(self) -> float:
        """Dry mass that fills its pores or covers its face [kg]."""

    @abstractmethod
    def resistance(self, viscosity: float) -> tuple[float, float]:
        """Head over flow [s/m²] and over flow squared [s²/m⁵] as it stands, in water of this
        kinematic viscosity [m²/s]."""

    @property
    def capacity(self) -> float:
        """Dry mass that it can hold [kg]."""
        return self.holds_dry if self.holds_dry is not None else self.room

    @property
    def most_head(self) -> float:
        """Head from which on water goes past; inf for no other way [m]."""
        return self.past_head if self.past_head > 0.0 else math.inf

    def holds(self, grain: float) -> float:
        """Share of grains of this size [m] that it holds of what goes through it [-]."""
        return self.holds_coarse if grain >= self.cut else self.holds_fine

    def flow_through(self, head: float, viscosity: float) -> float:
        """Flow that a head [m] drives through it [m³/s]."""
        linear, squared = self.resistance(viscosity)
        root = math.sqrt(linear * linear + 4.0 * squared * head)
        return 2.0 * head / max(linear + root, 1e-30)

    def share_through(self, flow: float, viscosity: float) -> float:
        """Share of a flow [m³/s] that goes through it, and not past [-]."""
        if math.isinf(self.most_head) or flow <= 0.0:
            return 1.0
        return min(self.flow_through(self.most_head, viscosity) / flow, 1.0)

    def loaded_to(self, share: float) -> Self:
        """The same, loaded to a share of what it can hold [-]."""
        return self.model_copy(update={"loaded": min(max(share, 0.0), _MOST_LOADED)})

    @property
    def is_full(self) -> bool:
        """Whether it holds as much as is reckoned with."""
        return self.loaded >= _MOST_LOADED - 1e-9

    def half_blocked(self) -> dict[str, Any]:
        """Its fields with half of its face blocked."""
        data = self.model_dump()
        return {**data, "face": 0.5 * data["face"]}
