"""A screen before an outlet: keeps fish and carriers in, and leaves out."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from bathys.physics.porous import screen_resistance
from bathys.plan.filter import FaceArea, Filter
from bathys.plan.quantities import Share

__all__ = ["MODEL", "MeshScreen"]

_COVER = 0.05  # dry, on its face when nothing is open any more (assumed) [kg/m²]


class MeshScreen(Filter):
    """A screen of mesh or a drilled plate. What lies on it shuts its openings."""

    CHOICE: ClassVar[str] = "a screen before the outlet"
    STANDS: ClassVar[Literal["before", "on", "behind"]] = "before"
    MARK: ClassVar[tuple[tuple[float, float], ...]] = (
        (0.0, -11.0), (0.0, 11.0), (-3.0, 8.0), (3.0, 8.0), (-3.0, 3.0), (3.0, 3.0), (-3.0, -3.0),
        (3.0, -3.0), (-3.0, -8.0), (3.0, -8.0),
    )  # fmt: skip
    CLEANING: ClassVar[str] = "brushed off"

    kind: Literal["screen"] = "screen"
    face: FaceArea = Field(title="Face", description="Area of the screen that water passes.")
    open_share: Annotated[Share, Field(le=0.95)] = Field(
        title="Open share", description="Of its area: 0.4 to 0.6 is usual."
    )

    @classmethod
    def usual(cls, bore: float) -> dict[str, Any]:
        """Six times the pipe's area, of 5 mm mesh; lengths in [m]."""
        return {
            "face": round(max(6.0 * 0.785 * bore * bore, 1e-3), 4),
            "open_share": 0.5,
            "cut": 0.005,
            "holds_coarse": 0.9,
            "holds_fine": 0.0,
        }

    @property
    def room(self) -> float:
        return _COVER * self.face

    def resistance(self, viscosity: float) -> tuple[float, float]:
        return screen_resistance(self.face, self.cut, self.open_share, viscosity, self.loaded)


MODEL = MeshScreen
