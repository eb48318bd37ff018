"""What people, and those who mean ill, type into boxes."""

import random
from collections.abc import Iterator
from typing import Any

from bathys.plan import Plan
from bathys_web.plans.inspector import rows_of, site_rows

__all__ = ["NASTY", "asked_values", "box_values"]

NASTY = (
    "",
    " ",
    "0",
    "-1",
    "1e999",
    "-1e999",
    "1e-999",
    "nan",
    "inf",
    "-inf",
    "1_000",
    "0x10",
    "1,2,3",
    "1.200,5",
    "½",
    "²",
    "5²",
    "٣",
    "１２",
    "1 m 2 ft",
    "6 ft 3 1/2 in",
    "{a:b}",
    "{P1:words}",
    "{{ 1 }}",
    "{% now 'Y' %}",
    "%s%n%(a)s",
    "<script>alert(1)</script>",
    "&lt;",
    "' OR 1=1; --",
    "\x00",
    "a\x00b",
    "\ud7ff",
    "\u202egnp",
    "\u200b",
    "🐟" * 30,
    "🐟 m",
    "é" * 5000,
    "9" * 400,
    "x" * 1_000_000,
    "2026-11-28",
    "31/12/2026",
    "25:61",
    "24:00",
    "-3:10",
    "1e5 kWh",
    "true",
    "null",
    "[]",
    '{"a": 1}',
    "../../etc/passwd",
    "B1",
    "J1",
    "P1.out",
    "\r\n\t",
    "NaN m",
    "∞",
    "1000000000 m",
    "0.0000000001 mm",
    "1 L/h",
    "1 gal/min",
    "90°",
    "101 %",
    "-0",
    "+5",
    "5.",
    ".5",
)

_FIELDS = (
    "part",
    "rule",
    "place",
    "index",
    "siphon",
    "pump",
    "run",
    "mode",
    "verb",
    "target",
    "kind",
    "end",
    "steps",
    "hours",
    "cut",
    "lasts",
    "event",
    "step",
    "trial",
    "offer",
    "figure",
    "one",
    "two",
    "page",
    "number",
    "units",
    "back",
    "standard",
    "nominal",
    "typed",
    "fall",
    "slid",
    "exact",
    "elbows",
    "size",
    "base",
    "query",
    "name",
    "max_flow",
    "max_head",
    "power",
    "exponent",
    "layout",
    "feed",
    "drain",
    "container",
    "key",
    "login",
    "password",
    "email",
    "password1",
    "to",
    "from",
    "bore",
)


def box_values(plan: Plan, count: int, seed: int) -> Iterator[tuple[str, str, str]]:
    """Boxes of the inspector, each with something typed: the part, the path and the text; every box
    and every value come up before any comes again."""
    chance = random.Random(seed)
    boxes = [("site", row.path) for row in site_rows(plan, "metric")]
    for id_ in plan.names:
        way = f"{plan.group_of(id_)}.{id_}"
        boxes += [(id_, row.path) for row in rows_of(plan, plan.part(id_), way, "metric")]
    chance.shuffle(boxes)
    values = list(NASTY)
    for number in range(count):
        if number % len(values) == 0:
            chance.shuffle(values)
        part, path = boxes[number % len(boxes)]
        yield part, path, values[number % len(values)]


def asked_values(count: int, seed: int) -> Iterator[dict[str, Any]]:
    """Fields of every other form and address, a few at a time."""
    chance = random.Random(seed)
    for _ in range(count):
        names = chance.sample(_FIELDS, chance.randint(1, 8))
        yield {name: chance.choice(NASTY[:-1] if name != "name" else NASTY) for name in names}
