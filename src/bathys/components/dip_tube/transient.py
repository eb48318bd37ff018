"""What a dip tube is through time: a siphon nobody meant, unless air gets in."""

from bathys.components.lift.transient import latch

__all__ = ["latch"]
