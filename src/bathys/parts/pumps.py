"""A catalogue of invented pumps, for sizing before a real one is chosen.

No make or model is meant: flows, lifts and watts are spread as small circulating pumps' are, from
a tenth of their watts in moving water for the smallest to two fifths for the best (common
practice). Builders add the pumps they can buy.
"""

import csv
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from bathys.physics.pump_curve import PointsCurve, parabola

__all__ = ["CatalogPump", "sample_pumps"]

_LITRES_AN_HOUR = 1.0 / 3.6e6
_FEWEST = 2  # points that make a parabola; more make a curve of their own


@dataclass(frozen=True, slots=True)
class CatalogPump:
    """A pump that can be had.

    Attributes
    ----------
    name : str
        Its name
    max_flow : float
        Flow at no lift, [m³/s]
    max_head : float
        Lift at no flow, [m]
    exponent : float
        Of its curve H = H0 (1 − (Q/Q0)^n), [-]
    power : float
        Watts drawn, [W]
    is_own : bool
        Whether the builder added it
    points : tuple of (float, float)
        Of its curve, where it is known by points: flow and head, [m³/s, m]
    """

    name: str
    max_flow: float
    max_head: float
    exponent: float
    power: float
    is_own: bool = False
    points: tuple[tuple[float, float], ...] = ()

    def head_at(self, flow: float) -> float:
        """Lift at a flow.

        Parameters
        ----------
        flow : float
            The flow, [m³/s]

        Returns
        -------
        float
            The lift, below 0 where it does not reach, [m]
        """
        if len(self.points) > _FEWEST:
            return PointsCurve(self.points).head(flow)[0]
        if self.points:
            return parabola(*self.points).head(flow)[0]
        share: float = (flow / self.max_flow) ** self.exponent
        return self.max_head * (1.0 - share)

    @property
    def as_curve(self) -> dict[str, Any]:
        """Its curve as a plan tells it."""
        if self.points:
            return {"kind": "points", "points": [{"flow": q, "head": h} for q, h in self.points]}
        return {
            "kind": "label",
            "max_flow": self.max_flow,
            "max_head": self.max_head,
            "exponent": self.exponent,
        }


@cache
def sample_pumps() -> tuple[CatalogPump, ...]:
    """The invented pumps that ship, smallest flow first.

    Returns
    -------
    tuple of CatalogPump
        The pumps
    """
    text = files("bathys.parts").joinpath("pumps.csv").read_text()
    return tuple(
        CatalogPump(
            row["name"],
            float(row["max_flow_lph"]) * _LITRES_AN_HOUR,
            float(row["max_head_m"]),
            float(row["exponent"]),
            float(row["power_w"]),
        )
        for row in csv.DictReader(text.splitlines())
    )
