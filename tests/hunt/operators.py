"""Random edits of plans, made from every field of the plan's schema.

An edit takes a plan's document and changes one place in it: a number by a factor or to a bound, a
choice to another, a part doubled, taken away or traded for another kind, a link led elsewhere. What
is possible is read off the JSON schema, so that a new field is hunted through without a line here.
"""

import copy
import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from bathys.parts.bores import pipe_sizes, standards
from bathys.plan import Plan

__all__ = ["Spot", "mutate", "spots_of"]

Document = dict[str, Any]
Node = dict[str, Any]

_SCHEMA = Plan.model_json_schema(by_alias=True)
_LEFT_ALONE = {
    "format",
    "version",
    "id",
    "name",
    "note",
    "typed",
    "along",
    "datum",
    "purpose",
    "currency",
    "units",
    # Nothing that flows comes of these.
    "ground",
    "spot",
    "route",
    "start_hole",
    "end_hole",
    "cover",
    "stage",
    "blocks",
    "budget",
}
_VESSEL_LINKS = {"stands_in", "source", "target", "within"}
_GROUPS = ("vessels", "pumps", "runs", "siphons", "outlets", "junctions", "top_ups", "transfers")


@dataclass(frozen=True)
class Spot:
    """A place in a document that may be changed.

    Attributes
    ----------
    path : tuple
        Keys and places from the top
    node : dict
        Its schema
    """

    path: tuple[str | int, ...]
    node: Node

    @property
    def name(self) -> str:
        """Its last key that is no number."""
        return next((str(s) for s in reversed(self.path) if isinstance(s, str)), "")


def _resolved(node: Node) -> Node:
    if "$ref" not in node:
        return node
    while "$ref" in node:
        node = {
            **_SCHEMA["$defs"][node["$ref"].rsplit("/", 1)[1]],
            **{k: v for k, v in node.items() if k != "$ref"},
        }
    return node


def _choices(node: Node) -> list[Node]:
    """The schemas a value may follow, none of them a choice itself."""
    node = _resolved(node)
    inner = node.get("anyOf") or node.get("oneOf")
    return [c for n in inner for c in _choices(n)] if inner else [node]


def _is_of(value: Any, node: Node) -> bool:
    """Whether a value is of the kind that a schema without choices describes."""
    kind = node.get("type")
    if kind == "object":
        named = node.get("properties", {}).get("kind", {}).get("const")
        return isinstance(value, dict) and (named is None or value.get("kind", named) == named)
    types = {"array": list, "string": str, "boolean": bool, "null": type(None)}
    if kind in types:
        return isinstance(value, types[kind])
    return isinstance(value, int | float) and not isinstance(value, bool)


def spots_of(document: Document) -> list[Spot]:
    """Every place of a plan's document that an edit may change."""
    return list(_walk(document, _SCHEMA, ()))


def _walk(value: Any, node: Node, path: tuple[str | int, ...]) -> Iterator[Spot]:
    spot = Spot(path, node)
    if spot.name in _LEFT_ALONE:
        return
    if path:
        yield spot
    own = next((c for c in _choices(node) if _is_of(value, c)), None)
    if own is None:
        return
    if isinstance(value, dict) and "standard" not in value:
        for key, inner in own.get("properties", {}).items():
            if key != "kind":
                yield from _walk(value.get(key), inner, (*path, key))
    elif isinstance(value, list):
        for i, item in enumerate(value):
            yield from _walk(item, own["items"], (*path, i))


def mutate(document: Document, pick: random.Random) -> tuple[Document, str]:
    """A document with one place changed, and what was changed, in words."""
    changed = copy.deepcopy(document)
    spots = spots_of(changed)
    # One name is as likely as another: forty runs do not outweigh a pump.
    name = pick.choice(sorted({s.name for s in spots}))
    spot = pick.choice([s for s in spots if s.name == name])
    here: Any = changed
    for step in spot.path[:-1]:
        here = here[step]
    last = spot.path[-1]
    before = here.get(last) if isinstance(here, dict) else here[last]
    here[last] = _other(before, spot, changed, pick)
    _tidy(changed)
    return changed, f"{'.'.join(map(str, spot.path))}: {before!r} -> {here[last]!r}"[:300]


def _other(before: Any, spot: Spot, document: Document, pick: random.Random) -> Any:
    """Another value for a place."""
    choices = _choices(spot.node)
    if isinstance(before, list):
        return _other_list(before, choices[0], document, pick, spot.name)
    if spot.name in _VESSEL_LINKS:
        return pick.choice([v["id"] for v in document["vessels"]])
    if spot.name in ("from", "to"):
        return pick.choice(_places(document, spot.name))
    if isinstance(before, bool):
        return not before
    own = next((c for c in choices if _is_of(before, c)), choices[0])
    if isinstance(before, int | float):
        if len(choices) > 1 and pick.random() < 0.1:
            return None
        return _other_number(before, own, pick)
    return _invent(pick.choice(choices), document, pick, spot.name)


