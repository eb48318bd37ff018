"""Plans followed through time by a thread of their own: asked for again, given up, waited for."""

import threading
import time
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.pipeline import Assessment, Rehearsed, assess
from bathys.plan import Plan
from bathys.simulation import Abandoned
from bathys_web.plans import rehearsing
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.rehearsing import Rehearsals
from bathys_web.plans.starters import starter

HTMX = {"HX-Request": "true"}
LONG = 20.0


class _Slow:
    """In the engine’s place: goes on until it is let go or not wanted, and keeps what became."""

    def __init__(self) -> None:
        self.let_go = threading.Event()
        self.ended: list[str] = []

    def __call__(
        self, assessment: Assessment, *, is_wanted: Callable[[], bool]
    ) -> tuple[str, Assessment]:
        while not self.let_go.wait(0.01):
            if not is_wanted():
                self.ended.append("abandoned")
                raise Abandoned
        self.ended.append("done")
        return "followed", assessment


@pytest.fixture
def slow(monkeypatch: pytest.MonkeyPatch) -> Any:
    """A rehearsal that takes as long as the test wants."""
    engine = _Slow()
    monkeypatch.setattr(rehearsing, "rehearse_plan", engine)
    yield engine
    engine.let_go.set()


def _worked_out(plan: Plan) -> Assessment:
    return assess(plan)


@pytest.fixture(scope="module")
def one() -> Assessment:
    """Any plan."""
    return _worked_out(starter("stacked-pair"))


def test_an_answer_is_asked_for_until_it_is_there(slow: _Slow, one: Assessment) -> None:
    """However often, it is followed once."""
    kept = Rehearsals()
    assert kept.ask("a", one, "desk", 0.05) is None
    assert kept.ask("a", one, "desk", 0.05) is None
    slow.let_go.set()
    assert kept.ask("a", one, "desk", LONG) == ("followed", one)
    assert kept.ask("a", one, "another", 0.0) == ("followed", one)
    assert slow.ended == ["done"]


def test_what_a_desk_asked_before_is_given_up(slow: _Slow, one: Assessment) -> None:
    """Running or waiting; what is wanted again is begun anew."""
    kept = Rehearsals()
    assert kept.ask("a", one, "desk", 0.05) is None
    assert kept.ask("b", one, "desk", 0.05) is None
    assert kept.ask("c", one, "desk", 0.05) is None
    for _ in range(200):
        if slow.ended:
            break
        time.sleep(0.01)
    assert slow.ended[0] == "abandoned"
    assert kept.ask("a", one, "desk", 0.05) is None
    slow.let_go.set()
    assert kept.ask("a", one, "desk", LONG) == ("followed", one)
    assert slow.ended[-1] == "done"


def test_nobody_elses_is_given_up(slow: _Slow, one: Assessment) -> None:
    """One waits for the other."""
    kept = Rehearsals()
    assert kept.ask("a", one, "yours", 0.05) is None
    assert kept.ask("b", one, "mine", 0.05) is None
    slow.let_go.set()
    assert kept.ask("a", one, "yours", LONG) == ("followed", one)
    assert kept.ask("b", one, "mine", LONG) == ("followed", one)
    assert slow.ended == ["done", "done"]


def test_the_real_engine_stops_when_it_is_not_wanted(one: Assessment) -> None:
    """And goes on to the end when it is."""
    from bathys.pipeline import rehearse_plan

    with pytest.raises(Abandoned):
        rehearse_plan(one, is_wanted=lambda: False)
    assert isinstance(rehearse_plan(one, is_wanted=lambda: True), Rehearsed)


def test_a_page_that_cannot_wait_is_told_to_ask_again(
    browser: Client, saved: SavedPlan, slow: _Slow, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Findings, what the sumps must hold, and the beds together; each then comes by itself."""
    from bathys_web.plans import storing

    monkeypatch.setattr(storing, "_rehearsals", Rehearsals())
    settings.PATIENCE = 0.05
    late = reverse("offers", args=[saved.key, "late"])
    page = browser.get(late, headers=HTMX).content.decode()
    assert 'hx-target="closest .late"' in page
    for bench, part in (("levels", "levels-late"), ("siphon", "cycles")):
        address = reverse("bench", args=[saved.key, bench])
        page = browser.get(address, headers=HTMX).content.decode()
        assert f'hx-select="#{part}"' in page
        assert f'id="{part}"' in page
    slow.let_go.set()
