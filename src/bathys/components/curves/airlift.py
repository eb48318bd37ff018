"""Air that rises in a pipe, as a pump."""

import math
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.halving import greatest
from bathys.physics import GRAVITY, area_of
from bathys.physics.airlift import AirliftCurve, airlift_lift
from bathys.physics.pump_curve import PumpCurve
from bathys.plan.curve import Curve
from bathys.plan.quantities import Depth, Flow, Height

__all__ = ["MODEL", "Airlift"]

_DEPTH_OF_LIFT = 2.0  # depth of the air over the lift: two thirds under water (common practice)
_NARROWEST, _WIDEST = 0.01, 0.3  # pipe [m]
_HALVINGS = 60


class Airlift(Curve):
    """A pipe that stands in the water, with air let into its foot."""

    CHOICE: ClassVar[str] = "an airlift"
    TOLD: ClassVar[str] = "the {label:flow} it lifts to the water’s own height"

    kind: Literal["airlift"] = "airlift"
    air: Flow = Field(title="Air let in", description="Free air, at its depth.")
    pipe_diameter: Annotated[Height, Field(ge=_NARROWEST, le=_WIDEST)] = Field(
        title="Airlift pipe, inside"
    )
    submergence: Depth = Field(
        title="Air let in at", description="So far under the water it stands in."
    )

    @cached_property
    def law(self) -> PumpCurve:
        return AirliftCurve(self.air, self.pipe_diameter, self.submergence)

    @property
    def most_flow(self) -> float:
        return self.law.max_flow

    @classmethod
    def instead_of(cls, old: PumpCurve) -> dict[str, Any]:
        """Let in twice as deep as the pump lifts; its pipe and its air follow from what the pump
        does."""
        deep = _DEPTH_OF_LIFT * old.max_head

        def air_for(bore: float) -> float:
            most = area_of(bore) * math.sqrt(GRAVITY * bore)
            return greatest(
                lambda air: airlift_lift(0.0, air, bore, deep) <= old.max_head,
                1e-7,
                most,
                _HALVINGS,
            )

        bore = greatest(
            lambda wide: AirliftCurve(air_for(wide), wide, deep).max_flow <= old.max_flow,
            _NARROWEST,
            _WIDEST,
            _HALVINGS,
        )
        return {"kind": "airlift", "air": air_for(bore), "pipe_diameter": bore, "submergence": deep}


MODEL = Airlift
