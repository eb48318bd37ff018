"""The application of instruments."""

from importlib import import_module

from django.apps import AppConfig

__all__ = ["InstrumentsConfig"]


class InstrumentsConfig(AppConfig):
    """Registers what workers compute for instruments and tidy, and the board of the demo."""

    name = "bathys_web.instruments"

    def ready(self) -> None:
        """Once every model is known."""
        import_module("bathys_web.instruments.computations")
        import_module("bathys_web.instruments.actions.tidy")
        import_module("bathys_web.instruments.exporting")
        import_module("bathys_web.instruments.actions.connect_demo")
