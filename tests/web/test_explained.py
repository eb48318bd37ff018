"""What can be pressed on a bench has an answer."""

import html
import re

import pytest
from django.test import Client
from django.urls import reverse

from bathys_web.plans.models import SavedPlan


@pytest.mark.parametrize("bench", ["pump", "siphon", "levels", "figures"])
def test_every_figure_that_can_be_pressed_tells_how_it_came_to_be(
    browser: Client, saved: SavedPlan, bench: str
) -> None:
    """Each with its value as the bench shows it, how it was made and where that comes from."""
    page = browser.get(reverse("bench", args=[saved.key, bench]), headers={"HX-Request": "true"})
    told = re.findall(
        r'hx-get="([^"]+explained[^"]+)"[^>]*>([^<]+)</button>', page.content.decode()
    )
    assert len(told) > 3
    for address, words in told:
        answer = browser.get(html.unescape(address), headers={"HX-Request": "true"})
        assert answer.status_code == 200, address
        explained = html.unescape(answer.content.decode())
        assert html.unescape(words) in explained, address
        for term in ("How", "Source"):
            assert f"<dt>{term}</dt>" in explained, address
