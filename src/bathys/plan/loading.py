"""Plan files in and out. A bad file is refused with the path of each fault and a sentence."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, get_args

from pydantic import TypeAdapter, ValidationError

from bathys.plan.base import Part
from bathys.plan.checks import PlanFault, check_plan
from bathys.plan.filing import file_schema, from_file, to_file
from bathys.plan.model import GROUPS, Plan

__all__ = [
    "LARGEST_FILE",
    "BadPlan",
    "Fault",
    "dump_plan",
    "load_plan",
    "plan_from_data",
    "plan_with_changes",
    "schema",
]

LARGEST_FILE = 2_000_000
"""Largest plan file read [bytes]; a thousand runs take about half of it."""

_MOST_FAULTS = 20


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing wrong with a document.

    Attributes
    ----------
    path : str
        Where, such as ``vessels.B1.shape.length``
    sentence : str
        What, for the builder
    bound : (str, float, float), optional
        Of a number out of its bounds: which bound, its value and the number, in SI
    """

    path: str
    sentence: str
    bound: tuple[str, float, float] | None = None


class BadPlan(ValueError):
    """A document that is no plan.

    Attributes
    ----------
    faults : list of Fault
        What is wrong, at most twenty
    """

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("; ".join(f"{f.path}: {f.sentence}" for f in faults))
        self.faults = faults


_BOUNDS = {
    "greater_than": ("gt", "more than"),
    "greater_than_equal": ("ge", "at least"),
    "less_than": ("lt", "less than"),
    "less_than_equal": ("le", "at most"),
}


def _bound(error: Any) -> tuple[str, float, float] | None:
    if error["type"] not in _BOUNDS:
        return None
    key, words = _BOUNDS[error["type"]]
    return words, error["ctx"][key], error["input"]


_PLAIN = {
    "extra_forbidden": "This field is not part of a plan.",
    "missing": "This field is missing.",
    "finite_number": "It must be an ordinary number.",
    "float_type": "It must be a number.",
    "float_parsing": "It must be a number.",
    "int_type": "It must be a whole number.",
    "int_parsing": "It must be a whole number.",
    "int_from_float": "It must be a whole number.",
    "int_parsing_size": "It is too large.",
    "bool_type": "It must be true or false.",
    "bool_parsing": "It must be true or false.",
    "string_type": "It must be text.",
    "string_unicode": "It holds a letter that cannot be kept; type it again.",
    "tuple_type": "It must be a list.",
    "list_type": "It must be a list.",
    "model_type": "It must be a part with fields of its own.",
    "model_attributes_type": "It must be a part with fields of its own.",
    "dict_type": "It must be a part with fields of its own.",
    "none_required": "It must be left out.",
}
"""What is wrong, by the kind of fault, where no figure belongs to it."""


def _sentence(error: Any) -> str:
    """What is wrong, in a sentence of ours: a library's own words never reach a builder."""
    kind, limits = error["type"], error.get("ctx", {})
    if kind in _PLAIN:
        return _PLAIN[kind]
    bound = _bound(error)
    if bound is not None:
        words, limit, given = bound
        return f"It must be {words} {limit:g}, and is {given:g}."
    if kind in ("too_short", "too_long"):
        short = kind == "too_short"
        most = limits["min_length" if short else "max_length"]
        word = "at least" if short else "at most"
        return f"It must hold {word} {most}; it holds {limits['actual_length']}."
    if kind == "string_too_short":
        return "It must not be empty."
    if kind == "string_too_long":
        return f"It must have at most {limits['max_length']} letters."
    if kind == "string_pattern_mismatch":
        return _named_wrongly(limits["pattern"])
    if kind == "literal_error":
        return f"It must be one of {limits['expected']}."
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        expected = limits.get("expected_tags", "")
        return f"Its kind must be one of {expected}." if expected else "It must say its kind."
    if kind == "value_error":
        return _as_sentence(str(error["msg"]).removeprefix("Value error, "))
    return "It cannot be read as this field."


def _as_sentence(words: str) -> str:
    return words[:1].upper() + words[1:].rstrip(".") + "."


def _named_wrongly(pattern: str) -> str:
    if pattern.startswith("^[A-Z]"):
        return "It must be a short id: a capital letter, then letters or figures, such as B1."
    return "It must be a short name: small letters, figures and underscores, such as inlet_1."


def _path(location: tuple[Any, ...], document: Any) -> str:
    words: list[str] = []
    here, tagged = document, None
    for step in location:
        # pydantic names the kind chosen of a shape, a bore or a curve; a builder's path does not.
        if isinstance(here, dict) and here is not tagged and here.get("kind") == step:
            tagged = here
            continue
        try:
            here = here[step]
        except (KeyError, IndexError, TypeError):
            here = None
        own = here if isinstance(here, dict) else {}
        name = own.get("id", own.get("name", own.get("kind")))
        words.append(name if isinstance(step, int) and isinstance(name, str) else str(step))
    return ".".join(words) or "plan"


