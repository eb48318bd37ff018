"""The inspector: a form made from the plan's own field types, so that a new part brings its own.

A row knows its path in the plan, how it is shown and how what is typed is read back.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from bathys.parts.bores import standards
from bathys.parts.fittings import FITTINGS
from bathys.parts.fouling import FOULING
from bathys.parts.media import MEDIA
from bathys.plan import (
    GROUPS,
    SWITCHES,
    Change,
    EditRefused,
    Plan,
    set_bore,
    set_fitting_count,
    set_value,
    switch_kind,
)  # fmt: skip
from bathys.units import System, UnreadableQuantity, entry, read, unit_of

__all__ = ["Row", "apply_row", "find_row", "rows_of", "shown_value"]

Kind = Literal["number", "count", "choice", "switch", "text", "prose", "bore", "points", "schools"]

_CHOICE_NAMES = {
    **{key: kind.name for key, kind in MEDIA.items()},
    **{key: film.name for key, film in FOULING.items()},
    "metric": "metric", "us": "US",
    "tank": "tank, once an hour", "frugal": "bed, twice an hour", "whole_system": "whole system",
    "headroom": "pump with headroom", "flush": "flush with the wall", "inward": "standing inward",
}  # fmt: skip
_HIDDEN = {"id", "kind", "job", "stands_in", "start", "end", "format", "version"}
_HOSE = "inside"
_LONGEST_LINE = 100  # letters; more wants a box of several lines


@dataclass(frozen=True, slots=True)
class Row:
    """One box of the inspector.

    Attributes
    ----------
    path : str
        Its field in the plan
    label, hint, unit : str
        What stands around the box
    kind : str
        What sort of box
    text : str
        What stands in the box
    quantity : str
        Its quantity, for numbers
    standard : str
        Pipe standard, for bores
    options : tuple
        Value and name of each choice
    is_optional : bool
        Whether the box may be empty
    error : str
        Why what was typed was refused
    notice : str
        What the builder should know of what was typed
    """

    path: str
    label: str
    kind: Kind
    text: str
    hint: str = ""
    unit: str = ""
    quantity: str = ""
    standard: str = ""
    options: tuple[tuple[str, str], ...] = ()
    is_optional: bool = False
    error: str = ""
    notice: str = ""

    @property
    def box(self) -> str:
        """The box's id in the page."""
        return "box-" + self.path.replace(".", "-")

    @property
    def choices(self) -> tuple[str, ...]:
        """The values chosen, where several may be."""
        return tuple(self.text.split())


def _literal(annotation: Any) -> tuple[str, ...]:
    return get_args(annotation) if get_origin(annotation) is Literal else ()


def _is_optional(info: FieldInfo) -> bool:
    return type(None) in get_args(info.annotation)


def _quantity(info: FieldInfo) -> str:
    """Quantity of a field; on an optional one it hides in the inner annotation."""
    extra = info.json_schema_extra
    if isinstance(extra, dict) and "quantity" in extra:
        return str(extra["quantity"])
    for inner in get_args(info.annotation):
        for mark in getattr(inner, "__metadata__", ()):
            extra = getattr(mark, "json_schema_extra", None)
            if isinstance(extra, dict) and "quantity" in extra:
                return str(extra["quantity"])
    return ""


def _number_row(path: str, info: FieldInfo, value: Any, units: System) -> Row:
    quantity = _quantity(info)
    text = "" if value is None else entry(float(value), quantity, units)
    return Row(
        path, info.title or path, "count" if quantity == "count" else "number", text,
        info.description or "", unit_of(quantity, units), quantity,
        is_optional=_is_optional(info),
    )  # fmt: skip


def _bore_row(path: str, info: FieldInfo, bore: Any, units: System) -> Row:
    names = [(name, name) for name in standards()] + [(_HOSE, "by inside diameter")]
    if bore.kind == "standard":
        text, standard = bore.nominal, bore.standard
    else:
        text, standard = (
            f"{entry(bore.diameter, 'length', units)} {unit_of('length', units)}",
            _HOSE,
        )
    inside = f"{entry(round(bore.inside, 5), 'length', units)} {unit_of('length', units)} inside"
    return Row(path, info.title or path, "bore", text, inside, standard=standard,
               options=tuple(names))  # fmt: skip


