"""Readings out of a CSV file, as boards and spreadsheets of any country write them."""

import csv
import io
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from bathys.shelf import BadCell, decoded

__all__ = ["MOST_FILE_BYTES", "CsvReading", "CsvShape", "read_csv", "shape_of", "text_of"]

MOST_FILE_BYTES = 2_000_000
"""Of a file of readings."""

_SAMPLE = 40  # rows by which a file is judged
_SHOWN = 8
_MOST_COLUMNS = 60
_MOST_TEXT = 60
_NUMBER = re.compile(r"[+-]?\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?")
_DAY = re.compile(
    r"(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?)?"
    r"\s*(am|pm)?\s*(z|[+-]\d{2}:?\d{2})?",
    re.IGNORECASE,
)
_FIRST_UNIX, _LAST_UNIX = 9.0e8, 9.0e9  # seconds since 1970 from 1998 on; more are milliseconds


@dataclass(frozen=True, slots=True)
class CsvShape:
    """How a file is written, as far as its first rows tell.

    Attributes
    ----------
    delimiter : str
        What parts its columns
    is_comma : bool
        Whether its decimals have a comma
    is_day_first : bool
        Whether a day stands before its month
    is_order_sure : bool
        Whether a row tells that for certain
    heads : tuple of str
        Names of its columns
    times : int
        Which column tells the time; -1 if none seems to
    rows : tuple of tuple of str
        Its first rows
    count : int
        How many rows it has
    """

    delimiter: str
    is_comma: bool
    is_day_first: bool
    is_order_sure: bool
    heads: tuple[str, ...]
    times: int
    rows: tuple[tuple[str, ...], ...]
    count: int


@dataclass(frozen=True, slots=True)
class CsvReading:
    """A reading of a file, or why it is none.

    Attributes
    ----------
    row : int
        Its row, as a spreadsheet counts
    column : int
        Its column, from 0 on; -1 for the whole row
    at : datetime or None
        When, in UTC
    value : float
        What was read, in the unit of the file
    why : str
        Why it is not taken; empty if it is
    """

    row: int
    column: int
    at: datetime | None = None
    value: float = 0.0
    why: str = ""


def text_of(data: bytes) -> str:
    """The text of a file of readings.

    Parameters
    ----------
    data : bytes
        The file

    Returns
    -------
    str
        Its text

    Raises
    ------
    BadCell
        If it is too large, or no text
    """
    return decoded(data, MOST_FILE_BYTES).replace("\0", "")


def _lines(text: str, delimiter: str) -> list[list[str]]:
    try:
        return list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=False))
    except csv.Error:
        raise BadCell("It cannot be read as CSV.") from None


def shape_of(text: str, is_day_first: bool | None = None) -> CsvShape:
    """How a file is written.

    Parameters
    ----------
    text : str
        The file; its first row names the columns
    is_day_first : bool, optional
        Whether a day stands before its month, where somebody says so

    Returns
    -------
    CsvShape
        As far as its first rows tell

    Raises
    ------
    BadCell
        If it has no rows, or too many columns
    """
    first = text.partition("\n")[0]
    delimiter = max(";\t,", key=first.count)
    lines = [line for line in _lines(text, delimiter) if any(cell.strip() for cell in line)]
    if len(lines) < 2:
        raise BadCell("It needs a first row with names of columns, and rows of readings under it.")
    heads = tuple(head.strip()[:_MOST_TEXT] for head in lines[0])
    if len(heads) > _MOST_COLUMNS:
        raise BadCell(f"It has more than {_MOST_COLUMNS} columns.")
    rows = tuple(tuple(c.strip()[:_MOST_TEXT] for c in line) for line in lines[1 : 1 + _SAMPLE])
    cells = [cell for row in rows for cell in row if _NUMBER.fullmatch(cell)]
    is_comma = sum("," in c for c in cells) > sum("." in c for c in cells)
    times = next((n for n in range(len(heads)) if _tells_time(rows, n)), -1)
    days = [m for row in rows if times >= 0 and (m := _DAY.match(_cell(row, times)))]
    pairs = [(int(m[1]), int(m[2])) for m in days if len(m[1]) < 4]
    # What is no day in either order, such as 99.99., speaks for neither.
    day_first = any(12 < one <= 31 and 1 <= two <= 12 for one, two in pairs)
    month_first = any(1 <= one <= 12 and 12 < two <= 31 for one, two in pairs)
    is_sure = day_first != month_first or not pairs
    return CsvShape(
        delimiter,
        is_comma,
        day_first or not month_first if is_day_first is None else is_day_first,
        is_sure,
        heads,
        times,
        rows[:_SHOWN],
        len(lines) - 1,
    )


