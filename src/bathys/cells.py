"""Cells of files that spreadsheets open."""

__all__ = ["harmless"]

_MARKED = ("=", "+", "-", "@", "\t", "\r", "'")


def harmless(text: str) -> str:
    """Words that no spreadsheet takes for a formula.

    Parameters
    ----------
    text : str
        The words

    Returns
    -------
    str
        With a mark before them where they would be one, or begin with that mark
    """
    return f"'{text}" if text.startswith(_MARKED) else text
