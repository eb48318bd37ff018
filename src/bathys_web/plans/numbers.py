"""Whole numbers from forms and addresses."""

__all__ = ["whole_number"]

_MOST_DIGITS = 9


def whole_number(text: str | None) -> int:
    """A number typed or posted, -1 for anything else.

    ``str.isdigit`` takes a superscript two for a digit and ``int`` does not: this is asked instead.

    Parameters
    ----------
    text : str or None
        What was typed or posted

    Returns
    -------
    int
        The number
    """
    return int(text) if text and text.isdecimal() and len(text) <= _MOST_DIGITS else -1
