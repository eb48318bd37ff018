"""Level against volume. Public: :class:`Storage`, :func:`storage_of`, :func:`footprint`,
:func:`perimeter`."""

from bathys.vessels.shapes import footprint, perimeter
from bathys.vessels.storage import Storage, joined, storage_of

__all__ = ["Storage", "footprint", "joined", "perimeter", "storage_of"]
