"""Field types of a plan: each says its quantity, so that forms, units and errors agree.

All are SI, but for temperatures in degrees Celsius and angles in degrees.
"""

import unicodedata
from typing import Annotated, Any

from pydantic import AfterValidator, Field

__all__ = [
    "AirTemperature",
    "Angle",
    "BreakShare",
    "Clock",
    "CoefficientDoubt",
    "Coordinate",
    "Count",
    "Cycle",
    "Days",
    "Depth",
    "Dial",
    "Elevation",
    "Evaporation",
    "FilmThickness",
    "Flow",
    "Hardness",
    "Height",
    "Identifier",
    "Interval",
    "Length",
    "Mass",
    "Months",
    "Name",
    "Nitrification",
    "NotchAngle",
    "OpenArea",
    "Opening",
    "Outage",
    "Power",
    "Pressure",
    "Price",
    "Rain",
    "Rate",
    "Ratio",
    "Share",
    "Size",
    "Slope",
    "Speed",
    "StartFroude",
    "StockedAfter",
    "Surface",
    "Temperature",
    "Time",
    "Turn",
    "Volume",
    "Wear",
    "Words",
]


def _number(quantity: str, **bounds: float) -> Any:
    extra: Any = {"json_schema_extra": {"quantity": quantity}, **bounds}
    return Field(allow_inf_nan=False, **extra)


