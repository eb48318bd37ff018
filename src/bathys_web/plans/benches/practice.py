"""The practice bench: what schools do differently, side by side, and what this plan does."""

from typing import Any

from bathys.parts.practice import PRACTICES
from bathys.wording.practice import done_in
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]


def _page(ask: BenchRequest) -> dict[str, Any]:
    done = done_in(ask.found.evaluation)
    rows = []
    for key, practice in PRACTICES.items():
        chosen = getattr(ask.plan.brief, key)
        rows.append(
            {
                "title": practice.title,
                "key": key,
                "done": done.get(key, ""),
                "ways": [
                    {"key": way, "way": words, "is_chosen": way == chosen}
                    for way, words in practice.ways.items()
                ],
            }
        )
    return {"rows": rows}


BENCH = Bench("practice", "Schools", "Where builders differ, side by side", _page)
