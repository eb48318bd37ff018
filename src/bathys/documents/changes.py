"""What has changed on a build sheet since building began."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import zip_longest

from bathys.documents.tables import Table, cell_text
from bathys.units import System

__all__ = ["ChangedRow", "KeptRows", "changed_rows", "kept_rows", "moved_rows"]

KeptRows = dict[str, dict[str, list[str]]]
"""What rows said, by title of their table and by what they are of."""

_CUT_OR_DRILLED = {"bases": 1, "holes": 2, "siphons": 2, "drilled": 3, "cuts": 3}
"""Tables of what is dug, drilled or cut, and how many cells name a row."""


_NONE = "–"  # what a cell shows where there is nothing

_Told = dict[str, str]
"""What a row says under each of its heads."""


@dataclass(frozen=True, slots=True)
class ChangedRow:
    """A row that is another now.

    Attributes
    ----------
    table : str
        Title of its table
    name : str
        What it is of
    was, now : str
        What it said and says, as far as it differs; empty where there was or is none
    """

    table: str
    name: str
    was: str
    now: str


def changed_rows(
    before: Sequence[Table], after: Sequence[Table], units: System
) -> tuple[ChangedRow, ...]:
    """Rows of what is dug, drilled or cut that differ between two sheets.

    Parameters
    ----------
    before, after : sequence of Table
        The tables of the sheet that is built by, and of the plan as it stands
    units : System
        The reader's units

    Returns
    -------
    tuple of ChangedRow
        In the order of the sheet
    """
    return tuple(_changed(before, after, units))


def kept_rows(tables: Sequence[Table], units: System) -> KeptRows:
    """What is dug, drilled or cut, as it is kept from when building begins.

    Parameters
    ----------
    tables : sequence of Table
        The tables of a sheet
    units : System
        The units it is kept in

    Returns
    -------
    dict of dict of list of str
        By title of the table and by what a row is of; JSON data
    """
    return {table.title: _rows(table, units) for table in tables if table.key in _CUT_OR_DRILLED}


def moved_rows(kept: KeptRows, now: KeptRows) -> tuple[ChangedRow, ...]:
    """Rows that say something else than was kept.

    Parameters
    ----------
    kept, now : dict of dict of list of str
        As :func:`kept_rows`, then and now

    Returns
    -------
    tuple of ChangedRow
        Table by table
    """
    return tuple(_moved(kept, now))


def _changed(
    before: Sequence[Table], after: Sequence[Table], units: System
) -> Iterator[ChangedRow]:
    old, new = (
        {t.key: t for t in tables if t.key in _CUT_OR_DRILLED} for tables in (before, after)
    )
    for key in dict.fromkeys((*new, *old)):
        was, now = (_named(tables.get(key), units) for tables in (old, new))
        title = (new.get(key) or old[key]).title
        for name in dict.fromkeys((*was, *now)):
            gone = [row for row in was.get(name, []) if row not in now.get(name, [])]
            come = [row for row in now.get(name, []) if row not in was.get(name, [])]
            for one, other in zip_longest(gone, come, fillvalue=_Told()):
                told = [k for k in (*one, *other) if one.get(k) != other.get(k)]
                yield ChangedRow(title, name, *(_in_words(row, told) for row in (one, other)))


def _in_words(row: _Told, heads: Sequence[str]) -> str:
    """What a row says under some of its heads."""
    told = [head for head in dict.fromkeys(heads) if row.get(head, _NONE) != _NONE]
    return ", ".join(f"{head}: {row[head]}" if head else row[head] for head in told)


def _named(table: Table | None, units: System) -> dict[str, list[_Told]]:
    """What each row of a table says, by what it is of."""
    found = dict[str, list[_Told]]()
    if table is None:
        return found
    for row in table.rows:
        name, told = _parted(table, [cell_text(c, units) for c in row])
        found.setdefault(name, []).append(told)
    return found


def _parted(table: Table, cells: list[str]) -> tuple[str, _Told]:
    """What a row is of, and what it says. A piece of pipe is the same from whichever length it is
    cut."""
    if table.key == "cuts":
        return f"{cells[0]}: {cells[2]}", {"": cells[3]}
    named = _CUT_OR_DRILLED[table.key]
    heads = table.heads[named:]
    return ", ".join(cells[:named]), dict(zip(heads, cells[named:], strict=True))


def _moved(old: KeptRows, new: KeptRows) -> Iterator[ChangedRow]:
    for title in dict.fromkeys((*new, *old)):
        was, now = old.get(title, {}), new.get(title, {})
        for name in dict.fromkeys((*was, *now)):
            gone = [w for w in was.get(name, []) if w not in now.get(name, [])]
            come = [w for w in now.get(name, []) if w not in was.get(name, [])]
            for n in range(max(len(gone), len(come))):
                yield ChangedRow(
                    title,
                    name,
                    gone[n] if n < len(gone) else "",
                    come[n] if n < len(come) else "",
                )


def _rows(table: Table, units: System) -> dict[str, list[str]]:
    """What each row says, by what it is of."""
    rows = _named(table, units).items()
    return {name: [", ".join(told.values()) for told in all_] for name, all_ in rows}