def _other_number(before: float, node: Node, pick: random.Random) -> Any:
    low, high = _bounds(node)
    way = pick.random()
    if way < 0.75:
        value = before * 2.0 ** pick.gauss(0.0, 1.0) if before else _draw(low, high, pick)
    elif way < 0.9:
        value = before * pick.choice((0.1, 10.0))
    else:
        value = pick.choice((low, min(high, 100.0 * max(abs(before), 1e-3))))
    value = min(max(value, low), high)
    return max(round(value), int(low)) if node.get("type") == "integer" else round(value, 9)


def _bounds(node: Node) -> tuple[float, float]:
    low = node.get("minimum", node.get("exclusiveMinimum", -1e-6) + 1e-6)
    high = node.get("maximum", node.get("exclusiveMaximum", 1e3) - 1e-6)
    return float(low), float(high)


def _draw(low: float, high: float, pick: random.Random) -> float:
    """A number between bounds, small ones as likely as great ones."""
    if low >= 0.0:
        return float(max(low, 1e-4) * (high / max(low, 1e-4)) ** (pick.random() * 0.6))
    return pick.uniform(-1.0, 1.0) * min(abs(low), high, 2.0)


def _other_list(
    before: list[Any], node: Node, document: Document, pick: random.Random, name: str
) -> list[Any]:
    rows = list(before)
    way = pick.random()
    if rows and way < 0.4:
        del rows[pick.randrange(len(rows))]
    elif rows and way < 0.7:
        twin = copy.deepcopy(pick.choice(rows))
        if isinstance(twin, dict) and "id" in twin:
            twin["id"] = _free(document, twin["id"][0])
        rows.insert(pick.randrange(len(rows) + 1), twin)
    elif node.get("items"):
        rows.append(_invent(pick.choice(_choices(node["items"])), document, pick, name))
    return rows


def _free(document: Document, letter: str) -> str:
    taken = {p["id"] for g in _GROUPS for p in document.get(g, [])}
    return next(f"{letter}{n}" for n in range(900, 2000) if f"{letter}{n}" not in taken)


def _places(document: Document, name: str) -> list[str]:
    places = [f"{v['id']}.{p['name']}" for v in document["vessels"] for p in v.get("ports", [])]
    places += [j["id"] for j in document.get("junctions", [])]
    if name == "from":
        places += [f"{p['id']}.out" for g in ("pumps", "outlets") for p in document.get(g, [])]
        places += [f"{s['id']}.tail" for s in document.get("siphons", [])]
    return places


def _invent(node: Node, document: Document, pick: random.Random, name: str) -> Any:
    """A value that follows a schema."""
    node = pick.choice(_choices(node))
    if "const" in node:
        return node["const"]
    if "enum" in node:
        return pick.choice(node["enum"])
    kind = node.get("type")
    if kind == "null":
        return None
    if kind == "boolean":
        return pick.random() < 0.5
    if kind in ("number", "integer"):
        value = _draw(*_bounds(node), pick)
        return max(round(value), int(_bounds(node)[0])) if kind == "integer" else round(value, 6)
    if kind == "array":
        count = pick.randint(node.get("minItems", 0), node.get("minItems", 0) + 2)
        return [_invent(node["items"], document, pick, name) for _ in range(count)]
    if kind == "object":
        properties = node["properties"]
        if "standard" in properties:
            size = pick.choice(pipe_sizes(pick.choice(standards())))
            return {"kind": "standard", "standard": size.standard, "nominal": size.nominal}
        must = set(node.get("required", ()))
        return {
            key: _invent(inner, document, pick, key)
            for key, inner in properties.items()
            if key in must or key == "kind" or pick.random() < 0.2
        }
    if name in _VESSEL_LINKS:
        return pick.choice([v["id"] for v in document["vessels"]])
    if name in ("from", "to"):
        return pick.choice(_places(document, name))
    if name == "id":
        return _free(document, "Z")
    return "word" if name != "straight" else None


def _tidy(document: Document) -> None:
    """Take away what no longer leads anywhere, as taking a part away on the page does."""
    ends = set(_places(document, "to"))
    starts = set(_places(document, "from"))
    vessels = {v["id"] for v in document["vessels"]}
    for group in ("pumps", "siphons", "outlets", "top_ups"):
        document[group] = [p for p in document.get(group, []) if p["stands_in"] in vessels]
    document["transfers"] = [
        t
        for t in document.get("transfers", [])
        if {t.get("source"), t.get("target")} <= {None, *vessels}
    ]
    runs, taken = [], set()
    for run in document.get("runs", []):
        if run["from"] in starts and run["to"] in ends and run["from"] not in taken:
            runs.append(run)
            if run["from"] not in {j["id"] for j in document.get("junctions", [])}:
                taken.add(run["from"])
    document["runs"] = runs
    kept = {r["id"] for r in runs}
    for junction in document.get("junctions", []):
        if junction.get("straight") not in kept:
            junction["straight"] = None
