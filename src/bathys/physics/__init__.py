"""One published relation a function, SI units, no knowledge of plans.

Angles are in degrees and temperatures in degrees Celsius; all else is in SI base units.
"""

GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²] (3rd CGPM, 1901)."""
