"""A pump known by points of its curve."""

from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from bathys.physics.pump_curve import PointsCurve, PumpCurve, parabola
from bathys.plan.base import Part
from bathys.plan.curve import Curve

__all__ = ["MODEL", "CurvePoint", "PointsPump"]

_SAMPLES = (0.0, 0.25, 0.5, 0.75, 1.0)
_FEWEST_FOR_A_CURVE = 3


class CurvePoint(Part):
    """One point of a pump's curve."""

    flow: Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
    head: Annotated[float, Field(ge=0.0, le=100.0, allow_inf_nan=False)]
    power: Annotated[float, Field(gt=0.0, le=1e5, allow_inf_nan=False)] | None = None


class PointsPump(Curve):
    """A pump's curve as points of flow [m³/s] and head [m]; heads never rise with flow."""

    CHOICE: ClassVar[str] = "measured points"
    TOLD: ClassVar[str] = "the {label:flow} it moves at no lift"

    kind: Literal["points"] = "points"
    points: Annotated[tuple[CurvePoint, ...], Field(min_length=2, max_length=50)] = Field(
        title="Curve points",
        description="One a line, flow at head, flow rising; or pasted from a table as flow, head.",
    )

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

    @cached_property
    def law(self) -> PumpCurve:
        points = [(p.flow, p.head) for p in self.points]
        return PointsCurve(points) if len(points) >= _FEWEST_FOR_A_CURVE else parabola(*points)

    @property
    def most_flow(self) -> float:
        return self.points[-1].flow

    @classmethod
    def instead_of(cls, old: PumpCurve) -> dict[str, Any]:
        flows = [share * old.max_flow for share in _SAMPLES]
        points = [{"flow": q, "head": max(old.head(q)[0], 0.0)} for q in flows]
        return {"kind": "points", "points": points}

    def power_at(self, flow: float) -> float | None:
        watts = [p.power for p in self.points if p.power is not None]
        if len(watts) != len(self.points):
            return None
        return float(np.interp(flow, [p.flow for p in self.points], watts))


MODEL = PointsPump
