"""What is remembered of wrong guesses at a password, of demo accounts, and of e-mails not sent."""

from django.conf import settings
from django.db import models

__all__ = ["DemoAccount", "Guesses", "KeptEmail"]


class Guesses(models.Model):
    """Wrong guesses from one side: an address, an account, or an address at an account. The key is
    a keyed hash, so that the table names nobody."""

    key = models.CharField(max_length=64, unique=True)
    count = models.PositiveIntegerField(default=0)
    last = models.DateTimeField(auto_now=True)
    until = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.key[:8]}: {self.count}"


class DemoAccount(models.Model):
    """A visitor's own demo account, deleted after a day unless they keep it."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="demo")
    created = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"demo of {self.created:%Y-%m-%d %H:%M}"


class KeptEmail(models.Model):
    """An e-mail that the local mailbox shows in place of a mail server."""

    to = models.CharField(max_length=254)
    subject = models.CharField(max_length=300)
    body = models.TextField()
    sent = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-pk",)

    def __str__(self) -> str:
        return f"{self.subject} to {self.to}"
