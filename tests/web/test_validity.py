"""Trials that are read, given to all and taken back, through their page."""

import io
import json
import re
import zipfile
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from bathys.validity import TRIAL_KINDS, trial_template
from bathys_web.learn.giving import give_trials
from bathys_web.learn.models import GivenTrial
from bathys_web.plans.exporting import write_archive

pytestmark = pytest.mark.django_db

PAGE = "/learn/validity/"


def _siphon(*starts: float) -> SimpleUploadedFile:
    rows = "".join(f"25,{flow}\n" for flow in starts)
    return SimpleUploadedFile("t.csv", (trial_template("siphon") + rows).encode(), "text/csv")


def _words(answer: Any) -> str:
    return re.sub(r"\s+", " ", answer.content.decode())


@pytest.mark.parametrize("kind", TRIAL_KINDS)
def test_a_file_to_fill_in_is_one_that_can_be_read(client: Client, kind: str) -> None:
    """Its heads are those of the page; empty it holds no trial."""
    file = client.get(reverse("trial_file", args=[kind]))
    assert file["Content-Disposition"].endswith(f'{kind}-trials.csv"')
    heads = file.content.decode().strip().split(",")
    page = _words(client.get(PAGE))
    assert all(f"<code>{head}</code>" in page for head in heads)
    sent = SimpleUploadedFile("t.csv", file.content, "text/csv")
    assert client.post(PAGE, {"kind": kind, "file": sent}).status_code == 422


def test_anybody_reads_trials_and_nothing_is_kept(client: Client) -> None:
    """What cannot be is told with its row; a stranger gives nothing, whatever is sent."""
    sent = {"kind": "siphon", "file": _siphon(270.0, -5.0, 900.0), "give": "1"}
    page = _words(client.post(PAGE, sent))
    assert "1 of 2 lie where they are expected" in page
    assert "Row 3:" in page
    assert "cannot be" in page
    assert "Give these figures" not in page
    assert not GivenTrial.objects.exists()
    assert "Choose a CSV file" in _words(client.post(PAGE, {"kind": "siphon"}))
    for wrong in ({}, {"kind": "none", "file": _siphon(270.0)}):
        assert client.post(PAGE, wrong).status_code == 422
    assert client.get(reverse("trial_file", args=["none"])).status_code == 404


def test_trials_are_given_once_counted_by_person_and_taken_back(
    browser: Client, owner: Any
) -> None:
    """A second file of a kind takes the place of the first; only one's own go."""
    for count in (3, 2):
        sent = {"kind": "siphon", "file": _siphon(*[270.0] * count), "give": "1"}
        page = _words(browser.post(PAGE, sent))
        assert GivenTrial.objects.count() == count
        assert "Yours are counted in above" in page
        assert "Three people are needed" in page
    trials = [g.as_trial() for g in GivenTrial.objects.all()]
    for n in range(3):
        other = get_user_model().objects.create_user(f"o{n}", f"o{n}@bathys.example")
        give_trials(other, "siphon", [trials[0]])
    page = _words(Client().get(PAGE))
    assert "When a bell siphon starts" in page
    assert re.search(r'data-head="People">4<.*data-head="Trials">5<', page)
    assert "o1@" not in page
    file = io.BytesIO()
    write_archive(owner, file)
    with zipfile.ZipFile(file) as archive:
        kept = json.loads(archive.read("given-trials.json"))
    assert [row["kind"] for row in kept] == ["siphon"] * 2
    browser.post(PAGE, {"kind": "siphon", "act": "take_back"})
    assert GivenTrial.objects.count() == 3
    assert not GivenTrial.objects.filter(owner=owner).exists()
    assert "Take back" not in _words(browser.get(PAGE))


def test_trials_go_with_the_account(owner: Any, browser: Client) -> None:
    browser.post(PAGE, {"kind": "siphon", "file": _siphon(270.0), "give": "1"})
    owner.delete()
    assert not GivenTrial.objects.exists()
