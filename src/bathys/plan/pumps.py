"""Pumps, their curves and what switches them."""

from typing import TYPE_CHECKING, Annotated, Literal, Self, TypeAlias

from pydantic import Field, model_validator

from bathys.kinds import union_of
from bathys.plan.base import Headed, Part
from bathys.plan.quantities import (
    Depth,
    Dial,
    Flow,
    Height,
    Identifier,
    Power,
    Ratio,
    Wear,
)
from bathys.plan.switch import Band, Clock, Switch

__all__ = ["CurvePoint", "LabelPump", "PointsPump", "Pump"]

if TYPE_CHECKING:
    AnySwitch: TypeAlias = Switch
else:
    AnySwitch = union_of("switches")


class LabelPump(Part):
    """What a pump's label says."""

    kind: Literal["label"] = "label"
    max_flow: Flow = Field(title="Label flow", description="At no lift.")
    max_head: Depth = Field(title="Label lift", description="At no flow.")
    exponent: Annotated[float, Field(ge=1.0, le=4.0, allow_inf_nan=False)] = Field(
        default=2.0, title="Curve exponent", json_schema_extra={"quantity": "ratio"}
    )


class CurvePoint(Part):
    """One point of a pump's curve."""

    flow: Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
    head: Annotated[float, Field(ge=0.0, le=100.0, allow_inf_nan=False)]
    power: Annotated[float, Field(gt=0.0, le=1e5, allow_inf_nan=False)] | None = None


class PointsPump(Part):
    """A pump's curve as points of flow [m³/s] and head [m]; heads never rise with flow."""

    kind: Literal["points"] = "points"
    points: Annotated[tuple[CurvePoint, ...], Field(min_length=2, max_length=50)]

    @model_validator(mode="after")
    def _falls(self) -> Self:
        pairs = zip(self.points, self.points[1:], strict=False)
        for number, (one, two) in enumerate(pairs, start=2):
            if two.flow <= one.flow:
                raise ValueError(f"point {number} must have more flow than the point before it")
            if two.head > one.head:
                raise ValueError(
                    f"point {number} has more head than the point before it; a pump's head "
                    "never rises with flow"
                )
        if self.points[0].head <= self.points[-1].head:
            raise ValueError("the head must fall somewhere along the curve")
        return self


class Pump(Headed):
    """A pump standing in a vessel."""

    kind: Literal["pump"] = "pump"
    stands_in: Identifier
    inlet_height: Height = Field(
        title="Inlet height", description="Over the vessel's floor; it cannot pump below this."
    )
    curve: Annotated[LabelPump | PointsPump, Field(discriminator="kind")]
    power: Power = Field(title="Power", description="Watts drawn, from the label or a meter.")
    strainer_loss: Ratio = Field(
        default=0.0,
        title="Strainer loss K",
        description="On the run's bore: 0 clean, 5 and more when clogged.",
    )
    dial: Dial = Field(default=1.0, title="Dial", description="Share of full speed.")
    wear: Wear = Field(
        default=1.0, title="Wear", description="What is left of a new pump's flow: 100 % new."
    )
    switch: AnySwitch | None = Field(default=None, title="Switched by")

    @property
    def clock(self) -> Clock | None:
        """Its turns, if it goes by the clock."""
        return self.switch.clock if self.switch is not None else None

    @property
    def band(self) -> Band | None:
        """The levels that start and stop it, if it goes by the water."""
        return self.switch.band if self.switch is not None else None
