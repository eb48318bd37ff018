"""Tables as CSV, and all of them as a workbook with sums that work themselves out."""

import csv
import io
from collections.abc import Sequence

from openpyxl import Workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from bathys.cells import harmless
from bathys.documents.problems import StandingProblem
from bathys.documents.tables import Amount, Cell, Table, cell_text
from bathys.units import System, in_unit, unit_of

__all__ = ["table_csv", "workbook"]

_WIDEST = 48


def _head(table: Table, column: int, units: System) -> str:
    """A column's head with its unit, where all its figures have one."""
    quantities = _quantities(table, column)
    head = table.heads[column]
    if len(quantities) != 1 or (quantity := quantities.pop()) == "money":
        return head
    unit = unit_of(quantity, units)
    return f"{head} [{unit}]" if unit else head


def _one_quantity(table: Table, column: int) -> bool:
    return len(_quantities(table, column)) == 1


def _quantities(table: Table, column: int) -> set[str]:
    cells = (row[column] for row in table.rows)
    return {cell.quantity for cell in cells if isinstance(cell, Amount)}


def _value(cell: Cell, alone: bool, units: System) -> str | int | float:
    """A figure as a number where its column has one quantity, else in words."""
    if cell is None:
        return ""
    if isinstance(cell, Amount):
        if cell.quantity == "money":
            return round(cell.value, 2)
        if alone:
            return float(f"{in_unit(cell.value, cell.quantity, units):.6g}")
        return cell_text(cell, units)
    return cell if isinstance(cell, int) else harmless(cell)


def table_csv(table: Table, units: System) -> str:
    """A table as CSV.

    Parameters
    ----------
    table : Table
        The table
    units : System
        The reader's units

    Returns
    -------
    str
        Parted by commas; units stand in the heads. No cell begins as a formula does
    """
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    columns = range(len(table.heads))
    alone = [_one_quantity(table, c) for c in columns]
    rows.writerow([_head(table, c, units) for c in columns])
    for row in table.rows:
        rows.writerow([_value(cell, alone[c], units) for c, cell in enumerate(row)])
    return text.getvalue()


def workbook(
    tables: tuple[Table, ...],
    heading: str,
    units: System,
    problems: Sequence[StandingProblem] = (),
) -> bytes:
    """All tables as a workbook, one a sheet.

    Parameters
    ----------
    tables : tuple of Table
        The tables
    heading : str
        Plan, revision, engine and date, on each sheet
    units : System
        The reader's units
    problems : sequence of StandingProblem
        Those that are acknowledged, on each sheet

    Returns
    -------
    bytes
        An XLSX file. Totals are formulas
    """
    book = Workbook()
    book.remove(book.worksheets[0])
    bold = Font(bold=True)
    told = "; ".join(f"{p.name} {p.sentence}" for p in problems)
    despite = f"Built although these problems stand: {told}"
    for table in tables:
        sheet = book.create_sheet(table.title.partition(":")[0][:31])
        sheet.append([harmless(table.title)])
        sheet.append([harmless(heading)])
        sheet.append([harmless(despite)] if problems else [])
        columns = range(len(table.heads))
        alone = [_one_quantity(table, c) for c in columns]
        sheet.append([_head(table, c, units) for c in columns])
        first = sheet.max_row + 1
        for row in table.rows:
            sheet.append([_value(cell, alone[c], units) for c, cell in enumerate(row)])
        last = sheet.max_row
        if table.total is not None:
            letter = get_column_letter(table.total + 1)
            sheet.cell(last + 1, 1, "Total")
            sheet.cell(last + 1, table.total + 1, f"=SUM({letter}{first}:{letter}{last})")
            sheet.cell(last + 1, 1).font = bold
        if table.note:
            sheet.cell(sheet.max_row + 2, 1, harmless(table.note))
        for place in ((1, 1), *((4, c + 1) for c in columns)):
            sheet.cell(*place).font = bold
        for c in columns:
            longest = max(
                [len(str(sheet.cell(r, c + 1).value or "")) for r in range(4, last + 1)], default=8
            )
            sheet.column_dimensions[get_column_letter(c + 1)].width = min(longest + 2, _WIDEST)
        sheet.freeze_panes = sheet.cell(5, 1)
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()
