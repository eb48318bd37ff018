"""Figures for people: each with what it is compared with and the formula that made it.

Public: :class:`Figure`, :class:`Formula`, :class:`Input`, :func:`drivers_of`;
:func:`list_headlines` for the head of a page, :func:`list_figures`, :func:`list_details` for what
only tables show, :func:`list_sump_capacity` and :func:`list_dynamic` for what only time brings out.
"""

from bathys.figures.dynamic import list_dynamic
from bathys.figures.figure import Driver, Figure, Formula, Input, SourceKind, drivers_of
from bathys.figures.listing import list_details, list_figures, list_headlines
from bathys.figures.sump_capacity import list_sump_capacity

__all__ = [
    "Driver",
    "Figure",
    "Formula",
    "Input",
    "SourceKind",
    "drivers_of",
    "list_details",
    "list_dynamic",
    "list_figures",
    "list_headlines",
    "list_sump_capacity",
]
