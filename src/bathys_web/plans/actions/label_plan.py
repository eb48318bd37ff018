"""Give a plan labels."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys_web.plans.models import SavedPlan

__all__ = ["MOST_LABELS", "BadLabels", "label_plan"]

MOST_LABELS = 6
"""So many labels a plan at most."""
_LONGEST = 30


class BadLabels(ValueError):
    """Labels that are not taken, with a sentence that says why."""


def label_plan(saved: SavedPlan, user: User, typed: str) -> None:
    """Give a plan these labels in place of those it has.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    typed : str
        Labels with commas between; none to take them away

    Raises
    ------
    PermissionDenied
        If it is not theirs
    BadLabels
        If there are too many, or one is too long
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    labels = list(dict.fromkeys(" ".join(t.split()) for t in typed.split(",")))
    labels = [label for label in labels if label]
    if len(labels) > MOST_LABELS:
        raise BadLabels(f"A plan takes up to {MOST_LABELS} labels; these are {len(labels)}.")
    if any(len(label) > _LONGEST for label in labels):
        raise BadLabels(f"A label has up to {_LONGEST} letters.")
    if any("\x00" in label for label in labels):
        raise BadLabels("A label holds a letter that cannot be stored.")
    SavedPlan.objects.filter(pk=saved.pk).update(labels=labels)
