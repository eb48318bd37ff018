"""Keep what following a plan through time brought out, so that its verdict is whole at once when
it is looked at again."""

from collections.abc import Mapping

from bathys.engine import engine_name
from bathys_web.plans.models import DynamicVerdict

__all__ = ["note_dynamic_verdict"]


def note_dynamic_verdict(physics_hash: str, counts: Mapping[str, int]) -> None:
    """Note the findings of time.

    Parameters
    ----------
    physics_hash : str
        Name of what the plan's figures come of
    counts : mapping
        How many ``fault`` and ``warning``
    """
    found = {"engine": engine_name(), "faults": counts["fault"], "warnings": counts["warning"]}
    if not DynamicVerdict.objects.filter(physics_hash=physics_hash, **found).exists():
        DynamicVerdict.objects.update_or_create(physics_hash=physics_hash, defaults=found)
