"""Stands in for a push service and a phone: takes messages and says them in the terminal."""

import json
import signal
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

__all__ = ["Command", "phone_server"]

_LONGEST = 20_000  # [bytes]


def phone_server(port: int, say: Any) -> ThreadingHTTPServer:
    """A phone on loopback that takes what is pushed.

    Parameters
    ----------
    port : int
        Where it listens, [-]; 0 for any that is free
    say : callable
        Takes the topic and the message's title

    Returns
    -------
    ThreadingHTTPServer
        To be served and closed
    """

    class _Phone(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            length = int(self.headers.get("Content-Length") or 0)
            try:
                told = json.loads(self.rfile.read(min(length, _LONGEST)))
                title = str(told["title"])
            except (ValueError, KeyError, TypeError):
                self.send_error(400)
                return
            say(self.path.strip("/"), title)
            self.send_response(204)
            self.end_headers()

        def log_message(self, format: str, *args: Any) -> None:
            """It says only what is pushed."""

    return ThreadingHTTPServer(("127.0.0.1", port), _Phone)


class Command(BaseCommand):
    """``manage.py phone --port 8300``."""

    help = "Stands in for a push service and a phone."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where it listens."""
        parser.add_argument("--port", type=int, required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Listen until told to stop."""
        server = phone_server(
            options["port"], lambda _, title: self.stdout.write(f"The phone shows: {title}")
        )
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: threading.Thread(target=server.shutdown).start())
        server.serve_forever()
        server.server_close()