Size = Annotated[float, _number("length", ge=0.01, le=100.0)]
"""A vessel's size [m]."""
Length = Annotated[float, _number("length", ge=0.0, le=1000.0)]
"""A length of pipe along the level [m]."""
Height = Annotated[float, _number("length", ge=0.0, le=100.0)]
"""A height over a vessel's floor [m]."""
Depth = Annotated[float, _number("length", ge=0.001, le=100.0)]
"""A depth of water or media [m]."""
Elevation = Annotated[float, _number("length", ge=-100.0, le=100.0)]
"""A height over the plan's datum [m]."""
Coordinate = Annotated[float, _number("length", ge=-200.0, le=200.0)]
"""A distance on the ground from where the ground plan begins [m]."""
Turn = Annotated[float, _number("angle", ge=0.0, lt=360.0)]
"""How far something is turned, to the left as seen from above [degrees]."""
Flow = Annotated[float, _number("flow", ge=1e-6, le=1.0)]
"""A flow of water [m³/s]."""
OpenArea = Annotated[float, _number("area", ge=1e-6, le=1.0)]
"""An open area [m²]."""
Mass = Annotated[float, _number("mass", ge=0.0, le=1e6)]
"""A mass [kg]."""
Power = Annotated[float, _number("power", ge=0.1, le=1e5)]
"""An electrical power [W]."""
Price = Annotated[float, _number("price", ge=0.0, le=1000.0)]
"""Price of a kilowatt-hour [money/kWh]."""
Money = Annotated[float, _number("price", gt=0.0, le=1e7)]
"""An amount of money [money]."""
Temperature = Annotated[float, _number("temperature", ge=1.0, le=40.0)]
"""A water temperature [°C]."""
AirTemperature = Annotated[float, _number("temperature", ge=-40.0, le=50.0)]
"""A temperature of the air [°C]."""
Angle = Annotated[float, _number("angle", ge=0.0, le=90.0)]
"""A valve handle's angle from open [°]."""
FilmThickness = Annotated[float, _number("length", ge=0.0, le=0.01)]
"""A film on a wall [m]."""
StartFroude = Annotated[float, _number("ratio", ge=0.05, le=1.5)]
"""Of the spill that starts a siphon [-]."""
BreakShare = Annotated[float, _number("ratio", ge=0.1, le=1.0)]
"""Of a siphon's full flow, that still lets it stop [-]."""
CoefficientDoubt = Annotated[float, _number("ratio", gt=0.0, le=0.5)]
"""One spread of a fitted coefficient [-]."""
Dial = Annotated[float, _number("percent", ge=0.2, le=1.0)]
"""A share of full speed [-]."""
Wear = Annotated[float, _number("percent", ge=0.3, le=1.2)]
"""What a pump gives of its curve [-]; over 1 where it was measured to give more."""
Nitrification = Annotated[float, _number("percent", ge=0.05, le=10.0)]
"""What bacteria do, of what is usual [-]."""
Opening = Annotated[float, _number("percent", ge=0.0, le=1.0)]
"""A share open [-]."""
Slope = Annotated[float, _number("percent", ge=0.0, le=1.0)]
"""Fall over length [-]."""
Time = Annotated[float, _number("clock", ge=1.0, le=86400.0)]
"""A time [s]."""
Clock = Annotated[float, _number("daytime", ge=0.0, le=86400.0)]
"""A time of the day, from midnight [s]."""
Interval = Annotated[float, _number("interval", ge=3600.0, le=2_592_000.0)]
"""A time between two things that are done again and again [s]."""
Volume = Annotated[float, _number("volume", ge=0.0, le=1000.0)]
"""An amount of water [m³]."""
Evaporation = Annotated[float, _number("length", ge=0.0, le=0.05)]
"""Water that leaves each square metre in a day [m]."""
Rain = Annotated[float, _number("length", ge=0.0, le=1.0)]
"""Depth of a storm [m]."""
Days = Annotated[int, Field(ge=0, le=60, json_schema_extra={"quantity": "count"})]
"""A number of days."""
StockedAfter = Annotated[float, _number("interval", ge=0.0, le=31_536_000.0)]
"""Time until fish come [s]."""
Outage = Annotated[float, _number("hours", ge=0.0, le=604_800.0)]
"""How long the power stays away [s]."""
Surface = Annotated[float, _number("surface", ge=0.0, le=10_000.0)]
"""An area that rain falls on [m²]."""
Pressure = Annotated[float, _number("pressure", ge=500.0, le=2e6)]
"""A supply's pressure [Pa]."""
Cycle = Annotated[float, _number("interval", ge=3600.0, le=7_776_000.0)]
"""A time between two things done by hand [s]."""
Hardness = Annotated[float, _number("dissolved", ge=0.0, le=2000.0)]
"""A concentration [g/m³], which is mg/L."""
Rate = Annotated[float, _number("per_hour", ge=1e-6, le=1.0)]
"""How often water is exchanged [1/s]."""
Speed = Annotated[float, _number("speed", ge=0.0, le=20.0)]
"""A velocity of water [m/s]."""
NotchAngle = Annotated[float, _number("angle", ge=20.0, le=120.0)]
"""Opening angle of a notch [°]."""
Months = Annotated[int, Field(ge=0, le=12, json_schema_extra={"quantity": "count"})]
"""A number of months."""
Share = Annotated[float, _number("ratio", ge=0.05, lt=1.0)]
"""A share between none and all [-]."""
Ratio = Annotated[float, _number("ratio", ge=0.0, le=1000.0)]
"""A dimensionless number [-]."""
Count = Annotated[int, Field(ge=1, le=1000, json_schema_extra={"quantity": "count"})]
"""A number of pieces."""
Identifier = Annotated[str, Field(pattern=r"^[A-Z][A-Za-z0-9]{0,11}$")]
"""A short id that the drawing, the lists and the labels share, such as B1."""


def _plain(text: str) -> str:
    """Refuse what cannot be written down: control characters and halves of a letter."""
    for letter in text:
        if unicodedata.category(letter) in ("Cc", "Cs") and letter not in "\n\r\t":
            raise ValueError("it holds a letter that cannot be kept; type it again")
    return text


Words = Annotated[str, AfterValidator(_plain)]
"""Text for people."""
Name = Annotated[Words, Field(min_length=1, max_length=80)]
"""A name for people."""
