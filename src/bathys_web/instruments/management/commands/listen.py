"""Takes what boards publish at an MQTT broker, until it is told to stop."""

import signal
import threading
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from bathys_web.instruments.mqtt import TOPIC, listener

__all__ = ["Command"]


class Command(BaseCommand):
    """``manage.py listen``; the broker is told by ``BATHYS_MQTT_HOST`` and its fellows."""

    help = f"Takes what boards publish at an MQTT broker under {TOPIC}."

    def handle(self, *args: Any, **options: Any) -> None:
        """Listen until told to stop."""
        if not settings.MQTT_HOST:
            raise CommandError("BATHYS_MQTT_HOST names no broker.")
        ends = threading.Event()
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: ends.set())
        client = listener(
            settings.MQTT_HOST,
            settings.MQTT_PORT,
            settings.MQTT_USER,
            settings.MQTT_PASSWORD,
            is_secure=settings.MQTT_TLS,
        )
        client.loop_start()
        ends.wait()
        client.loop_stop()
