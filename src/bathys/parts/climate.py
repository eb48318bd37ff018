"""Classes of climate that people tell without an instrument."""

__all__ = ["DAY_UNDER_PEAK", "HUMIDITY", "SHELTERS", "SUN", "WIND"]

HUMIDITY = {"dry": 0.30, "middle": 0.55, "damp": 0.80}
"""Share of saturated vapour in the air at midday (assumed) [-]."""

WIND = {"still": 0.0, "breeze": 1.5, "windy": 4.0}
"""Just over the water (assumed) [m/s]."""

SUN = {"indoors": 0.5, "weak": 2.5, "middle": 4.5, "strong": 7.0}
"""Energy that falls on level ground on a day of the hot season, by what stands over it and where
(memory) [kWh/m²]."""

SHELTERS = {"sky": 1.0, "netting": 0.5, "greenhouse": 0.7, "roof": 0.05}
"""Share of the sun that gets through what stands over the layout (memory) [-]."""

DAY_UNDER_PEAK = 5.0
"""By how much the mean of a hot day lies under its hottest air (assumed) [K]."""