def _cell(row: Sequence[str], column: int) -> str:
    return row[column].strip() if column < len(row) else ""


def _tells_time(rows: Sequence[Sequence[str]], column: int) -> bool:
    told = [_cell(row, column) for row in rows]
    good = sum(1 for cell in told if _DAY.match(cell) or _is_unix(cell))
    return good >= 0.8 * len(told)


def _is_unix(cell: str) -> bool:
    return cell.replace(".", "", 1).isdigit() and float(cell) >= _FIRST_UNIX


def read_csv(
    text: str,
    shape: CsvShape,
    times: int,
    columns: Sequence[int],
    zone: str,
) -> Iterator[CsvReading]:
    """Every reading of a file.

    Parameters
    ----------
    text : str
        The file
    shape : CsvShape
        How it is written
    times : int
        Which column tells the time
    columns : sequence of int
        Which columns are taken
    zone : str
        Time zone of times that name none, such as ``Europe/Athens``

    Yields
    ------
    CsvReading
        Of each row and column, in their order; empty cells are passed over

    Raises
    ------
    BadCell
        If there is no such zone
    """
    try:
        local = ZoneInfo(zone.strip())
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise BadCell(f"“{zone[:40]}” is no time zone; try Europe/Athens or UTC.") from None
    last: datetime | None = None
    for number, line in enumerate(_lines(text, shape.delimiter)[1:], start=2):
        if not any(cell.strip() for cell in line):
            continue
        try:
            at = _moment(_cell(line, times), shape.is_day_first, local, last)
        except ValueError as why:
            yield CsvReading(number, -1, why=str(why))
            continue
        last = at
        for column in columns:
            cell = _cell(line, column)
            if not cell:
                continue
            try:
                yield CsvReading(number, column, at, _number(cell, shape.is_comma))
            except ValueError as why:
                yield CsvReading(number, column, why=str(why))


def _number(cell: str, is_comma: bool) -> float:
    if cell.startswith(("=", "@")):
        raise ValueError(f"“{cell[:20]}” is a formula; store the file with values only.")
    if not _NUMBER.fullmatch(cell):
        raise ValueError(f"“{cell[:20]}” is no number.")
    return float(cell.replace(",", ".") if is_comma else cell.replace(",", ""))


def _moment(cell: str, is_day_first: bool, local: ZoneInfo, last: datetime | None) -> datetime:
    """When a row was read, in UTC.

    Where clocks are put back, an hour comes twice: rows that go back in time are of its second.
    """
    if _is_unix(cell):
        seconds = float(cell)
        return datetime.fromtimestamp(seconds if seconds < _LAST_UNIX else seconds / 1e3, UTC)
    found = _DAY.fullmatch(cell)
    if found is None:
        raise ValueError(f"“{cell[:30]}” is no time such as 2030-05-17 08:30.")
    one, two, three = (int(found[n]) for n in (1, 2, 3))
    if len(found[1]) == 4:
        year, month, day = one, two, three
    else:
        day, month, year = (one, two, three) if is_day_first else (two, one, three)
        year += 2000 if year < 100 else 0
    hour, minute, second = (int(found[n] or 0) for n in (4, 5, 6))
    half = (found[7] or "").lower()
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    try:
        naive = datetime(year, month, day, hour, minute, second)  # noqa: DTZ001 - its zone follows
    except ValueError:
        raise ValueError(f"“{cell[:30]}” is no day or time that exists.") from None
    if found[8]:
        return _with_offset(naive, found[8])
    at = naive.replace(tzinfo=local).astimezone(UTC)
    if at.astimezone(local).replace(tzinfo=None) != naive:
        raise ValueError(f"“{cell[:30]}” does not exist: clocks are put forward then.")
    if last is not None and at < last:
        again = naive.replace(tzinfo=local, fold=1).astimezone(UTC)
        if again > at and again >= last:
            return again
    return at


def _with_offset(naive: datetime, offset: str) -> datetime:
    if offset.lower() == "z":
        return naive.replace(tzinfo=UTC)
    digits = offset[1:].replace(":", "")
    ahead = timedelta(hours=int(digits[:2]), minutes=int(digits[2:]))
    return naive.replace(tzinfo=UTC) - (ahead if offset[0] == "+" else -ahead)
