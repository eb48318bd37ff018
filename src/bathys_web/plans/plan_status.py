"""How a plan stands: what its steady water and, once it was followed, time have brought out."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.db.models import QuerySet

from bathys.engine import engine_name
from bathys_web.plans.headlines import headlines_of
from bathys_web.plans.models import DynamicVerdict, Revision

__all__ = ["Standing", "plan_statuses_of"]


@dataclass(frozen=True)
class Standing:
    """Grave findings of a plan, so far as it was worked out."""

    fault: int
    warning: int
    is_followed: bool

    @property
    def look(self) -> str:
        """How it is shown."""
        return "fault" if self.fault else "warning" if self.warning else "sound"


def _of_this_engine(names: Sequence[str]) -> QuerySet[DynamicVerdict]:
    """What following brought out, where this engine followed: another one's verdict is none."""
    return DynamicVerdict.objects.filter(physics_hash__in=names, engine=engine_name())


def plan_statuses_of(revisions: Sequence[Revision]) -> list[Standing]:
    """How each of these revisions stands.

    Parameters
    ----------
    revisions : sequence of Revision
        The revisions

    Returns
    -------
    list of Standing
        One each
    """
    known = {f.physics_hash: f for f in _of_this_engine([r.physics_hash for r in revisions])}
    rows = []
    for revision in revisions:
        told, dynamic = headlines_of(revision), known.get(revision.physics_hash)
        rows.append(
            Standing(
                told.fault + (dynamic.faults if dynamic else 0),
                told.warning + (dynamic.warnings if dynamic else 0),
                dynamic is not None,
            )
        )
    return rows