def _points_row(path: str, points: Any, units: System) -> Row:
    lines = [
        f"{entry(p.flow, 'flow', units)} {unit_of('flow', units)} at "
        f"{entry(p.head, 'head', units)} {unit_of('head', units)}"
        for p in points
    ]
    return Row(
        path,
        "Curve points",
        "points",
        "\n".join(lines),
        "One a line, flow at head, flow rising; or pasted from a table as flow, head.",
    )


_SWITCH_NAMES = {"shape": "Shape", "curve": "Curve from", "valve": "Valve", "spray": "Ends in",
                 "switch": "Switched by"}  # fmt: skip
_YES_NO = (("yes", "yes"), ("no", "no"))


def _switch_row(path: str, name: str, value: Any) -> Row:
    kinds = tuple((kind, words) for kind, (words, _) in SWITCHES[name].items())
    now = "none" if value is None else value.kind
    return Row(f"{path}.kind", _SWITCH_NAMES[name], "switch", now, options=kinds)


def _fitting_rows(path: str, fittings: Any, units: System) -> Iterator[Row]:
    counts = {f.kind: f.count for f in fittings}
    for key, kind in FITTINGS.items():
        yield Row(f"{path}.{key}", kind.name.capitalize(), "count", str(counts.get(key, 0)),
                  quantity="count", unit="pieces")  # fmt: skip
    for fitting in fittings:
        if fitting.other_bore is not None:
            info = type(fitting).model_fields["other_bore"]
            row = _bore_row(f"{path}.{fitting.kind}.other_bore", info, fitting.other_bore, units)
            yield replace(row, label=f"{FITTINGS[fitting.kind].name.capitalize()} bore")


def _choice_row(path: str, info: FieldInfo, value: Any, choices: tuple[str, ...]) -> Row:
    options = tuple((c, _CHOICE_NAMES.get(c, c)) for c in choices)
    text = str(value)
    if isinstance(value, bool):
        options, text = _YES_NO, "yes" if value else "no"
    return Row(path, info.title or path, "choice", text, info.description or "", options=options)


def _rows_of_field(
    name: str, info: FieldInfo, value: Any, path: str, units: System
) -> Iterator[Row]:
    choices = _literal(info.annotation)
    if name == "fittings":
        yield from _fitting_rows(path, value, units)
    elif name == "schools":
        every = ("tank", "frugal", "whole_system", "headroom")
        yield Row(path, info.title or name, "schools", " ".join(value),
                  "A turnover rule of another school is only told, not held against the plan.",
                  options=tuple((s, _CHOICE_NAMES[s]) for s in every))  # fmt: skip
    elif name == "ports":
        for port in value:
            row = _number_row(f"{path}.{port.name}.height", type(port).model_fields["height"],
                              port.height, units)  # fmt: skip
            yield replace(row, label=f"Height of “{port.name.replace('_', ' ')}”")
    elif name == "points":
        yield _points_row(path, value, units)
    elif name.endswith("bore"):
        yield _bore_row(path, info, value, units)
    elif name in SWITCHES:
        yield _switch_row(path, name, value)
        if value is not None:
            yield from rows_of(value, path, units)
    elif isinstance(value, BaseModel):
        yield from rows_of(value, path, units)
    elif isinstance(value, bool) or len(choices) > 1:
        yield _choice_row(path, info, value, choices)
    elif _quantity(info):
        yield _number_row(path, info, value, units)
    elif isinstance(value, str):
        longest = next((m.max_length for m in info.metadata if hasattr(m, "max_length")), 0)
        kind: Kind = "prose" if longest > _LONGEST_LINE else "text"
        yield Row(path, info.title or name, kind, value, info.description or "")


def rows_of(part: BaseModel, path: str, units: System) -> list[Row]:
    """Rows of a part.

    Parameters
    ----------
    part : model
        A part of a plan
    path : str
        Its path in the plan
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    list of Row
        Its boxes, in the order of its fields
    """
    rows: list[Row] = []
    for name, info in type(part).model_fields.items():
        if name not in _HIDDEN:
            inner = f"{path}.{name}" if path else name
            rows += _rows_of_field(name, info, getattr(part, name), inner, units)
    return rows


