"""What users type is data: it comes out of every sentence as it went in, and fills no slot."""

import ast
import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.commands import balance, check, resilience, size
from bathys.pipeline import Assessment, assess, assess_dynamic
from bathys.plan import GROUPS, Plan, plan_from_data
from bathys.rules import Finding
from bathys.units import fill_sentence
from tests.plan_files import lists_of

PLANS = sorted([*Path("examples").glob("*.json"), *Path("examples/faults").glob("*.json")])
SPEAKING = [
    *Path("src/bathys/rules").glob("*.py"),
    *(Path("src/bathys/sizing") / f"{n}.py" for n in ("gains", "balancing")),
]
WORDS = [
    "{a:b}",
    "{P1:words}",
    "{flow:flow}",
    "{0}",
    "{{x}}",
    "{",
    "}",
    "100 %",
    "%s %(a)d %",
    "<b>bold</b>",
    "&amp;",
    "{% now %}",
    "{{ 1 }}",
    "\u202egnp.exe",
    "a\u200bb",
    "Bücher ²",
    "\\1",
    "\\g<0>",
    "${x}",
    "'; --",
    "🐟",
    "{name}",
    "{bed}",
    "{ways}",
    "İ",
]
NASTY = st.sampled_from(WORDS)


def _renamed(path: Path, word: str) -> Plan:
    """A plan in which everything that can be typed holds a word."""
    data: dict[str, Any] = lists_of(path)
    data["name"] = word
    data["site"] = {**data.get("site", {}), "currency": word[:6]}
    for group in GROUPS:
        for part in data.get(group, []):
            part["name"] = f"{part['id']} {word}"
    for one in [v for group in GROUPS for v in data.get(group, [])]:
        if "purpose" in one:
            one["purpose"] = word
    return plan_from_data(data)


def _sentences(found: Assessment, findings: tuple[Finding, ...]) -> list[str]:
    names = found.evaluation.plan.names
    said = [
        fill_sentence(w, f.figures, units, names)
        for f in findings
        for w in (f.sentence, f.hint)
        for units in ("metric", "us")
    ]
    return said + [
        fill_sentence(o.label, o.figures, "metric", names)
        for f in findings
        for o in f.list_offers()
    ]


def _each_word_and_each_plan() -> list[tuple[Path, str]]:
    """Every word and every plan at least once."""
    count = max(len(PLANS), len(WORDS))
    return [(PLANS[n % len(PLANS)], WORDS[n % len(WORDS)]) for n in range(count)]


@pytest.mark.parametrize(("path", "word"), _each_word_and_each_plan())
def test_a_name_comes_out_as_it_went_in(path: Path, word: str) -> None:
    """Whatever it holds: sentences are the same but for the names."""
    plain, nasty = _renamed(path, "Word"), _renamed(path, word)
    one, two = assess(plain), assess(nasty)
    for before, after in zip(
        _sentences(one, one.findings), _sentences(two, two.findings), strict=True
    ):
        assert _without(after, nasty) == _without(before, plain)
    for name in (check, balance):
        assert name.as_text(two, "us")
        json.dumps(name.as_data(two))
    assert "{flow:flow}" not in size.valves_text(two.evaluation, "metric").replace(word, "")


def _without(sentence: str, plan: Plan) -> str:
    """A sentence with the parts' ids for their names."""
    for id_, name in sorted(plan.names.items(), key=lambda n: -len(n[1])):
        sentence = sentence.replace(name, id_).replace(name[:1].lower() + name[1:], id_)
        sentence = sentence.replace(name[:1].upper() + name[1:], id_)
    return sentence.replace(plan.site.currency, "¤")


@settings(max_examples=8)
@given(
    st.sampled_from([p for p in PLANS if p.stem in ("bench-top", "two-beds", "dry-start")]), NASTY
)
def test_a_name_comes_out_of_what_time_tells_as_it_went_in(path: Path, word: str) -> None:
    one, two = (assess_dynamic(assess(_renamed(path, w))) for w in ("Word", word))
    plans = [found.assessment.evaluation.plan for found in (one, two)]
    said = [_sentences(found.assessment, found.findings) for found in (one, two)]
    assert said[0]
    assert [_without(s, plans[0]) for s in said[0]] == [_without(s, plans[1]) for s in said[1]]
    assert word in resilience.as_text(two, "metric")


@pytest.mark.parametrize("path", SPEAKING, ids=lambda p: f"{p.parent.name}/{p.name}")
def test_no_sentence_with_slots_is_built_of_typed_words(path: Path) -> None:
    """They go in by ``named``, or as a figure of the kind ``words``."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.JoinedStr):
            for part in ast.walk(node):
                typed = isinstance(part, ast.Attribute) and part.attr in ("name", "currency")
                assert not typed or ast.unparse(part) == "port.name", ast.unparse(node)
