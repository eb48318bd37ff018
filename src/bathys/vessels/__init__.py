"""Level against volume. Public: :class:`Storage`, :func:`storage_of`, :func:`footprint`,
:func:`perimeter`, :func:`shell_volume`, :func:`width_at`."""

from bathys.vessels.shapes import footprint, perimeter, width_at
from bathys.vessels.storage import Storage, joined, shell_volume, storage_of

__all__ = [
    "Storage", "footprint", "joined", "perimeter", "shell_volume", "storage_of", "width_at",
]  # fmt: skip
