"""The words of pages, terminal and findings: short, plain, one term for one thing."""

import ast
import re
import statistics
from collections.abc import Iterator
from pathlib import Path

import pytest

from bathys.wording.glossary import GLOSSARY, term_in

SOURCE = Path(__file__).resolve().parents[2] / "src"
LONGEST, MEDIAN = 25, 12
# Riddles, old-fashioned turns and words of our own that a reader would stop at.
BANNED = (
    r"brings?|brought|mends?|comes and goes|what comes|lets? it fail|the power (goes|went)|thus|"
    r"whence|nought|hence|lest|till|amid|whither|comes? round|anew|shelf|desk|perchance|yonder|"
    r"upon|ought|shall|henceforth|aforesaid|forthwith"
)
_TAG = re.compile(r"\{%.*?%\}|<svg.*?</svg>|<script.*?</script>|<style.*?</style>", re.S)
_SHOWN = re.compile(r'>([^<>]+)<|(?:title|placeholder|aria-label|alt)="([^"]+)"')


def _of_module(path: Path) -> Iterator[str]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    silent: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            silent.add(id(node.value))  # docstrings
        if isinstance(node, ast.JoinedStr):
            silent |= {id(value) for value in node.values}
            yield "".join(v.value if isinstance(v, ast.Constant) else "X" for v in node.values)
    for node in ast.walk(tree):
        shown = isinstance(node, ast.Constant) and id(node) not in silent
        if shown and isinstance(node.value, str) and " " in node.value.strip():
            yield node.value


def _of_template(path: Path) -> Iterator[str]:
    text = re.sub(r"\{\{.*?\}\}", "X", _TAG.sub(" ", path.read_text(encoding="utf-8")))
    if path.suffix == ".txt":  # an e-mail, or a message
        yield text
        return
    for found in _SHOWN.finditer(text):
        yield found[1] or found[2]


def _sentences() -> dict[str, list[str]]:
    """Every sentence that a user may read, by file."""
    found: dict[str, list[str]] = {}
    for path in sorted(p for kind in ("py", "html", "txt") for p in SOURCE.rglob(f"*.{kind}")):
        if "migrations" in path.parts or path.name == "glossary.py":
            continue
        texts = _of_module(path) if path.suffix == ".py" else _of_template(path)
        for text in texts:
            words = re.sub(r"\s+", " ", re.sub(r"\{[^{}]*\}", "X", text)).strip()
            if not re.search(r"<|polyline", words) and re.search(r"[a-z]{2} ", words):
                own = found.setdefault(str(path.relative_to(SOURCE)), [])
                own += [s for s in re.split(r"(?<=[.!?])\s+", words) if s]
    return found


SENTENCES = _sentences()


def _length(sentence: str) -> int:
    return len(re.findall(r"[A-Za-z0-9’'%°²³/.-]+", sentence))


@pytest.mark.parametrize("name", SENTENCES)
def test_sentences_are_short_and_plain(name: str) -> None:
    """None over 25 words, and no word that stops a reader."""
    long = [s for s in SENTENCES[name] if _length(s) > LONGEST]
    odd = [s for s in SENTENCES[name] if re.search(rf"\b({BANNED})\b", s, re.IGNORECASE)]
    assert (long, odd) == ([], [])


def test_half_of_all_sentences_have_twelve_words_at_most() -> None:
    """Of those that end with a full stop: labels are shorter anyway."""
    whole = [_length(s) for own in SENTENCES.values() for s in own if s[-1] in ".!?"]
    assert len(whole) > 400
    assert statistics.median(whole) <= MEDIAN


def test_one_term_stands_for_one_thing() -> None:
    """No other word for it anywhere, and the glossary is in order, short and free of rings."""
    for term in GLOSSARY:
        for other in term.instead_of:
            pattern = re.compile(rf"\b{other}\b", re.IGNORECASE)
            uses = [(n, s) for n, own in SENTENCES.items() for s in own if pattern.search(s)]
            assert uses == [], (term.name, other)
        assert _length(term.meaning) <= 20, term.name
        assert term.meaning.endswith("."), term.name
    names = [t.name for t in GLOSSARY]
    assert names == sorted(names)
    assert len(set(names)) == len(names)


@pytest.mark.parametrize(
    ("label", "term"),
    [
        ("Freeboard", "freeboard"),
        ("Air tube mouth", "air tube"),
        ("Check valve, spring", None),
        ("Standpipe bore", "standpipe"),
        ("Label flow", "label flow"),
        ("Name", None),
        ("Headroom", None),
    ],
)
def test_a_label_finds_its_term(label: str, term: str | None) -> None:
    """The longest there is, by whole words."""
    found = term_in(label)
    assert (found.name if found else None) == term
