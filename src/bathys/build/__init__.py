"""What a builder needs at the saw and the drill: levels, holes, pipe cut from stock, and marks.

Public: :func:`bases_of`, :func:`holes_of`, :func:`marks_of`, :func:`pipe_pieces`,
:func:`fitting_counts`, :func:`cut_list`, :func:`readings_of`, :func:`shopping_list`.
"""

from bathys.build.alternatives import Alternative, alternatives_of
from bathys.build.bases import Base, bases_of
from bathys.build.cables import cables_of
from bathys.build.choosing import (
    HoleChoice,
    HoleRefused,
    check_choice,
    choose_holes,
    offered_fittings,
    own_fittings,
)
from bathys.build.commissioning import BUCKET, Reading, readings_of
from bathys.build.covers import Cover, covers_of
from bathys.build.cutting import KERF, STOCK, BadStock, Packing, Piece, Stock, cut_list
from bathys.build.drilling import Drilled, drilled_of
from bathys.build.holes import (
    FLOOR,
    Crowded,
    CutEdge,
    Hole,
    crowded_holes,
    cut_edges,
    holes_of,
    usual_fitting,
)
from bathys.build.making import (
    SITE,
    LinedBoxParts,
    RaftBoards,
    ToteCut,
    lined_boxes,
    raft_boards,
    tote_cuts,
)
from bathys.build.marks import Marks, marks_of
from bathys.build.pipes import FittingCount, PipeNeed, fitting_counts, pipe_pieces
from bathys.build.shopping import VESSEL, ShoppingLine, ShoppingList, made_of, shopping_list
from bathys.build.stands import PACKING, Stand, stack_of, stands_of
from bathys.build.walls import Wall, walls_of

__all__ = [
    "BUCKET",
    "FLOOR",
    "KERF",
    "PACKING",
    "SITE",
    "STOCK",
    "VESSEL",
    "Alternative",
    "BadStock",
    "Base",
    "Cover",
    "Crowded",
    "CutEdge",
    "Drilled",
    "FittingCount",
    "Hole",
    "HoleChoice",
    "HoleRefused",
    "LinedBoxParts",
    "Marks",
    "Packing",
    "Piece",
    "PipeNeed",
    "RaftBoards",
    "Reading",
    "ShoppingLine",
    "ShoppingList",
    "Stand",
    "Stock",
    "ToteCut",
    "Wall",
    "alternatives_of",
    "bases_of",
    "cables_of",
    "check_choice",
    "choose_holes",
    "covers_of",
    "crowded_holes",
    "cut_edges",
    "cut_list",
    "drilled_of",
    "fitting_counts",
    "holes_of",
    "lined_boxes",
    "made_of",
    "marks_of",
    "offered_fittings",
    "own_fittings",
    "pipe_pieces",
    "raft_boards",
    "readings_of",
    "shopping_list",
    "stack_of",
    "stands_of",
    "tote_cuts",
    "usual_fitting",
    "walls_of",
]
