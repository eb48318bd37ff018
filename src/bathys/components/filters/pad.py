"""What all pads of fibre have, from a brush to a sock."""

from typing import Annotated

from pydantic import Field

from bathys.physics.porous import fibre_resistance
from bathys.plan.filter import FLOC, FaceArea, Filter, Grain
from bathys.plan.quantities import Depth, Share

__all__ = ["Pad"]


class Pad(Filter):
    """Fibres with water creeping between them; waste fills the room between.

    A pad loaded to a share s has room 1 − s between its fibres, and its resistance grows as
    (1 − s)⁻³, as Kozeny's law has it for pores (assumed for what lies in a pad).
    """

    face: FaceArea = Field(title="Face", description="Area that the water enters.")
    depth: Depth = Field(title="Thickness", description="Along the water.")
    void: Annotated[Share, Field(ge=0.6, le=0.995)] = Field(
        title="Not fibre", description="Share of it: 0.85 for felt, 0.97 for loose fill (assumed)."
    )
    fibre: Grain = Field(title="Thickness of a fibre")

    @property
    def room(self) -> float:
        return self.face * self.depth * self.void * FLOC

    def resistance(self, viscosity: float) -> tuple[float, float]:
        clean = fibre_resistance(self.face, self.depth, self.void, self.fibre, viscosity)
        return clean / (1.0 - self.loaded) ** 3, 0.0
