"""From a brief to sized plans. Public: :func:`design`, :func:`design_for`, :func:`brief_from_data`,
:data:`LAYOUTS`, :class:`DesignRefused`."""

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
from bathys.design.reasons import Reason, reasons_of
from bathys.design.refusing import DesignRefused
from bathys.design.resizing import ALL, Resized, resized
from bathys.design.search import Answer, changed, design, design_for

__all__ = [
    "AIMS",
    "ALL",
    "LAYOUTS",
    "Aim",
    "Answer",
    "BadBrief",
    "DesignBrief",
    "DesignRefused",
    "Layout",
    "LayoutTried",
    "Reason",
    "Resized",
    "VesselWish",
    "brief_from_data",
    "changed",
    "compare_layouts",
    "design",
    "design_for",
    "reasons_of",
    "resized",
    "shell_of",
]
