"""The table of computations: one row for each result that was ever asked for and is kept."""

from django.conf import settings
from django.db import models

__all__ = ["Computation"]


class Computation(models.Model):
    """One computation of a plan.

    It waits, runs, and is done, failed or stopped. Who works on it beats its heart every half
    second; one that is not heard of is taken up by another worker.
    """

    class State(models.TextChoices):
        """How far it is."""

        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        STOPPED = "stopped"

    class Lane(models.TextChoices):
        """Which workers take it: those for what takes seconds, or those for what takes minutes."""

        QUICK = "quick"
        LONG = "long"

    key = models.CharField(max_length=64, unique=True)
    content = models.CharField(max_length=64)  # name of what the plan says
    engine = models.CharField(max_length=16, default="")  # name of the engine that is to compute it
    kind = models.CharField(max_length=30)
    page = models.CharField(max_length=40, blank=True)  # whose page; empty once several wait for it
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    document = models.JSONField()
    words = models.JSONField()
    state = models.CharField(max_length=8, choices=State.choices, default=State.WAITING)
    lane = models.CharField(max_length=5, choices=Lane.choices, default=Lane.QUICK)
    asked = models.DateTimeField(auto_now_add=True)
    heard = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)
    worker = models.CharField(max_length=60, blank=True)
    attempts = models.PositiveSmallIntegerField(default=0)
    reached = models.FloatField(default=0.0)  # share of the way
    result = models.BinaryField(null=True)
    why = models.CharField(max_length=300, blank=True)  # it failed

    class Meta:
        indexes = (
            models.Index(fields=("state", "heard"), name="computations_by_state"),
            models.Index(fields=("asked_by", "state"), name="computations_by_user"),
        )

    def __str__(self) -> str:
        return f"{self.kind} {self.key[:8]}: {self.state}"
