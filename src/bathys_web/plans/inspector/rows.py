"""Rows of a part: each knows its path in the plan and how it is shown."""

from collections.abc import Iterator
from dataclasses import replace
from threading import Lock
from typing import Any, Literal, get_args, get_origin

from cachetools import LRUCache, cached
from pydantic import BaseModel
from pydantic.fields import FieldInfo

from bathys.edits import SWITCHES
from bathys.kinds import models_of
from bathys.parts.bores import standards
from bathys.parts.practice import PRACTICES, SCHOOLS
from bathys.plan import GROUPS, Plan
from bathys.plan.base import Headed, typed_for
from bathys.plan.model import Brief
from bathys.plan.site import Site
from bathys.units import System, entry, unit_of
from bathys_web.plans.inspector.choice_names import CHOICE_NAMES, DAYS, KINDS, SWITCH_NAMES, YES_NO
from bathys_web.plans.inspector.lines import LINES
from bathys_web.plans.inspector.links import LINKS, link_rows
from bathys_web.plans.inspector.row import Kind, Row
from bathys_web.plans.inspector.typed_rows import as_typed

__all__ = ["find_row", "rows_of", "site_rows"]

_HIDDEN = {"id", "kind", "format", "version", "note", "typed", "blocks", "start_hole", "end_hole"}
_HOSE = "inside"
_DAY = 86400.0
_LONGEST_LINE = 100  # letters; more wants a box of several lines


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
        path,
        info.title or path,
        "count" if quantity == "count" else "number",
        text,
        info.description or "",
        unit_of(quantity, units),
        quantity,
        is_optional=_is_optional(info),
    )


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
    return Row(
        path, info.title or path, "bore", text, inside, standard=standard, options=tuple(names)
    )


def _lines_row(path: str, kind: Any, info: FieldInfo, value: Any, units: System) -> Row:
    lines = LINES[kind]
    strip = _strip(value) if kind in ("spells", "winter_spells") else ()
    return Row(
        path,
        info.title or kind,
        kind,
        lines.write(lines.values_of(value), units),
        info.description or "",
        is_optional=lines.may_be_empty,
        strip=strip,
    )


def _strip(spells: Any) -> tuple[tuple[float, float], ...]:
    """Spells on a strip of the day; one over midnight in two pieces."""
    found: list[tuple[float, float]] = []
    for spell in spells:
        begin, end = spell.begins / _DAY * 100.0, spell.ends / _DAY * 100.0
        found += [(begin, end)] if end > begin else [(begin, 100.0), (0.0, end)]
    return tuple((round(a, 2), round(b - a, 2)) for a, b in found)


def _switch_row(path: str, name: str, value: Any) -> Row:
    kinds = tuple((kind, words) for kind, (words, _) in SWITCHES[name].items())
    now = "none" if value is None else value.kind
    return Row(f"{path}.kind", SWITCH_NAMES[name], "switch", now, options=kinds)


def _volume_row(path: str, shape: Any, units: System) -> Row:
    """What a shell holds, to be typed over: one of its dimensions follows."""
    names = tuple((d, f"by its {d}") for d in shape.SCALED)
    text = entry(shape.capacity, "volume", units)
    return Row(
        f"{path}.volume",
        "Holds",
        "volume" if names else "told",
        text,
        "Up to the rim, with nothing in it."
        + (" Type another volume, and the dimension picked follows." if names else ""),
        unit_of("volume", units),
        "volume",
        names[0][0] if names else "",
        names,
    )


def _kind_rows(part: Any, path: str) -> Iterator[Row]:
    """The kind of a whole part, where there are others."""
    group = path.partition(".")[0]
    if group in SWITCHES:
        yield _switch_row(path, group, part)
    elif group == "junctions":
        options = tuple(KINDS.items())
        yield Row(f"{path}.kind", "Built as", "choice", part.kind, options=options)


