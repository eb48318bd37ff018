"""Plans as they are kept: a name on a shelf, and revisions that never change."""

import uuid

from django.conf import settings
from django.db import models

__all__ = ["Revision", "SavedPlan"]


class SavedPlan(models.Model):
    """A plan on its owner's shelf. Only ``head`` ever moves."""

    key = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="plans")
    head = models.ForeignKey("Revision", models.PROTECT, null=True, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    touched = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("-touched",)

    def __str__(self) -> str:
        return str(self.key)


class Revision(models.Model):
    """One state of a plan. Rows are written once: a trigger refuses to change them."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="children")
    document = models.JSONField()
    what_changed = models.CharField(max_length=300)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)
    content_hash = models.CharField(max_length=64)

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("plan", "number"), name="one_revision_a_number"),
        )

    def __str__(self) -> str:
        return f"{self.plan_id} r{self.number}"
