"""Boxes of a part in groups, what is rarely used in the last."""

from collections.abc import Iterable
from dataclasses import dataclass

from bathys_web.plans.inspector.row import Row

__all__ = ["RowGroup", "grouped"]

_WHAT, _WHERE, _HOLDS, _MORE = "What it is", "Where it stands", "What it holds", "More"
_OWN = "Your own limits"
_FILTER = "What the filter is made of"
_FOLDED = (_MORE, _OWN, _FILTER)
_GROUPS = {
    _WHERE: (
        "within",
        "floor_height",
        "height",
        "stands_in",
        "inlet_height",
        "from",
        "to",
        "ports",
    ),
    _HOLDS: (
        "water_depth",
        "freeboard",
        "media",
        "false_cone",
        "baffles",
        "settler",
        "carriers",
        "crop",
    ),
    _FILTER: (
        "filter.depth",
        "filter.void",
        "filter.fibre",
        "filter.piece",
        "filter.open_share",
        "filter.cut",
        "filter.holds_coarse",
        "filter.holds_fine",
        "filter.holds_dry",
    ),
    _OWN: ("own",),
    _MORE: (
        "catch_area",
        "walls",
        "hold",
        "guard_opening",
        "guard_cut",
        "guard_area",
        "hangs",
        "valve_at",
        "along",
        "covered",
        "cover",
        "stage",
        "displaced",
        "wear",
        "strainer_loss",
        "fouling",
        "film",
        "starts_at",
        "starts_at_doubt",
        "breaks_at",
        "breaks_at_doubt",
        "air_hole",
        "guard_diameter",
        "note",
    ),
}
_OF_FIELD = {field: title for title, fields in _GROUPS.items() for field in fields}


@dataclass(frozen=True, slots=True)
class RowGroup:
    """Boxes under one heading.

    Attributes
    ----------
    title : str
        The heading; empty for boxes that need none
    rows : tuple of Row
        The boxes
    is_open : bool
        Whether they are shown at once
    """

    title: str
    rows: tuple[Row, ...]
    is_open: bool


def grouped(rows: Iterable[Row], part: str) -> list[RowGroup]:
    """Boxes of a part under their headings, each in its order.

    Parameters
    ----------
    rows : iterable of Row
        The boxes
    part : str
        Id of the part; of the plan itself all boxes are one group

    Returns
    -------
    list of RowGroup
        Those that have any; rarely used boxes are folded unless one was refused
    """
    held: dict[str, list[Row]] = {
        title: [] for title in (_WHAT, _WHERE, _HOLDS, _FILTER, _OWN, _MORE)
    }
    for row in rows:
        _, _, field = row.path.partition(f".{part}.")
        if not field:
            return [RowGroup("", tuple(rows), is_open=True)]
        group = _OF_FIELD.get(field) or _OF_FIELD.get(field.partition(".")[0], _WHAT)
        held[group].append(row)
    return [
        RowGroup(title, tuple(own), title not in _FOLDED or any(r.error or r.notice for r in own))
        for title, own in held.items()
        if own
    ]
