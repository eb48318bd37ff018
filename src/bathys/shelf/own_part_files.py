"""A builder's own parts as a CSV file: a row a part, its figures as words with their units."""

import csv
import io
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bathys.cells import harmless
from bathys.shelf.own_parts import OWN_PART_KINDS, ShelfPart
from bathys.shelf.tables import BadCell, RowError, plain_cell, rows_of
from bathys.units import entry, unit_of

__all__ = ["OwnPartRow", "exactly", "read_own_parts", "typed_of", "write_own_parts"]

_FIELDS: dict[str, tuple[str, ...]] = {
    "pump": ("max_flow", "max_head", "power", "points"),
    "container": ("across", "width", "tall"),
    **{key: tuple(f.name for f in kind.fields) for key, kind in OWN_PART_KINDS.items()},
}
_COLUMNS = ("kind", "name", *dict.fromkeys(f for fields in _FIELDS.values() for f in fields))
_NEEDED = ("kind", "name")
_MOST_ROWS = 500


@dataclass(frozen=True, slots=True)
class OwnPartRow:
    """A row of such a file.

    Attributes
    ----------
    number : int
        As a spreadsheet counts; 0 for a part that is in no file yet
    kind : str
        ``pump``, ``container`` or one of ``OWN_PART_KINDS``
    typed : mapping of str to str
        Its name and figures as words, by field
    """

    number: int
    kind: str
    typed: Mapping[str, str]


def exactly(value: float, quantity: str) -> str:
    """A figure as it would be typed, none of it rounded away.

    Parameters
    ----------
    value : float
        The figure, in SI: [m], [m³/s], [Pa], [W] or [-]
    quantity : str
        What it measures

    Returns
    -------
    str
        With its metric unit
    """
    return f"{entry(value, quantity, 'metric')} {unit_of(quantity, 'metric')}".rstrip()


def typed_of(part: ShelfPart) -> OwnPartRow:
    """A part as it would be typed.

    Parameters
    ----------
    part : ShelfPart
        The part

    Returns
    -------
    OwnPartRow
        Its words
    """
    words = {
        f.name: exactly(part.number(f.name), f.quantity) if f.quantity else part.word(f.name)
        for f in OWN_PART_KINDS[part.kind].fields
    }
    return OwnPartRow(0, part.kind, {"name": part.name, **words})


def write_own_parts(rows: Iterable[OwnPartRow]) -> str:
    """Parts as CSV, which :func:`read_own_parts` reads.

    Parameters
    ----------
    rows : iterable of OwnPartRow
        The parts

    Returns
    -------
    str
        The file
    """
    file = io.StringIO()
    table = csv.DictWriter(file, _COLUMNS, restval="")
    table.writeheader()
    for row in rows:
        table.writerow({"kind": row.kind, **{k: harmless(v) for k, v in row.typed.items()}})
    return file.getvalue()


def read_own_parts(data: bytes) -> tuple[list[OwnPartRow], list[RowError]]:
    """Read such a file; whether the figures make a part is not looked at here.

    Parameters
    ----------
    data : bytes
        A CSV file as :func:`bathys.shelf.tables.rows_of` takes it

    Returns
    -------
    (list of OwnPartRow, list of RowError)
        Rows that can be read, and a sentence for each that cannot
    """
    try:
        lines = rows_of(data, _COLUMNS, _NEEDED)
    except BadCell as error:
        return [], [RowError(0, str(error))]
    rows, errors = list[OwnPartRow](), list[RowError]()
    for number, cells in lines:
        if number > _MOST_ROWS + 1:
            errors.append(RowError(number, f"There is room for {_MOST_ROWS} rows."))
            break
        kind = cells.get("kind", "").lower().replace(" ", "_")
        if kind not in _FIELDS:
            errors.append(RowError(number, f"“kind” must be one of: {', '.join(_FIELDS)}."))
            continue
        try:
            typed = {f: plain_cell(cells.get(f, "")) for f in ("name", *_FIELDS[kind])}
        except BadCell as error:
            errors.append(RowError(number, str(error)))
            continue
        rows.append(OwnPartRow(number, kind, typed))
    return rows, errors