def _part_at(plan: Plan, path: str) -> tuple[BaseModel, str] | None:
    first, _, rest = path.partition(".")
    if first in ("site", "brief"):
        return getattr(plan, first), first
    if first in GROUPS:
        id_ = rest.partition(".")[0]
        for part in getattr(plan, first):
            if part.id == id_:
                return part, f"{first}.{id_}"
    return None


def site_rows(plan: Plan, units: System) -> list[Row]:
    """Rows of the plan itself, its brief and its site."""
    fields = type(plan).model_fields
    own = [Row(n, fields[n].title or n, "text", getattr(plan, n)) for n in ("name", "datum")]
    return [*own, *rows_of(plan.brief, "brief", units), *rows_of(plan.site, "site", units)]


def find_row(plan: Plan, path: str, units: System) -> Row | None:
    """The row of a path, as the plan stands; none if the plan has no such field to edit."""
    if path in ("name", "datum"):
        return next(r for r in site_rows(plan, units) if r.path == path)
    found = _part_at(plan, path)
    if found is None:
        return None
    return next((r for r in rows_of(*found, units) if r.path == path), None)


def _flow_and_head(line: str) -> tuple[str, str, str]:
    """A line of a curve: “flow at head”, or two cells of a table with ; , or a tab between."""
    for mark in (" at ", ";", "\t", ","):
        flow, found, head = line.partition(mark)
        if found:
            return flow, found, head
    return line, "", ""


def _points(text: str, units: System) -> list[dict[str, float]]:
    points = []
    for number, line in enumerate(filter(None, map(str.strip, text.splitlines())), start=1):
        flow, found, head = _flow_and_head(line)
        if not found:
            raise EditRefused(f"Line {number} wants a flow, “at” and a head: 800 L/h at 1.2 m.")
        try:
            points.append({"flow": read(flow, "flow", units), "head": read(head, "head", units)})
        except UnreadableQuantity as error:
            raise EditRefused(f"Line {number}: {error}") from None
    return points


def _number(plan: Plan, row: Row, units: System) -> float | None:
    if row.is_optional and not row.text.strip():
        return None
    standing = find_row(plan, row.path, units)
    if standing is not None and row.text.strip() == standing.text:
        # What stands in the box is rounded for reading; left alone, it must not move the plan.
        raise _Unchanged
    try:
        return read(row.text, row.quantity, units)
    except UnreadableQuantity as error:
        raise EditRefused(str(error)) from None


class _Unchanged(Exception):
    """What was typed is what stood there."""


def apply_row(plan: Plan, row: Row, units: System) -> Change:
    """Read what was typed into a row, and edit the plan by it.

    Parameters
    ----------
    plan : Plan
        The plan before
    row : Row
        The row, with what was typed in it; values split by spaces where several may be chosen
    units : {"metric", "us"}
        The system shown

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        With a sentence for the builder
    """
    try:
        if row.kind == "bore":
            return set_bore(plan, row.path, row.standard, row.text, units)
        if row.kind == "count":
            return _set_count(plan, row)
        if row.kind == "switch":
            return switch_kind(plan, row.path.removesuffix(".kind"), row.text)
        return set_value(plan, row.path, _value(plan, row, units))
    except _Unchanged:
        return Change(plan, row.path, row.text, row.text)


def _value(plan: Plan, row: Row, units: System) -> Any:
    if row.kind == "number":
        return _number(plan, row, units)
    if row.kind == "points":
        return _points(row.text, units)
    if row.kind == "schools":
        return row.text.split()
    if row.kind == "choice" and row.text not in dict(row.options):
        raise EditRefused(f"“{row.text}” is not one of the choices.")
    if row.options == _YES_NO:
        return row.text == "yes"
    return row.text.strip()


def _set_count(plan: Plan, row: Row) -> Change:
    text = row.text.strip()
    if not text.isdecimal() or len(text) > 4:
        raise EditRefused("This box wants a whole number of pieces, 0 for none.")
    words = row.path.split(".")
    if "fittings" not in words:
        return set_value(plan, row.path, int(text))
    return set_fitting_count(plan, words[1], words[3], int(text))


def shown_value(row: Row) -> str:
    """What a row says, for the history."""
    if row.kind in ("choice", "switch", "schools"):
        return ", ".join(dict(row.options).get(v, v) for v in row.choices or (row.text,)) or "none"
    if row.kind == "points":
        return f"{len(row.text.splitlines())} points"
    return f"{row.text} {row.unit}".strip() if row.text else "none"
