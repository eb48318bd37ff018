"""The local mailbox: a mail backend that stores e-mails for a page instead of sending them."""

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from bathys_web.accounts.models import KeptEmail

__all__ = ["MailboxBackend"]

_MOST_KEPT = 200


class MailboxBackend(BaseEmailBackend):
    """Stores each e-mail; the oldest are deleted beyond a few hundred."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        """Store them.

        Parameters
        ----------
        email_messages : sequence of EmailMessage
            What is to be sent

        Returns
        -------
        int
            How many were stored
        """
        stored = [
            KeptEmail(to=", ".join(m.to)[:254], subject=str(m.subject)[:300], body=str(m.body))
            for m in email_messages
        ]
        KeptEmail.objects.bulk_create(stored)
        newest = KeptEmail.objects.values("pk")[:_MOST_KEPT]
        KeptEmail.objects.exclude(pk__in=newest).delete()
        return len(stored)
