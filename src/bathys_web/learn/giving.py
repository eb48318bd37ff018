"""Trials are given to all, or taken back; and what all that were given say together."""

from collections import defaultdict
from collections.abc import Sequence

from django.contrib.auth.models import User
from django.db import transaction

from bathys.validity import TRIAL_KINDS, Pooled, TrialRow, pool
from bathys_web.learn.models import GivenTrial

__all__ = ["give_trials", "pooled_trials", "take_back_trials"]


@transaction.atomic
def give_trials(user: User, kind: str, trials: Sequence[TrialRow]) -> None:
    """Give trials of one kind to all, in place of those of that kind that they gave before.

    Parameters
    ----------
    user : user
        Who gives them
    kind : str
        A key of :data:`bathys.validity.TRIAL_KINDS`
    trials : sequence of TrialRow
        Of a file
    """
    take_back_trials(user, kind)
    GivenTrial.objects.bulk_create(
        GivenTrial(owner=user, kind=kind, row=t.row, measured=t.measured, low=t.low, high=t.high)
        for t in trials
    )


def take_back_trials(user: User, kind: str) -> None:
    """Take trials of one kind back.

    Parameters
    ----------
    user : user
        Whose
    kind : str
        A key of :data:`bathys.validity.TRIAL_KINDS`
    """
    GivenTrial.objects.filter(owner=user, kind=kind).delete()


def pooled_trials() -> dict[str, Pooled]:
    """What was given, taken together.

    Returns
    -------
    dict of str to Pooled
        By the kind of the trials, in their order; without kinds that nobody gave
    """
    rows = defaultdict[str, dict[str, list[TrialRow]]](lambda: defaultdict(list))
    for given in GivenTrial.objects.all():
        rows[given.kind][str(given.owner_id)].append(given.as_trial())
    found = {kind: pool(rows[kind]) for kind in TRIAL_KINDS if kind in rows}
    return {kind: pooled for kind, pooled in found.items() if pooled is not None}
