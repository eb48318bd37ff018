"""A still bed of drifting media that strains the water."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics.porous import bed_resistance
from bathys.plan.filter import FLOC, FaceArea, Filter, Grain
from bathys.plan.quantities import Depth, Share

__all__ = ["MODEL", "StaticBed"]


class StaticBed(Filter):
    """Media that drift under the surface before the outlet. Waste fills the room between them, and
    its resistance grows as (1 − s)⁻³ with the share s of it that is full (assumed)."""

    CHOICE: ClassVar[str] = "a static bed of drifting media"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (-9.0, -6.0), (-3.0, 0.0), (3.0, -6.0), (9.0, 0.0), (3.0, 6.0), (-3.0, 0.0), (-9.0, 6.0),
    )  # fmt: skip
    CLEANING: ClassVar[str] = "churned with air for 5 to 10 minutes and drained"

    kind: Literal["static_bed"] = "static_bed"
    face: FaceArea = Field(title="Face", description="Area that the water enters.")
    depth: Depth = Field(title="Thickness", description="Along the water.")
    void: Annotated[Share, Field(ge=0.25, le=0.9)] = Field(
        title="Room between", description="Share of the bed that is not media: about 0.4 (assumed)."
    )
    piece: Annotated[Grain, Field(ge=1e-4)] = Field(title="Size of a piece")

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Sizes as they are often built (assumed), lengths in [m]."""
        return {
            "face": 0.25,
            "depth": 0.3,
            "void": 0.4,
            "piece": 0.01,
            "cut": 60e-6,
            "holds_coarse": 0.6,
            "holds_fine": 0.1,
        }

    @property
    def room(self) -> float:
        return self.face * self.depth * self.void * FLOC

    def resistance(self, viscosity: float) -> tuple[float, float]:
        creeping, turning = bed_resistance(self.face, self.depth, self.void, self.piece, viscosity)
        more = (1.0 - self.loaded) ** -3
        return creeping * more, turning * more


MODEL = StaticBed
