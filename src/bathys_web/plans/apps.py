"""The application of plans."""

from importlib import import_module

from django.apps import AppConfig

__all__ = ["PlansConfig"]


class PlansConfig(AppConfig):
    """Registers what workers compute of plans."""

    name = "bathys_web.plans"

    def ready(self) -> None:
        """Once every model is known."""
        import_module("bathys_web.plans.computations")
