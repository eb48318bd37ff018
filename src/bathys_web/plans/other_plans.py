"""The owner's other plans, those it has most to do with first."""

from typing import NamedTuple

from django.db.models import Q

from bathys_web.plans.models import SavedPlan

__all__ = ["OtherPlan", "others_of"]

_MOST_OTHERS = 40


class OtherPlan(NamedTuple):
    """A plan that another can be looked at beside.

    Attributes
    ----------
    key : str
        Key of the plan
    name : str
        What it is called
    is_kin : bool
        Whether one of both was copied from the other, or both from one
    """

    key: str
    name: str
    is_kin: bool


def others_of(saved: SavedPlan) -> list[OtherPlan]:
    """The owner's other plans.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Returns
    -------
    list of OtherPlan
        Its variants first, the newest before the others; then what it was copied from, and what
        else was copied from that; then all others
    """
    source = saved.origin.plan_id if saved.origin is not None else None
    own = SavedPlan.objects.filter(owner=saved.owner_id).exclude(pk=saved.pk)
    rows = own.order_by("-pk").values_list(
        "pk", "key", "head__document__name", "origin__plan", "is_archived"
    )
    kin = Q(origin__plan=saved.pk)
    if source is not None:
        kin |= Q(pk=source) | Q(origin__plan=source)
    near = sorted(rows.filter(kin), key=lambda row: (row[3] != saved.pk, row[0] != source))
    far = rows.filter(is_archived=False).exclude(kin)[:_MOST_OTHERS]
    return [
        *(OtherPlan(str(row[1]), str(row[2]), True) for row in near[:_MOST_OTHERS]),
        *(OtherPlan(str(row[1]), str(row[2]), False) for row in far),
    ]
