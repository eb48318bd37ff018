"""A catalogue of invented pumps, for sizing before a real one is chosen.

No make or model is meant: flows, lifts and watts are spread as small circulating pumps' are, from
a tenth of their watts in moving water for the smallest to two fifths for the best (common
practice). Builders add the pumps they can buy.
"""

import csv
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

__all__ = ["CatalogPump", "sample_pumps"]

_LITRES_AN_HOUR = 1.0 / 3.6e6


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
    """

    name: str
    max_flow: float
    max_head: float
    exponent: float
    power: float
    is_own: bool = False


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
