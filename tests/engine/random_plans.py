"""Plausible layouts by the thousand: a sump, a pump, a manifold, and cascades back to the sump."""

import random
from typing import Any

from bathys.plan import Plan, plan_from_data

__all__ = ["random_plan"]

_BORES = ("1/2 in", "3/4 in", "1 in", "1 1/4 in", "1 1/2 in", "2 in", "3 in")
_STANDARD = "ASTM D1785 Schedule 40"

Document = dict[str, Any]


def _bore(pick: random.Random, low: int, high: int) -> dict[str, str]:
    return {"kind": "standard", "standard": _STANDARD, "nominal": _BORES[pick.randint(low, high)]}


def _vessel(pick: random.Random, id_: str, floor: float, **more: Any) -> Document:
    shape = {
        "kind": "box",
        "length": round(pick.uniform(0.4, 2.5), 2),
        "width": round(pick.uniform(0.4, 1.3), 2),
        "height": round(pick.uniform(0.35, 0.9), 2),
    }
    return {
        "id": id_,
        "name": id_,
        "job": "sump",
        "shape": shape,
        "floor_height": round(floor, 3),
        "ports": [],
        **more,
    }


def _drain(
    pick: random.Random, plan: Document, vessel: Document, target: Document, number: str
) -> None:
    """One outlet of a random kind, and the run from it to the next vessel down."""
    tall = vessel["shape"]["height"]
    crest = round(pick.uniform(0.35, 0.8) * tall, 3)
    kind = pick.choice(("standpipe", "side", "lift", "holes", "double", "slotted"))
    start = f"O{number}.out"
    if kind == "side":
        vessel["ports"].append({"name": f"side{number}", "height": crest})
        start = f"{vessel['id']}.side{number}"
    elif kind == "lift":
        plan["outlets"].append(
            {
                "id": f"O{number}",
                "name": "lift",
                "kind": "lift",
                "stands_in": vessel["id"],
                "bore": _bore(pick, 4, 6),
                "intake_height": 0.03,
                "crest_height": crest,
            }
        )
    elif kind == "holes":
        plan["outlets"].append(
            {
                "id": f"O{number}",
                "name": "holes",
                "kind": "holes",
                "stands_in": vessel["id"],
                "height": crest,
                "diameter": 0.02,
                "count": pick.randint(2, 12),
            }
        )
    else:
        row = {
            "id": f"O{number}",
            "name": "pipe",
            "kind": "standpipe",
            "stands_in": vessel["id"],
            "bore": _bore(pick, 3, 6),
            "rim_height": crest,
        }
        if kind == "slotted":
            row |= {"holes": pick.randint(1, 6), "hole_height": 0.02, "hole_diameter": 0.006}
        plan["outlets"].append(row)
        if kind == "double":
            plan["outlets"].append(
                {**row, "id": f"E{number}", "rim_height": round(crest + 0.01, 3)}
            )
            _run(pick, plan, f"E{number}x", f"E{number}.out", target, 4)
    _run(pick, plan, number, start, target, 4)


def _run(
    pick: random.Random, plan: Document, number: str, start: str, target: Document, least: int
) -> None:
    name = f"in{len(target['ports'])}"
    low = 0.05 if pick.random() < 0.15 else target["shape"]["height"] * pick.uniform(0.8, 1.05)
    target["ports"].append({"name": name, "height": round(low, 3)})
    plan["runs"].append(
        {
            "id": f"R{number}",
            "name": number,
            "from": start,
            "to": f"{target['id']}.{name}",
            "bore": _bore(pick, least, 6),
            "level_length": round(pick.uniform(0.1, 5.0), 2),
            "fittings": [{"kind": "elbow_90", "count": pick.randint(1, 4)}],
        }
    )


def random_plan(seed: int) -> Plan:
    """A layout out of a seed; the same each time."""
    pick = random.Random(seed)
    plan: Document = {
        "format": "bathys-plan",
        "version": 1,
        "name": f"random {seed}",
        "vessels": [],
        "pumps": [],
        "runs": [],
        "outlets": [],
        "junctions": [],
    }
    sump = _vessel(pick, "S0", -0.5, water_depth=0.3)
    sump["shape"] = {"kind": "box", "length": 3.0, "width": 2.0, "height": 0.8}
    plan["vessels"].append(sump)
    branches = pick.randint(1, 5)
    plan["pumps"].append(
        {
            "id": "P1",
            "name": "pump",
            "stands_in": "S0",
            "inlet_height": 0.02,
            "power": 50.0,
            "curve": {
                "kind": "label",
                "max_flow": pick.uniform(500, 4000) * branches / 3.6e6,
                "max_head": pick.uniform(1.5, 5.0),
                "exponent": pick.uniform(1.2, 2.5),
            },
        }
    )
    place = "P1.out"
    for branch in range(branches):
        chain = [_vessel(pick, f"V{branch}n{k}", 0.0) for k in range(pick.randint(1, 4))]
        floor = pick.uniform(0.1, 0.5)
        for vessel in reversed(chain):
            vessel["floor_height"] = round(floor, 3)
            floor += pick.uniform(0.05, 0.3)
        plan["vessels"] += chain
        if branch + 1 < branches:
            joint = f"J{branch}"
            plan["junctions"].append(
                {
                    "id": joint,
                    "name": joint,
                    "height": 0.8,
                    "kind": pick.choice(("tee", "wye", "plain")),
                }
            )
            plan["runs"].append(
                {
                    "id": f"M{branch}",
                    "name": "main",
                    "from": place,
                    "to": joint,
                    "bore": _bore(pick, 2, 5),
                    "level_length": 1.0,
                }
            )
            place = joint
        _run(pick, plan, f"p{branch}", place, chain[0], 1)
        if pick.random() < 0.7:
            plan["runs"][-1]["valve"] = {"kind": "ball", "angle": pick.uniform(0.0, 70.0)}
        for k, vessel in enumerate(chain):
            target = chain[k + 1] if k + 1 < len(chain) else sump
            _drain(pick, plan, vessel, target, f"d{branch}n{k}")
    return plan_from_data(plan)
