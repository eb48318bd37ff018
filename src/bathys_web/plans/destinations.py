"""Where fish can be moved to: fish of this plan, and of one's other plans."""

from bathys_web.plans.models import SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["destinations"]

_MOST_PLANS = 12  # the last that were looked at


def destinations(saved: SavedPlan) -> dict[str, tuple[SavedPlan, str]]:
    """Fish that others can be moved to.

    Parameters
    ----------
    saved : SavedPlan
        The plan that they come from

    Returns
    -------
    dict of str to (SavedPlan, str)
        The plan and the id of the fish, by what it is called: fish of this plan by their name and
        that of their tank, fish of another by the plan's name too
    """
    others = SavedPlan.objects.filter(owner=saved.owner_id, is_archived=False, head__isnull=False)
    others = others.exclude(pk=saved.pk).select_related("head").order_by("-touched")
    found: dict[str, tuple[SavedPlan, str]] = {}
    for own in (saved, *others[:_MOST_PLANS]):
        plan = plan_of(own.current)
        for cohort in plan.fish:
            words = f"{plan.names[cohort.id]} in {plan.names[cohort.stands_in]}"
            found.setdefault(words if own is saved else f"{words}, {plan.name}", (own, cohort.id))
    return found
