"""What a dip tube is to the steady network: as a solids lift is."""

from bathys.components.lift.steady import lines

__all__ = ["lines"]
