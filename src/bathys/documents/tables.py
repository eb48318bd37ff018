"""A table of a document: the same cells for page, paper, spreadsheet and CSV."""

from dataclasses import dataclass

from bathys.drawing.stations import labels_of
from bathys.evaluation import Evaluation
from bathys.units import System, show, show_tape

__all__ = ["Amount", "Cell", "Table", "cell_text", "length_cell", "named_in"]


@dataclass(frozen=True, slots=True)
class Amount:
    """A figure in SI, shown in the reader's units.

    Attributes
    ----------
    value : float
        The figure, in the SI unit of its quantity, [SI]
    quantity : str
        Its quantity, as ``units`` names it; ``money`` for an amount of money
    """

    value: float
    quantity: str


Cell = str | int | Amount | None
"""Words, a count, a figure, or nothing."""


@dataclass(frozen=True, slots=True)
class Table:
    """A table of a document.

    Attributes
    ----------
    key : str
        Its name in files
    title : str
        Its title
    heads : tuple of str
        Of its columns
    rows : tuple of tuple of Cell
        Its rows
    note : str
        What is to be minded with it; empty if nothing
    total : int or None
        Column that is added up; none if none is
    """

    key: str
    title: str
    heads: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]
    note: str = ""
    total: int | None = None


def cell_text(cell: Cell, units: System) -> str:
    """A cell in words.

    Parameters
    ----------
    cell : Cell
        The cell
    units : System
        The reader's units

    Returns
    -------
    str
        In the reader's units; a dash for nothing
    """
    if cell is None:
        return "–"
    if isinstance(cell, Amount):
        if cell.quantity == "money":
            return f"{cell.value:.2f}"
        if cell.quantity == "length":
            return show_tape(cell.value, units)
        return show(cell.value, cell.quantity, units)
    return str(cell)


def named_in(found: Evaluation, id_: str) -> str:
    """A part by its label and its name.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    id_ : str
        Its id

    Returns
    -------
    str
        Such as ``B1 Grow bed``
    """
    return f"{labels_of(found.plan)[id_]} {found.plan.part(id_).name}"


def length_cell(value: float | None) -> Cell:
    """A length, or nothing.

    Parameters
    ----------
    value : float or None
        The length, [m]

    Returns
    -------
    Cell
        The cell
    """
    return None if value is None else Amount(value, "length")
