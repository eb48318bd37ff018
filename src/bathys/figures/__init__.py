"""Figures for people: each with what it is compared with and the formula that made it.

Public: :class:`Figure`, :class:`Formula`, :class:`Input`, :func:`drivers_of`;
:func:`list_headlines` for the head of a page, :func:`list_figures`, :func:`list_details` for what
only tables show, :func:`list_claims` and :func:`list_followed` for what only time brings out.
"""

from bathys.figures.claims import list_claims
from bathys.figures.figure import Driver, Figure, Formula, Input, SourceKind, drivers_of
from bathys.figures.followed import list_followed
from bathys.figures.listing import list_details, list_figures, list_headlines

__all__ = [
    "Driver", "Figure", "Formula", "Input", "SourceKind", "drivers_of", "list_claims",
    "list_details", "list_figures", "list_followed", "list_headlines",
]  # fmt: skip
