"""A pick-up inside a side outlet."""

from typing import Literal

from pydantic import Field

from bathys.components.lift.model import SolidsLift

__all__ = ["MODEL", "DipTube"]


class DipTube(SolidsLift):
    """A pipe that goes through a wall and turns down inside to near the floor: it holds the level
    of its hole and draws from below. Nothing lets air in at its top, so that it can siphon."""

    kind: Literal["dip_tube"] = "dip_tube"  # type: ignore[assignment]
    vented: bool = Field(
        default=False,
        title="Air hole at the wall",
        description="A hole in the top of its elbow lets air in, so that it cannot siphon.",
    )


MODEL = DipTube
