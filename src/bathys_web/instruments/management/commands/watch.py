"""Goes through what boards send, minute by minute, and through logs every few hours, until it is
told to stop."""

import logging
import os
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection
from django.utils import timezone

from bathys_web.instruments.actions.foretell import due_logs, foretell
from bathys_web.instruments.actions.look_after import due_plans, look_after

__all__ = ["Command"]

_LOOK = 5.0  # [s]
log = logging.getLogger(__name__)


class Command(BaseCommand):
    """``manage.py watch``."""

    help = "Goes through the readings of every plan with boards, and tells what is wrong."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether to look only once."""
        parser.add_argument("--once", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        """Watch until told to stop."""
        os.nice(10)  # whoever serves a page goes first
        ends = threading.Event()
        if not options["once"]:
            for number in (signal.SIGTERM, signal.SIGINT):
                signal.signal(number, lambda *_: ends.set())
        while True:
            try:
                now = timezone.now()
                for saved in due_plans(now):
                    try:
                        look_after(saved, now)
                    except DatabaseError:
                        raise
                    except Exception:  # one plan that cannot be watched leaves the others watched
                        log.exception("plan %s could not be gone through", saved.pk)
                for saved in due_logs(now):
                    try:
                        foretell(saved, now)
                    except DatabaseError:
                        raise
                    except Exception:  # as above
                        log.exception("the log of plan %s could not be gone through", saved.pk)
            except DatabaseError:
                log.warning("the database was not reached; tried again in a moment")
                connection.close()
            if options["once"] or ends.wait(_LOOK):
                return