def _port_rows(plan: Plan, port: Any, path: str, units: System) -> Iterator[Row]:
    """The height of a hole, which may be closed if no run needs it, and how a pipe begins there."""
    fields = type(port).model_fields
    _, vessel, _ = path.split(".")
    name = f"“{port.name.replace('_', ' ')}”"
    leads, ends = (f(f"{vessel}.{port.name}") for f in (plan.runs_from, plan.runs_to))
    row = _number_row(f"{path}.{port.name}.height", fields["height"], port.height, units)
    if leads or ends:
        runs = " and ".join(r.name for r in (*leads, *ends))
        yield replace(
            row, label=f"Hole {name}, height", hint=f"Its centre over the floor, for {runs}."
        )
    else:
        yield replace(
            row,
            label=f"Hole {name}, height",
            kind="hole",
            is_optional=True,
            hint="No run needs it: empty the box to close it.",
        )
    if leads:
        row = _choice_row(
            f"{path}.{port.name}.mouth",
            fields["mouth"],
            port.mouth,
            _literal(fields["mouth"].annotation),
        )
        yield replace(row, label=f"Hole {name}, mouth")


_PIECES = {k: name for m in models_of("fittings") for k, name in m.NAMES.items()}


def _count_row(path: str, kind: str, count: int) -> Row:
    return Row(
        f"{path}.{kind}",
        _PIECES[kind].capitalize(),
        "count",
        str(count),
        quantity="count",
        unit="piece" if count == 1 else "pieces",
    )


def _may_have(fitting: Any, name: str) -> bool:
    """Whether a field of a fitting has a box before it has a value."""
    return bool(name == "at" and fitting.has_place)


def _fitting_rows(plan: Plan, path: str, fittings: Any, units: System) -> Iterator[Row]:
    """What is on the run, each with its count and its own fields, and a box to put more kinds
    on."""
    on_it = {f.kind for f in fittings}
    for fitting in fittings:
        yield _count_row(path, fitting.kind, fitting.count)
        for name, info in type(fitting).model_fields.items():
            value = getattr(fitting, name)
            if name not in ("kind", "count") and (value is not None or _may_have(fitting, name)):
                own = f"{path}.{fitting.kind}.{name}"
                for row in _rows_of_field(plan, name, info, value, own, units):
                    yield replace(row, label=f"{fitting.piece.capitalize()} {row.label}")
    others = tuple((kind, name) for kind, name in _PIECES.items() if kind not in on_it)
    if others:
        yield Row(
            f"{path}.+",
            "Put on it",
            "pick",
            "",
            "Elbows, unions, checks; 0 takes them off.",
            options=(("", "choose a fitting"), *others),
        )


def _choice_row(path: str, info: FieldInfo, value: Any, choices: tuple[str, ...]) -> Row:
    practice = PRACTICES.get(path.rpartition(".")[2])
    own = {key: way.name for key, way in practice.ways.items()} if practice is not None else {}
    options = tuple((c, own.get(c, CHOICE_NAMES.get(c, c))) for c in choices)
    text = str(value)
    if isinstance(value, bool):
        options, text = YES_NO, "yes" if value else "no"
    return Row(path, info.title or path, "choice", text, info.description or "", options=options)


def _several_rows(
    plan: Plan, name: str, info: FieldInfo, value: Any, path: str, units: System
) -> Iterator[Row]:
    """Rows of a field that holds several things."""
    if name == "fittings":
        yield from _fitting_rows(plan, path, value, units)
    elif name == "schools":
        yield Row(
            path,
            info.title or name,
            "schools",
            " ".join(value),
            "A turnover rule of another school is only told, not held against the plan.",
            options=tuple(SCHOOLS.items()),
        )
    elif name == "days":
        yield Row(
            path,
            info.title or name,
            "schools",
            " ".join(value),
            info.description or "",
            options=tuple(DAYS.items()),
        )
    elif name == "ports":
        for port in value:
            yield from _port_rows(plan, port, path, units)
    else:
        yield _lines_row(path, name, info, value, units)


