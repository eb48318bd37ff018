"""What the trade holds to, each once, for rule, sizing, figure and page (common practice)."""

__all__ = [
    "LEAST_COVER",
    "LEAST_TURNOVER",
    "PUMP_RESERVE",
    "SCHOOLS",
    "START_MARGIN",
    "STOP_MARGIN",
    "TANK_KEEPS",
    "TURNOVER_AIMS",
]

_HOUR = 3600.0  # [s]

LEAST_COVER = 0.05
"""Water to keep over a pump's inlet [m]."""

LEAST_TURNOVER = 1.0 / _HOUR
"""Turnover below which fish or water are at risk [1/s]."""

SCHOOLS = {
    "tank": "tank, once an hour",
    "frugal": "bed, twice an hour",
    "whole_system": "whole system",
    "headroom": "pump with headroom",
}
"""Schools of how much water is to move, with their names."""

TURNOVER_AIMS: dict[str, float] = {
    "tank": 1.5 / _HOUR,
    "frugal": 2.0 / _HOUR,
    "whole_system": 2.0 / _HOUR,
}
"""Turnover that each school aims at [1/s]."""

PUMP_RESERVE = 0.20
"""Flow to spare when a pump is chosen, over what is asked of it [-]."""

START_MARGIN, STOP_MARGIN = 1.25, 0.75
"""Inflow of a siphon over the least that starts it, and over the most at which it breaks [-]."""

TANK_KEEPS = 0.5
"""Share of its water that a fish tank is to keep, whatever fails [-]."""
