"""What a builder needs at the saw and the drill: levels, holes, pipe cut from stock, and marks.

Public: :func:`bases_of`, :func:`holes_of`, :func:`marks_of`, :func:`pipe_pieces`,
:func:`fitting_counts`, :func:`cut_list`, :func:`readings_of`.
"""

from bathys.build.bases import Base, bases_of
from bathys.build.commissioning import BUCKET, Reading, readings_of
from bathys.build.cutting import KERF, STOCK, BadStock, Packing, Piece, Stock, cut_list
from bathys.build.holes import Hole, holes_of
from bathys.build.marks import Marks, marks_of
from bathys.build.pipes import FittingCount, PipeNeed, fitting_counts, pipe_pieces

__all__ = [
    "BUCKET",
    "KERF",
    "STOCK",
    "BadStock",
    "Base",
    "FittingCount",
    "Hole",
    "Marks",
    "Packing",
    "Piece",
    "PipeNeed",
    "Reading",
    "Stock",
    "bases_of",
    "cut_list",
    "fitting_counts",
    "holes_of",
    "marks_of",
    "pipe_pieces",
    "readings_of",
]
