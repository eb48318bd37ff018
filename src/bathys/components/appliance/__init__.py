"""A heater, a lamp or whatever else is plugged in."""
