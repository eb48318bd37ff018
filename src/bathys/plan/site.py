"""Where a layout stands: its weather, its water, its power and its money."""

from typing import TYPE_CHECKING, Annotated, Literal, TypeAlias

from pydantic import Field

from bathys.parts.climate import DAY_UNDER_PEAK, HUMIDITY, SHELTERS, SUN, WIND
from bathys.physics.evaporation import open_water_dries, saturated_vapour
from bathys.plan.base import AllTyped, Part
from bathys.plan.quantities import (
    AirTemperature,
    Clock,
    Days,
    Evaporation,
    Hardness,
    Height,
    Nitrification,
    Price,
    Rain,
    Size,
    Temperature,
    Words,
)

__all__ = ["Site"]

if TYPE_CHECKING:
    AnyHumidity: TypeAlias = str
    AnyWind: TypeAlias = str
    AnySun: TypeAlias = str
    AnyShelter: TypeAlias = str
else:
    AnyHumidity, AnyWind = Literal[tuple(HUMIDITY)], Literal[tuple(WIND)]
    AnySun, AnyShelter = Literal[tuple(SUN)], Literal[tuple(SHELTERS)]


class Site(Part):
    """Where the layout stands."""

    typed: AllTyped | None = None
    water_temperature: Temperature = Field(default=20.0, title="Water temperature")
    air_temperature: AirTemperature = Field(
        default=20.0, title="Coldest air", description="That the water is to be kept warm in."
    )
    altitude: Annotated[Height, Field(le=5000.0)] = Field(
        default=0.0, title="Height over the sea", description="Thin air holds less oxygen."
    )
    alkalinity: Hardness = Field(
        default=100.0, title="Alkalinity of the water", description="As CaCO3; 1 °dH is 17.85 mg/L."
    )
    tap_alkalinity: Hardness = Field(default=100.0, title="Alkalinity of fresh water")
    tap_nitrate: Hardness = Field(
        default=0.0, title="Nitrate nitrogen of fresh water", description="As N."
    )
    tap_salt: Hardness = Field(
        default=0.0,
        title="Salt of fresh water",
        description="All that is dissolved: 200 to 500 mg/L in most mains, 0 not to count it.",
    )
    hot_air: AirTemperature | None = Field(
        default=None, title="Hottest air", description="Of a summer afternoon; none if not known."
    )
    humidity: AnyHumidity = Field(default="middle", title="Air is")
    wind: AnyWind = Field(default="breeze", title="Wind over the water")
    sun: AnySun = Field(
        default="middle", title="Sun on a hot day", description="On open ground, as in a full day."
    )
    shelter: AnyShelter = Field(default="sky", title="Over the layout")
    tariff: Price = Field(default=0.30, title="Electricity price", description="For one kWh.")
    night_tariff: Price | None = Field(
        default=None, title="Price at night", description="None if it is the same."
    )
    night_begins: Clock = Field(default=79200.0, title="Night price from")
    night_ends: Clock = Field(default=21600.0, title="Night price until")
    currency: Annotated[Words, Field(min_length=1, max_length=6)] = Field(
        default="€", title="Currency"
    )
    units: Literal["metric", "us"] = Field(default="metric", title="Units")
    evaporation: Evaporation = Field(
        default=0.005,
        title="Evaporation a day",
        description="Off open water: 2 mm (0.08 in) cool and damp, 5 mm (0.2 in) mild, "
        "12 mm (0.5 in) hot and dry.",
    )
    evaporation_from: Literal["told", "climate"] = Field(
        default="told",
        title="Evaporation is",
        description="Told above, or worked out for the hottest air, its damp and wind.",
    )
    days_away: Days = Field(
        default=3, title="Days without topping up", description="The sump must last so long."
    )
    storm_depth: Rain = Field(
        default=0.0, title="Greatest rainfall", description="In one storm; 0 under a roof."
    )
    blocks: Annotated[tuple[Size, ...], Field(max_length=12)] = Field(
        default=(),
        title="Blocks and timber at hand",
        description="Their heights, of which stands are made up.",
    )
    rain_a_week: Rain = Field(
        default=0.0,
        title="Rain in a dry week",
        description="That can be counted on; 0 to count on none.",
    )
    nitrification: Nitrification = Field(
        default=1.0,
        title="Bacteria work at",
        description="100% as usual; other where ammonia tests of a layout that runs tell it.",
    )

    @property
    def is_rained_on(self) -> bool:
        """Whether rain falls on it: none is told under a roof."""
        return self.storm_depth > 0.0 or self.rain_a_week > 0.0

    @property
    def dries(self) -> float:
        """Water that leaves each square metre of open water in a day [m]: as told, or on a hot day
        by the climate where its hottest air is told."""
        if self.evaporation_from == "told" or self.hot_air is None:
            return float(self.evaporation)
        air = self.hot_air - DAY_UNDER_PEAK
        return self.dries_in(air, max(self.water_temperature, air))

    def dries_in(self, air: float, water: float) -> float:
        """Water that leaves each square metre of open water in a day [m]: as told, or by the
        climate in air and with water of a temperature [°C]."""
        if self.evaporation_from == "told" or self.hot_air is None:
            return float(self.evaporation)
        short = saturated_vapour(water) - HUMIDITY[self.humidity] * (saturated_vapour(air))
        return min(open_water_dries(short, self.wind_speed) * 86400.0 / 998.0, 0.05)

    @property
    def wind_speed(self) -> float:
        """Over the water [m/s]; none under glass."""
        return 0.0 if self.shelter == "greenhouse" else WIND[self.wind]
