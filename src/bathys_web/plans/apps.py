"""The application of plans."""

from importlib import import_module

from django.apps import AppConfig

from bathys.engine import engine_name

__all__ = ["PlansConfig"]


class PlansConfig(AppConfig):
    """Registers what workers compute of plans."""

    name = "bathys_web.plans"

    def ready(self) -> None:
        """Once every model is known."""
        engine_name()  # of the source that is loaded now, whatever an update puts in its place
        import_module("bathys_web.plans.computations")
