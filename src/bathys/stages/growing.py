"""How many more of a vessel a plan would carry as it is."""

from dataclasses import dataclass

from bathys.edits import EditRefused, apply_edits, duplicate_part
from bathys.network import NotSolved
from bathys.pipeline import Assessment, assess
from bathys.plan import Plan
from bathys.rules import Finding

__all__ = ["More", "more_of"]

_WORSE = {"note": 0, "warning": 1, "fault": 2}


@dataclass(frozen=True, slots=True)
class More:
    """How many more a plan would carry.

    Attributes
    ----------
    count : int
        So many more bring no problem and no warning that was not there before
    tried : int
        So many were tried
    stops : tuple of Finding
        What the next one brings; empty where as many as were tried do
    plan : Plan or None
        The plan with the next one, which the findings are of
    """

    count: int
    tried: int
    stops: tuple[Finding, ...]
    plan: Plan | None


def more_of(whole: Assessment, vessel: str, most: int = 5) -> More:
    """Duplicate a vessel with its pipes until a problem or a warning comes that was not there.

    Parameters
    ----------
    whole : Assessment
        Numbers and findings of the plan
    vessel : str
        Id of the vessel
    most : int
        So many are tried at most

    Returns
    -------
    More
        With the pump, the sump, the valves and the fish as they are. What only time shows is not
        among the findings

    Raises
    ------
    EditRefused
        If the vessel cannot be duplicated
    """
    known = {_name(f) for f in whole.findings if _WORSE[f.severity]}
    plan = whole.evaluation.plan
    for count in range(1, most + 1):
        try:
            plan = apply_edits(plan, duplicate_part(plan, vessel)[0])
            found = assess(plan)
        except (EditRefused, NotSolved):
            if count == 1:
                raise EditRefused("It cannot be duplicated as it stands.") from None
            return More(count - 1, count, (), None)
        new = tuple(f for f in found.findings if _WORSE[f.severity] and _name(f) not in known)
        if new:
            return More(count - 1, count, new, plan)
    return More(most, most, (), None)


def _name(finding: Finding) -> str:
    return f"{finding.rule.id}.{finding.message}"
