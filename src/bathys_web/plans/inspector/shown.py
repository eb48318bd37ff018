"""What a row of the inspector says in words."""

from bathys_web.plans.inspector.lines import LINES
from bathys_web.plans.inspector.row import Row

__all__ = ["shown_value"]


def shown_value(row: Row) -> str:
    """What a row says, for the history.

    Parameters
    ----------
    row : Row
        A row of the inspector

    Returns
    -------
    str
        The words
    """
    if row.kind in ("choice", "switch", "link", "schools"):
        return ", ".join(dict(row.options).get(v, v) for v in row.choices or (row.text,)) or "none"
    if row.kind in ("points", "marks"):
        return f"{len(row.text.splitlines())} {row.kind}"
    if row.kind in LINES:
        return row.text.replace("\n", "; ") or "none"
    if row.same:
        return f"{row.text} ({row.same})"
    gap = "" if row.unit in ("°", "%") else " "
    return f"{row.text}{gap}{row.unit}".strip() if row.text else "none"
