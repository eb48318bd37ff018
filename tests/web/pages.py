"""What a test reads off a page."""

import html
import re

__all__ = ["offer_after"]


def offer_after(page: str, words: str) -> str:
    """The offer whose button comes first after some words of a page."""
    _, found, rest = html.unescape(page).partition(words)
    assert found, words
    offer = re.search(r'name="offer" value="([^"]+)"', rest)
    assert offer is not None, rest[:300]
    return offer[1]
