"""Keep in mind by which revision a plan is built, or no longer."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction

from bathys.build import STOCK
from bathys.documents import ChangedRow, KeptRows, build_tables, kept_rows, moved_rows
from bathys.engine import engine_name
from bathys.shelf import PriceList
from bathys_web.plans.models import AsDesigned, Revision, SavedPlan
from bathys_web.plans.storing import assessment_of

__all__ = ["begin_building", "built_by", "moved_since"]


def built_by(saved: SavedPlan) -> AsDesigned | None:
    """The revision that a plan is built by.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Returns
    -------
    AsDesigned or None
        None while building has not begun
    """
    return AsDesigned.objects.select_related("revision").filter(plan=saved).first()


@transaction.atomic
def begin_building(saved: SavedPlan, user: User, begins: bool) -> None:
    """Building begins with the revision that stands, or has not begun after all.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : User
        Who asks
    begins : bool
        Whether it begins

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    held = SavedPlan.objects.select_for_update().get(pk=saved.pk)
    if held.owner_id != user.pk:
        raise PermissionDenied
    AsDesigned.objects.filter(plan=held).delete()
    if begins:
        AsDesigned.objects.create(
            plan=held,
            revision=held.current,
            engine=engine_name(),
            rows=_rows_of(held.current),
        )


def _rows_of(revision: Revision) -> KeptRows:
    """What is dug, drilled or cut by a revision, as the engine that is installed tells it."""
    found = assessment_of(revision).evaluation
    return kept_rows(build_tables(found, STOCK[1], PriceList.empty(), "metric"), "metric")


def moved_since(begun: AsDesigned) -> tuple[ChangedRow, ...]:
    """What a newer engine works out otherwise of a plan that is being built.

    Parameters
    ----------
    begun : AsDesigned
        The revision that it is built by, and what was told of it then

    Returns
    -------
    tuple of ChangedRow
        What was told differently then; empty where the engine is the same
    """
    if not begun.rows or begun.engine == engine_name():
        return ()
    return moved_rows(begun.rows, _rows_of(begun.revision))
