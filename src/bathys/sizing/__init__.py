"""Choosing sizes and settings. Public: :func:`throttling_angle`."""

from bathys.sizing.throttling import throttling_angle

__all__ = ["throttling_angle"]
