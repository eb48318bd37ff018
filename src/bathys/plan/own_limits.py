"""Limits that a builder sets for a part, beside those of the schools."""

from typing import Annotated

from pydantic import Field

from bathys.plan.base import Part
from bathys.plan.quantities import Hardness, Height, Opening, Rate, Speed, Temperature, Time

DaysLeft = Annotated[float, Field(ge=0.1, le=365.0, json_schema_extra={"quantity": "ratio"})]
"""How many days a reserve lasts."""

Weeks = Annotated[float, Field(ge=0.1, le=104.0, json_schema_extra={"quantity": "ratio"})]
"""A time of growing [weeks]."""
PerArea = Annotated[float, Field(ge=0.1, le=2000.0, json_schema_extra={"quantity": "ratio"})]
"""Of something on each square metre [1/m²]."""

__all__ = ["CropLimits", "FishLimits", "PumpLimits", "RunLimits", "VesselLimits"]


class VesselLimits(Part):
    """Of a vessel."""

    least_turnover: Rate | None = Field(default=None, title="Turnover, at least")
    most_turnover: Rate | None = Field(default=None, title="Turnover, at most")
    least_hold: Time | None = Field(default=None, title="Water stays, at least")
    lowest: Height | None = Field(
        default=None, title="Level, never below", description="Over its floor."
    )
    highest: Height | None = Field(default=None, title="Level, never above")
    least_days: DaysLeft | None = Field(default=None, title="Days without a hand, at least")


class RunLimits(Part):
    """Of a run."""

    slowest: Speed | None = Field(default=None, title="Velocity, at least")
    fastest: Speed | None = Field(default=None, title="Velocity, at most")


class PumpLimits(Part):
    """Of a pump."""

    least_reserve: Opening | None = Field(
        default=None,
        title="Reserve, at least",
        description="Share of its greatest flow that is not used.",
    )


_Limit = Annotated[Hardness, Field(ge=0.001)]


class FishLimits(Part):
    """What a builder's own fish stand, where it is not what such fish usually stand."""

    coldest: Temperature | None = Field(default=None, title="Water, at least")
    warmest: Temperature | None = Field(default=None, title="Water, at most")
    least_oxygen: _Limit | None = Field(default=None, title="Oxygen, at least")
    most_ammonia: _Limit | None = Field(default=None, title="Harmful ammonia, at most")
    most_nitrite: _Limit | None = Field(default=None, title="Nitrite, at most")


class CropLimits(Part):
    """What a builder's own crop takes up and wants, where it is not what such crops usually do."""

    demand: PerArea | None = Field(
        default=None,
        title="Nitrogen it takes up",
        description="Grams a day on each square metre, fully grown.",
    )
    weeks_raised: Weeks | None = Field(default=None, title="Weeks from sowing to bed")
    weeks_in_bed: Weeks | None = Field(default=None, title="Weeks in the bed")
    sites: PerArea | None = Field(default=None, title="Plants on a square metre")
    least_light: PerArea | None = Field(
        default=None, title="Light, at least", description="A day, in mol/m²."
    )
    warmest_roots: Temperature | None = Field(default=None, title="Water at its roots, at most")
