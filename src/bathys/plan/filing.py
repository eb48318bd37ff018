"""A plan as its file has it: one list of parts told apart by their kind; older files upgraded."""

from functools import cache
from typing import Any, get_args

from bathys.kinds import model_named
from bathys.plan.base import LONGEST_TYPED, Headed, Part
from bathys.plan.checks import PlanFault
from bathys.plan.model import GROUPS, Brief, Plan
from bathys.plan.pumps import Pump
from bathys.plan.site import Site

__all__ = ["VERSION", "file_schema", "from_file", "to_file"]

VERSION = 4
"""Version of the files that are written."""

_OLDEST = 1


def _models_within(annotation: Any) -> list[type[Part]]:
    if isinstance(annotation, type) and issubclass(annotation, Part):
        return [annotation]
    return [m for inner in get_args(annotation) for m in _models_within(inner)]


@cache
def _lists() -> dict[str, str]:
    """By kind, the list that a plan keeps it in."""
    return {
        kind: group
        for group in GROUPS
        for model in _models_within(Plan.model_fields[group].annotation)
        for kind in get_args(model.model_fields["kind"].annotation)
    }


def from_file(data: Any) -> Any:
    """What a plan file of any version says, with its parts in one list for each kind of job.

    Parameters
    ----------
    data : object
        What ``json.loads`` gave, or a plan dumped

    Returns
    -------
    object
        The same as :class:`~bathys.plan.model.Plan` takes it; what is no plan at all comes back as
        it is

    Raises
    ------
    PlanFault
        If a part has no kind that is known, or no id
    """
    if not isinstance(data, dict):
        return data
    version = data.get("version", _OLDEST)
    is_older = isinstance(version, int) and _OLDEST <= version < VERSION
    if "parts" not in data:
        return _upgraded(data, version) if is_older else data
    for group in GROUPS:
        if group in data:
            raise PlanFault(group, "this field is not part of a plan: its parts stand in “parts”")
    if not isinstance(data["parts"], list):
        raise PlanFault("parts", "it must be a list")
    lists: dict[str, list[Any]] = {}
    for number, part in enumerate(data["parts"]):
        group, own = _sorted(part, f"parts.{number}")
        lists.setdefault(group, []).append(own)
    own = {k: v for k, v in data.items() if k != "parts"}
    for name in _OWN_TYPED:
        if isinstance(own.get(name), dict):
            own[name] = _with_typed_listed(own[name])
    whole = {**own, **lists}
    return _upgraded(whole, version) if is_older else whole


def _upgraded(data: dict[str, Any], version: int) -> dict[str, Any]:
    """A plan of an older version, its parts in their lists, as the present one has it."""
    lists = {
        group: [_of_version(group, part, version) for part in data[group]]
        for group in GROUPS
        if isinstance(data.get(group), list)
    }
    whole = {**data, **lists, "version": VERSION}
    return whole if version >= _FOAM_MOVED else _with_foam_on_runs(whole)


_FOAM_MOVED = 4
_FOAMS = {"coarse": 2e-4, "fine": 8e-5}  # thickness of a strand, by what older files call it [m]


def _with_foam_on_runs(data: dict[str, Any]) -> dict[str, Any]:
    """Up to version 3 a pump had foam about its intake; now it is a filter on the pump's run."""
    foams: dict[str, float] = {}
    pumps = data.get("pumps")
    for pump in pumps if isinstance(pumps, list) else ():
        foam = pump.pop("foam", None) if isinstance(pump, dict) else None
        if foam in _FOAMS:
            foams[f"{pump.get('id')}.{Pump.END}"] = _FOAMS[foam]
    runs = data.get("runs")
    for run in runs if isinstance(runs, list) else ():
        begins = run.get("from") if isinstance(run, dict) else None
        if isinstance(begins, str) and begins in foams and run.get("filter") is None:
            usual = model_named("filters", "foam").usual(0.0)
            run["filter"] = {"kind": "foam", **usual, "fibre": foams[begins]}
    return data


def _of_version(group: str, part: Any, version: int) -> Any:
    if not isinstance(part, dict):
        return part
    models = _models_within(Plan.model_fields[group].annotation)
    kind = part.get("kind")
    model = next(
        (m for m in models if kind in get_args(m.model_fields["kind"].annotation)), models[0]
    )
    return model.of_version(dict(part), version) if issubclass(model, Headed) else part


def _sorted(part: Any, path: str) -> tuple[str, dict[str, Any]]:
    """The list of a part, and the part as it stands there."""
    if not isinstance(part, dict):
        raise PlanFault(path, "it must be a part with fields of its own")
    kind, known = part.get("kind"), _lists()
    if not isinstance(kind, str) or kind not in known:
        raise PlanFault(f"{path}.kind", f"its kind must be one of {', '.join(known)}")
    if not isinstance(part.get("id"), str):
        raise PlanFault(f"{path}.id", "a part must have an id, such as B1")
    own = dict(part)
    return known[kind], _with_typed_listed(own)


def _with_typed_listed(own: dict[str, Any]) -> dict[str, Any]:
    """What was typed as a list, in place of the file's object by field."""
    if not isinstance(own.get("typed"), dict):
        return own
    rows = [{"field": field, "text": text} for field, text in own["typed"].items()]
    return {**own, "typed": rows}


_OWN_TYPED = ("brief", "site")
"""Fields of the plan's own that remember what was typed, as parts do."""

_TYPED = {
    "type": "object",
    "additionalProperties": {"type": "string", "maxLength": LONGEST_TYPED},
    "description": "What was typed, by field.",
}


def to_file(plan: Plan) -> dict[str, Any]:
    """A plan as plain data for its file.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict
        Its own fields, then ``parts``: each with its kind first
    """
    data = plan.model_dump(mode="json", by_alias=True, exclude_none=True)
    parts = [_filed(part) for group in GROUPS for part in data.pop(group)]
    for name in _OWN_TYPED:
        if data[name].get("typed"):
            data[name]["typed"] = {t["field"]: t["text"] for t in data[name]["typed"]}
        else:
            data[name].pop("typed", None)
    return {**data, "parts": parts}


def _filed(part: dict[str, Any]) -> dict[str, Any]:
    """A part with its kind first; a note that is empty, and texts that nobody typed, left out."""
    head = {"kind": part.pop("kind"), "id": part.pop("id")}
    note, typed = part.pop("note"), {t["field"]: t["text"] for t in part.pop("typed")}
    extra = {"note": note} if note else {}
    return {**head, **part, **extra, **({"typed": typed} if typed else {})}


def file_schema() -> dict[str, Any]:
    """JSON Schema of a plan file of the present version.

    Returns
    -------
    dict of str to object
        The schema, as JSON data
    """
    schema = Plan.model_json_schema(by_alias=True)
    fields, models = schema["properties"], schema["$defs"]
    kinds: list[dict[str, Any]] = []
    for group in GROUPS:
        items = fields.pop(group)["items"]
        kinds += items.get("oneOf", items.get("anyOf", [items]))
        for model in _models_within(Plan.model_fields[group].annotation):
            own = models[model.__name__]
            own["required"] = ["kind", *(f for f in own.get("required", []) if f != "kind")]
            own["properties"]["typed"] = _TYPED
    for model in (Site, Brief):
        models[model.__name__]["properties"]["typed"] = _TYPED
    fields["parts"] = {"type": "array", "title": "Parts", "items": {"anyOf": kinds}}
    schema["required"] = [*(f for f in schema["required"] if f not in GROUPS), "parts"]
    return schema
