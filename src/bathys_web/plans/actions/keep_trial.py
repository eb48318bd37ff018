"""Begin a trial of two parts, or end it."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys_web.plans.models import SavedPlan, Trial

__all__ = ["MOST_TRIALS", "BadTrial", "delete_trial", "keep_trial"]

MOST_TRIALS = 20
"""Of one plan."""


class BadTrial(ValueError):
    """A trial that cannot be; its message is a sentence."""


def keep_trial(
    saved: SavedPlan,
    user: User,
    words: tuple[str, str],
    measure: str,
    first: str,
    second: tuple[SavedPlan, str],
    from_days: int,
) -> Trial:
    """Begin a trial.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    words : (str, str)
        Its title, and what differs on purpose
    measure : str
        By what they are compared
    first : str
        Id of the first part
    second : (SavedPlan, str)
        Plan and id of the second
    from_days : int
        How far back what was measured before counts too, [d]

    Returns
    -------
    Trial
        The trial

    Raises
    ------
    BadTrial
        With a sentence
    PermissionDenied
        If a plan is not theirs
    """
    if {saved.owner_id, second[0].owner_id} != {user.pk}:
        raise PermissionDenied
    title, differs = (text.strip() for text in words)
    if not title or not differs:
        raise BadTrial("Give it a title, and say what differs on purpose.")
    if (second[0].pk, second[1]) == (saved.pk, first):
        raise BadTrial("Choose two parts: a part cannot be compared with itself.")
    if saved.trials.count() >= MOST_TRIALS:
        raise BadTrial(f"A plan has {MOST_TRIALS} trials at most: delete one first.")
    return Trial.objects.create(
        plan=saved,
        title=title[:80],
        differs=differs[:200],
        measure=measure,
        first=first,
        second=second[1],
        other=second[0] if second[0].pk != saved.pk else None,
        from_days=from_days,
    )


def delete_trial(trial: Trial, user: User) -> None:
    """Delete a trial; what was measured stays in the log.

    Parameters
    ----------
    trial : Trial
        The trial
    user : user
        Who asks

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if trial.plan.owner_id != user.pk:
        raise PermissionDenied
    trial.delete()
