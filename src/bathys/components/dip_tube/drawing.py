"""How a dip tube is drawn: as a solids lift by the wall is."""

from bathys.components.lift.drawing import LEAVES, draw, pipe, place

__all__ = ["LEAVES", "draw", "pipe", "place"]
