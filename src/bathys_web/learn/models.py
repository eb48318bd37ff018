"""Trials that people gave to all."""

from django.conf import settings
from django.db import models

from bathys.validity import TrialRow

__all__ = ["GivenTrial"]


class GivenTrial(models.Model):
    """A trial that somebody gave to all. It goes with their account."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="given_trials")
    kind = models.CharField(max_length=20)  # of bathys.validity.TRIAL_KINDS
    row = models.IntegerField()  # of the file, as a spreadsheet counts
    measured = models.FloatField()  # these three in the unit of the kind
    low = models.FloatField()
    high = models.FloatField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("kind", "pk")

    def __str__(self) -> str:
        return f"{self.kind}: {self.measured:g}"

    def as_trial(self) -> TrialRow:
        """It, as the engine takes it."""
        return TrialRow(self.row, self.measured, self.low, self.high)
