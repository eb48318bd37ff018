"""A pump known by what stands on its label."""

from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics.pump_curve import LabelCurve, PumpCurve
from bathys.plan.curve import Curve
from bathys.plan.quantities import Depth, Flow

__all__ = ["MODEL", "LabelPump"]


class LabelPump(Curve):
    """What a pump's label says."""

    CHOICE: ClassVar[str] = "its label"
    TOLD: ClassVar[str] = "the label’s {label:flow}"

    kind: Literal["label"] = "label"
    max_flow: Flow = Field(title="Label flow", description="At no lift.")
    max_head: Depth = Field(title="Label lift", description="At no flow.")
    exponent: Annotated[float, Field(ge=1.0, le=4.0, allow_inf_nan=False)] = Field(
        default=2.0, title="Curve exponent", json_schema_extra={"quantity": "ratio"}
    )

    @cached_property
    def law(self) -> PumpCurve:
        return LabelCurve(self.max_flow, self.max_head, self.exponent)

    @property
    def most_flow(self) -> float:
        return self.max_flow

    @classmethod
    def instead_of(cls, old: PumpCurve) -> dict[str, Any]:
        return {"kind": "label", "max_flow": old.max_flow, "max_head": old.max_head}


MODEL = LabelPump
