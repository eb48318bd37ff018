"""Which of a visitor's plans are shown, and in which order."""

from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Q, QuerySet
from django.db.models.fields.json import KeyTextTransform
from django.db.models.functions import Lower
from django.http import QueryDict

from bathys_web.plans.models import SavedPlan

__all__ = ["SORTS", "Search", "search_of"]

SORTS = {"changed": "last changed", "name": "name", "created": "newest"}
"""Orders to choose from, by key."""
_LONGEST = 100


@dataclass(frozen=True, slots=True)
class Search:
    """What the visitor looks for.

    Attributes
    ----------
    words : str
        Part of a plan's name, purpose or label
    sort : str
        A key of ``SORTS``
    label : str
        Only plans with this label; all if empty
    is_archived : bool
        Whether the archive is shown
    """

    words: str
    sort: str
    label: str
    is_archived: bool

    @property
    def is_narrowed(self) -> bool:
        """Whether some plans are left out."""
        return bool(self.words or self.label)

    def plans(self, user: User) -> QuerySet[SavedPlan]:
        """The plans found.

        Parameters
        ----------
        user : user
            Whose plans

        Returns
        -------
        QuerySet of SavedPlan
            In the order asked for
        """
        found = SavedPlan.objects.filter(owner=user, head__isnull=False)
        found = found.filter(is_archived=self.is_archived).select_related("head")
        if self.label:
            found = found.filter(labels__contains=[self.label])
        for word in self.words.split():
            found = found.filter(
                Q(head__document__name__icontains=word)
                | Q(head__document__brief__purpose__icontains=word)
                | Q(labels__icontains=word)
            )
        if self.sort == "name":
            return found.order_by(Lower(KeyTextTransform("name", "head__document")), "pk")
        return found.order_by("-created" if self.sort == "created" else "-touched", "-pk")


def search_of(asked: QueryDict | dict[str, Any]) -> Search:
    """What an address asks for; what makes no sense is left out.

    Parameters
    ----------
    asked : QueryDict
        The query of the address

    Returns
    -------
    Search
        What is looked for
    """
    sort = str(asked.get("sort", ""))
    return Search(
        str(asked.get("q", "")).replace("\x00", "").strip()[:_LONGEST],
        sort if sort in SORTS else "changed",
        str(asked.get("label", "")).replace("\x00", "")[:_LONGEST],
        asked.get("archive") == "1",
    )
