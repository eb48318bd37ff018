"""The past of a plan: every revision, what it was made from, and whether the plan came that way."""

from dataclasses import dataclass

from bathys_web.plans.models import Revision, SavedPlan

__all__ = ["HistoryRow", "history_of"]


@dataclass(frozen=True, slots=True)
class HistoryRow:
    """A revision as the list of the past shows it.

    Attributes
    ----------
    revision : Revision
        The revision, without its document
    made_from : int or None
        Number of the revision it was made from, if that is not the one before
    is_standing : bool
        Whether the plan stands so now
    is_on_the_way : bool
        Whether the plan as it stands came by it
    """

    revision: Revision
    made_from: int | None
    is_standing: bool
    is_on_the_way: bool


def history_of(saved: SavedPlan) -> list[HistoryRow]:
    """Every revision of a plan, the newest first.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Returns
    -------
    list of HistoryRow
        The newest first
    """
    revisions: dict[int | None, Revision] = {r.pk: r for r in saved.revisions.defer("document")}
    way, here = set(), revisions.get(saved.head_id)
    while here is not None:
        way.add(here.pk)
        here = revisions.get(here.parent_id)
    rows = []
    for revision in sorted(revisions.values(), key=lambda r: -r.number):
        parent = revisions.get(revision.parent_id)
        is_next = parent is None or parent.number == revision.number - 1
        made_from = None if parent is None or is_next else parent.number
        rows.append(
            HistoryRow(revision, made_from, revision.pk == saved.head_id, revision.pk in way)
        )
    return rows
