"""What every settler has within its shell, whatever its kind."""

from abc import abstractmethod
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from pydantic import Field

from bathys.plan.base import Kind
from bathys.plan.openings import HoleRows, area_of_rows
from bathys.plan.quantities import Height
from bathys.plan.shell import Shell

__all__ = ["Line", "Rung", "Settler"]

Line = tuple[str, tuple[tuple[float, float], ...]]
"""A look, and points: aside of the vessel's middle and over its floor [m]."""


@dataclass(frozen=True, slots=True)
class Rung:
    """A place that water passes on its way through a settler.

    Attributes
    ----------
    name : str
        Where
    area : float
        That it passes, [m²]
    """

    name: str
    area: float


class Settler(Kind):
    """What makes a settler of a vessel. Heights are over the vessel's floor."""

    GROUP: ClassVar[str] = "settlers"
    CHOICE: ClassVar[str]
    """What it is called among the others."""
    STEPS: ClassVar[float]
    """n of Fair and Geyer: from 1 for one that mixes to 8 for a good basin [-]."""
    USED: ClassVar[float]
    """Share of its open area that settles [-]."""
    FITTED: ClassVar[str]
    """Where those two come from."""
    HEIGHTS: ClassVar[tuple[str, ...]]
    """Its fields that are heights over the floor."""
    UNDER_WATER: ClassVar[tuple[str, ...]] = ()
    """Those of them that must lie under its water."""
    WIDTHS: ClassVar[tuple[str, ...]] = ()
    """Its fields that are widths."""

    kind: Any
    hole_rows: HoleRows = Field(
        default=(),
        title="Outlet holes",
        description="A row a line: number × drill at their height; none for an outlet of its own.",
    )
    slit_length: Height = Field(
        default=0.0, title="Outlet slit, length", description="0 for holes, or an outlet's edge."
    )
    slit_gap: Height = Field(default=0.0, title="Outlet slit, height")
    drain_diameter: Annotated[Height, Field(le=0.5)] = Field(
        default=0.0,
        title="Sludge drain, diameter",
        description="With a valve at its foot; 0 for none.",
    )
    sludge_mark: Height = Field(
        default=0.0, title="Empty it at", description="Height of the sludge; 0 for the cone's top."
    )

    @classmethod
    @abstractmethod
    def usual(cls, shell: Shell) -> dict[str, Any]:
        """Its fields as they are usually built in a shell, lengths in [m]."""

    @abstractmethod
    def inner_rungs(self, shell: Shell) -> tuple[Rung, ...]:
        """What water passes between the inlet pipe and the open tank, with areas [m²]."""

    @abstractmethod
    def open_area(self, shell: Shell) -> float:
        """Area over which water rises slowly to the outlet [m²]."""

    def fault(self, shell: Shell) -> tuple[str, str] | None:
        """A field that does not go with its shell, and a sentence on it; none if all do."""
        for number, row in enumerate(self.hole_rows, start=1):
            if row.top > shell.height:
                return "hole_rows", f"row {number} of the outlet holes would lie over the rim"
        if self.sludge_mark > shell.height:
            return "sludge_mark", "the mark would lie over the rim"
        return None

    @abstractmethod
    def inner_lines(self, shell: Shell) -> tuple[Line, ...]:
        """What stands in the vessel, cut open through its middle."""

    @abstractmethod
    def inner_heights(self) -> tuple[tuple[str, float], ...]:
        """What is measured over the floor, and its height [m]."""

    def lines(self, shell: Shell) -> tuple[Line, ...]:
        """All that is drawn of it: what stands in the vessel, its outlet, drain and sludge mark."""
        half = 0.5 * shell.across

        def wall(height: float) -> float:
            return 0.5 * shell.width_at(min(max(height, 0.0), shell.height))

        drawn = [*self.inner_lines(shell)]
        for row in self.hole_rows:
            at = wall(row.height)
            drawn.append(("outlet-hole", ((at - 0.1 * half, row.height), (at, row.height))))
        if self.drain_diameter > 0.0:
            drawn.append(("drain", ((0.0, 0.0), (0.0, -0.06 * shell.height))))
        if self.sludge_mark > 0.0:
            at = wall(self.sludge_mark)
            drawn.append(("sludge-mark", ((-at, self.sludge_mark), (at, self.sludge_mark))))
        return tuple(drawn)

    def heights(self) -> tuple[tuple[str, float], ...]:
        """What is measured over the floor, and its height [m]."""
        rows = tuple(("outlet holes", row.height) for row in self.hole_rows)
        mark = (("sludge mark", self.sludge_mark),) if self.sludge_mark > 0.0 else ()
        return (*self.inner_heights(), *rows, *mark)

    def fitted_to(self, old: Shell, new: Shell) -> dict[str, Any]:
        """Its fields in another shell: scaled where they would not fit it, lengths in [m]."""
        data = self.model_dump()
        if self.fault(new) is None:
            return data
        tall, wide = min(new.height / old.height, 1.0), min(new.across / old.across, 1.0)
        for fields, share in ((("sludge_mark", *self.HEIGHTS), tall), (self.WIDTHS, wide)):
            data |= {field: round(share * data[field], 4) for field in fields}
        rows = ({**row, "height": round(tall * row["height"], 4)} for row in data["hole_rows"])
        return {**data, "hole_rows": list(rows)}

    @property
    def outlet_area(self) -> float:
        """Of its outlet holes and its slit; 0 where the outlet's own edge is all there is [m²]."""
        return area_of_rows(self.hole_rows) + self.slit_length * self.slit_gap