def faults_of(error: ValidationError, document: Any, within: tuple[Any, ...] = ()) -> list[Fault]:
    """What is wrong with a document, in sentences of ours.

    Parameters
    ----------
    error : ValidationError
        What reading it raised
    document : object
        The document as plain data
    within : tuple
        Where in it the reading began

    Returns
    -------
    list of Fault
        At most twenty
    """
    faults = []
    for row in error.errors(include_url=False)[:_MOST_FAULTS]:
        path = _path((*within, *row["loc"]), document)
        faults.append(Fault(path, _sentence(row), _bound(row)))
    return faults


def plan_from_data(data: Any) -> Plan:
    """A plan from parsed JSON.

    Parameters
    ----------
    data : object
        What ``json.loads`` gave of a file of any version, or a plan dumped

    Returns
    -------
    Plan
        The plan

    Raises
    ------
    BadPlan
        With the path and a sentence for each fault
    """
    try:
        data = from_file(data)
        # Through JSON, so that lists become tuples while strings stay refused as numbers.
        plan = Plan.model_validate_json(json.dumps(data))
        check_plan(plan)
    except ValidationError as error:
        raise BadPlan(faults_of(error, data)) from None
    except PlanFault as fault:
        raise BadPlan([Fault(fault.path, _as_sentence(fault.sentence))]) from None
    return plan


@cache
def _reader_of_parts(group: str) -> TypeAdapter[Part]:
    """What reads one part of a list."""
    return TypeAdapter(get_args(Plan.model_fields[group].annotation)[0])


@cache
def _reader_of_field(name: str) -> TypeAdapter[Any]:
    """What reads a field of the plan's own."""
    return TypeAdapter(Plan.__annotations__[name])


def _read(reader: TypeAdapter[Any], value: Any, document: Any, within: tuple[Any, ...]) -> Any:
    try:
        return reader.validate_json(json.dumps(value))
    except ValidationError as error:
        raise BadPlan(faults_of(error, document, within)) from None


def plan_with_changes(plan: Plan, document: Mapping[str, Any]) -> Plan:
    """A plan of which some parts are others now. Only those are read: the rest are the very same
    objects, so that what is known of them need not be worked out again.

    Parameters
    ----------
    plan : Plan
        The plan before
    document : mapping
        Each field of the plan as it stands, or as plain data where it changes; a list of parts
        holds parts as they stand and plain data of those that change or are new

    Returns
    -------
    Plan
        The plan after

    Raises
    ------
    BadPlan
        With the path and a sentence for each fault
    """
    fields: dict[str, Any] = {}
    for name, value in document.items():
        if name in GROUPS:
            reader = _reader_of_parts(name)
            fields[name] = tuple(
                part if isinstance(part, Part) else _read(reader, part, document, (name, number))
                for number, part in enumerate(value)
            )
        elif value is getattr(plan, name):
            fields[name] = value
        else:
            fields[name] = _read(_reader_of_field(name), value, document, (name,))
    try:
        after = Plan.model_validate(fields)
        check_plan(after)
    except ValidationError as error:
        raise BadPlan(faults_of(error, document)) from None
    except PlanFault as fault:
        raise BadPlan([Fault(fault.path, _as_sentence(fault.sentence))]) from None
    return after


def _refuse_constant(word: str) -> Any:
    raise BadPlan([Fault("plan", f"{word} is not a number a plan can hold.")])


def load_plan(text: str | bytes) -> Plan:
    """A plan from a plan file.

    Parameters
    ----------
    text : str or bytes
        The file's content

    Returns
    -------
    Plan
        The plan

    Raises
    ------
    BadPlan
        If the file is too large, is no JSON, or is no plan
    """
    if len(text) > LARGEST_FILE:
        raise BadPlan([Fault("plan", "This file is larger than any plan (2 MB).")])
    try:
        data = json.loads(text, parse_constant=_refuse_constant)
    except UnicodeDecodeError:
        raise BadPlan([Fault("plan", "This file is not text.")]) from None
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise BadPlan([Fault("plan", f"This is not JSON: {error.msg} at {where}.")]) from None
    except (RecursionError, ValueError) as error:
        if isinstance(error, BadPlan):
            raise
        raise BadPlan([Fault("plan", "This file cannot be read as JSON.")]) from None
    return plan_from_data(data)


def dump_plan(plan: Plan) -> str:
    """The plan as the text of a plan file.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    str
        JSON
    """
    return json.dumps(to_file(plan), indent=2, ensure_ascii=False) + "\n"


def schema() -> dict[str, Any]:
    """JSON Schema of the plan file.

    Returns
    -------
    dict of str to object
        The schema, as JSON data
    """
    return file_schema()
