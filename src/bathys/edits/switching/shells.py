"""Another shell of the same height and area, and another filling."""

from collections.abc import Callable
from typing import Any

from bathys.kinds import kind_of, models_of
from bathys.parts.media import MEDIA
from bathys.plan.shell import Shell
from bathys.plan.vessel import Media

__all__ = ["FILLINGS", "SHELLS"]

_DEEP = 0.3  # usual depth of media [m]
_SHARE_FILLED = 0.85  # of a shell that is lower than that

Made = dict[str, Any] | None


def _like(model: type[Shell]) -> Callable[[Any, Any], Made]:
    return lambda vessel, shell: model.like(shell).model_dump(mode="json")


SHELLS: dict[str, tuple[str, Callable[[Any, Any], Made]]] = {
    kind_of(model): (model.CHOICE, _like(model)) for model in models_of("shells")
}


def _filled_with(kind: str) -> Callable[[Any, Any], Made]:
    medium = MEDIA[kind]

    def fill(vessel: Any, old: Media | None) -> Made:
        # Another medium has another void fraction; the old one says nothing of it.
        void = round(0.5 * (medium.void_low + medium.void_high), 3)
        low, high = (
            (old.bottom, old.top)
            if old is not None
            else (0.0, min(_DEEP, _SHARE_FILLED * vessel.shape.height))
        )
        return {"kind": kind, "bottom": low, "top": high, "void_fraction": void}

    return fill


FILLINGS: dict[str, tuple[str, Callable[[Any, Any], Made]]] = {
    "none": ("water alone", lambda vessel, old: None),
    **{kind: (medium.name, _filled_with(kind)) for kind, medium in MEDIA.items()},
}
