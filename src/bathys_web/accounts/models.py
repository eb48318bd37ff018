"""What is remembered of wrong guesses at a password."""

from django.db import models

__all__ = ["Guesses"]


class Guesses(models.Model):
    """Wrong guesses from one side: an address, an account, or an address at an account. The key is
    a keyed hash, so that the table names nobody."""

    key = models.CharField(max_length=64, unique=True)
    count = models.PositiveIntegerField(default=0)
    last = models.DateTimeField(auto_now=True)
    until = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.key[:8]}: {self.count}"
