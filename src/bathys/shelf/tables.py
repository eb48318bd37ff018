"""Tables of builders' own as CSV files, as spreadsheets of any country write them."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["MOST_BYTES", "BadCell", "RowError", "decoded", "plain_cell", "rows_of"]

MOST_BYTES = 1_000_000
"""Of a file that is read."""


@dataclass(frozen=True, slots=True)
class RowError:
    """What is wrong with one row.

    Attributes
    ----------
    row : int
        Its number, as a spreadsheet counts; 0 for the whole file
    sentence : str
        What is wrong
    """

    row: int
    sentence: str


class BadCell(ValueError):
    """A cell that cannot be read; its message is a sentence."""


def rows_of(
    data: bytes, columns: Sequence[str], needed: Sequence[str]
) -> list[tuple[int, dict[str, str]]]:
    """Every row of a file that is not empty, with its number, by the names of columns.

    Parameters
    ----------
    data : bytes
        A CSV file: UTF-8, with or without a byte-order mark, or UTF-16; parted by commas,
        semicolons or tabs; its first row names the columns, in any order
    columns, needed : sequence of str
        Columns that are known, and those that must be there

    Returns
    -------
    list of (int, dict of str to str)
        Numbers as a spreadsheet counts

    Raises
    ------
    BadCell
        If it is no such file
    """
    text = decoded(data, MOST_BYTES)
    first = text.partition("\n")[0]
    delimiter = max(";\t,", key=first.count)
    try:
        lines = list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=False))
    except csv.Error:
        raise BadCell("It cannot be read as CSV.") from None
    heads = [h.strip().lower() for h in lines[0]] if lines else []
    missing = [name for name in needed if name not in heads]
    if missing:
        raise BadCell(
            f"Its first row must name the columns {', '.join(columns)}; “{missing[0]}” is missing."
        )
    return [
        (number, dict(zip(heads, (c.strip() for c in line), strict=False)))
        for number, line in enumerate(lines[1:], start=2)
        if any(c.strip() for c in line)
    ]


def decoded(data: bytes, most: int) -> str:
    """The text of a file.

    Parameters
    ----------
    data : bytes
        UTF-8, with or without a byte-order mark, or UTF-16
    most : int
        Bytes it may have at most

    Returns
    -------
    str
        Its text

    Raises
    ------
    BadCell
        If it is larger, or no such text
    """
    if len(data) > most:
        raise BadCell(f"The file is larger than {most // 1_000_000} MB.")
    encoding = "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    try:
        return data.decode(encoding)
    except UnicodeDecodeError:
        raise BadCell("Its letters cannot be read: store it as CSV UTF-8.") from None


def plain_cell(cell: str) -> str:
    """A cell without the mark that keeps spreadsheets from reading it as a formula.

    Parameters
    ----------
    cell : str
        The cell

    Returns
    -------
    str
        What it holds

    Raises
    ------
    BadCell
        If it is a formula
    """
    if cell.startswith("="):
        raise BadCell(f"“{cell[:40]}” is a formula; store the file with values only.")
    return cell.removeprefix("'")