_SEVERAL = ("fittings", "schools", "days", "ports", *LINES)


def _rows_of_field(
    plan: Plan, name: str, info: FieldInfo, value: Any, path: str, units: System
) -> Iterator[Row]:
    choices = _literal(info.annotation)
    if name in _SEVERAL:
        yield from _several_rows(plan, name, info, value, path, units)
    elif name.endswith("bore"):
        yield _bore_row(path, info, value, units)
    elif name in SWITCHES:
        yield _switch_row(path, name, value)
        if value is not None:
            yield from rows_of(plan, value, path, units)
        if name == "shape":
            yield _volume_row(path, value, units)
    elif isinstance(value, BaseModel):
        yield from rows_of(plan, value, path, units)
    elif isinstance(value, bool) or len(choices) > 1:
        yield _choice_row(path, info, value, choices)
    elif _quantity(info):
        yield _number_row(path, info, value, units)
    elif isinstance(value, str):
        longest = next((m.max_length for m in info.metadata if hasattr(m, "max_length")), 0)
        kind: Kind = "prose" if longest > _LONGEST_LINE else "text"
        yield Row(path, info.title or name, kind, value, info.description or "")


def rows_of(plan: Plan, part: BaseModel, path: str, units: System) -> list[Row]:
    """Rows of a part.

    Parameters
    ----------
    plan : Plan
        The plan, for what the part may be joined to
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
    is_whole = path.count(".") == 1
    for name, info in type(part).model_fields.items():
        inner = f"{path}.{name}" if path else name
        if is_whole and name in LINKS:
            rows += link_rows(plan, part, name, path)
        elif is_whole and name == "kind":
            rows += _kind_rows(part, path)
        elif name not in _HIDDEN:
            rows += _rows_of_field(plan, name, info, getattr(part, name), inner, units)
    if isinstance(part, (Headed, Site, Brief)):
        rows = [
            as_typed(row, typed_for(part.typed, row.path.removeprefix(f"{path}.")), units)
            for row in rows
        ]
    if is_whole and isinstance(part, Headed):
        info = type(part).model_fields["note"]
        rows += _rows_of_field(plan, "note", info, part.note, f"{path}.note", units)
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
    """Rows of the plan itself, its brief and its site.

    Parameters
    ----------
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    list of Row
        The rows
    """
    fields = type(plan).model_fields
    own = [Row(n, fields[n].title or n, "text", getattr(plan, n)) for n in ("name", "datum")]
    return [
        *own,
        *rows_of(plan, plan.brief, "brief", units),
        *rows_of(plan, plan.site, "site", units),
    ]


@cached(LRUCache(maxsize=32), key=lambda plan, _, *asked: (id(plan), *asked), lock=Lock())
def _by_path(plan: Plan, part: BaseModel, path: str, units: System) -> tuple[Plan, dict[str, Row]]:
    """Rows of a part by their paths, since an edit asks for several of the same; kept with the
    plan, so that no other can have its identity."""
    rows: dict[str, Row] = {}
    for row in rows_of(plan, part, path, units):
        rows.setdefault(row.path, row)
    return plan, rows


def find_row(plan: Plan, path: str, units: System) -> Row | None:
    """The row of a path, as the plan stands; none if the plan has no such field to edit.

    Parameters
    ----------
    plan : Plan
        The plan
    path : str
        Path of the field, such as ``vessels.B1.floor_height``
    units : System
        The reader's units

    Returns
    -------
    Row or None
        The row, or none
    """
    if path in ("name", "datum"):
        return next(r for r in site_rows(plan, units) if r.path == path)
    found = _part_at(plan, path)
    if found is None:
        return None
    row = _by_path(plan, *found, units)[1].get(path)
    way, _, last = path.rpartition(".")
    if row is None and way.endswith(".fittings") and last in _PIECES:
        return _count_row(way, last, 0)  # a kind that is not on it, for what is told of changes
    return row
