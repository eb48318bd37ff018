"""From a brief to sized plans. Public: :func:`design`, :func:`design_for`, :func:`brief_from_data`,
:data:`LAYOUTS`, :class:`DesignRefused`."""

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import (
    AIMS,
    Aim,
    BadBrief,
    DesignBrief,
    VesselWish,
    brief_from_data,
    shell_of,
)
from bathys.design.comparing import LayoutTried, compare_layouts
from bathys.design.layouts import LAYOUTS, Layout
from bathys.design.places import PLACES
from bathys.design.reasons import Reason, reasons_of
from bathys.design.refusing import DesignRefused
from bathys.design.resizing import ALL, Resized, resized
from bathys.design.search import changed, design
from bathys.design.tradeoffs import Tradeoff, tradeoffs
from bathys.design.trying import design_for, try_choice

__all__ = [
    "AIMS",
    "ALL",
    "LAYOUTS",
    "PLACES",
    "Aim",
    "Answer",
    "AtHand",
    "BadBrief",
    "DesignBrief",
    "DesignRefused",
    "Layout",
    "LayoutTried",
    "Progress",
    "Reason",
    "Resized",
    "Tradeoff",
    "VesselWish",
    "brief_from_data",
    "changed",
    "compare_layouts",
    "design",
    "design_for",
    "reasons_of",
    "resized",
    "shell_of",
    "tradeoffs",
    "try_choice",
]
