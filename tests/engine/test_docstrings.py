"""Public functions of the physics say what they take and give, with units."""

import importlib
import inspect
import pkgutil
import re
from collections.abc import Callable, Iterator
from typing import Any

import pytest

import bathys.physics


def _functions() -> Iterator[tuple[str, Callable[..., Any]]]:
    for module_info in pkgutil.iter_modules(bathys.physics.__path__):
        module = importlib.import_module(f"bathys.physics.{module_info.name}")
        for name in module.__all__:
            thing = getattr(module, name)
            if inspect.isfunction(thing):
                yield f"{module_info.name}.{name}", thing


FUNCTIONS = dict(_functions())


def _section(text: str, name: str) -> str:
    found = re.search(rf"\n{name}\n-+\n(.*?)(?=\n\w[\w ]*\n-+\n|\Z)", text, re.S)
    return found[1] if found else ""


@pytest.mark.parametrize("name", FUNCTIONS)
def test_parameters_are_described_with_units(name: str) -> None:
    """Each parameter of the signature stands in the Parameters section with a unit in brackets,
    and the result has one."""
    function = FUNCTIONS[name]
    text = inspect.getdoc(function) or ""
    described = _section(text, "Parameters")
    for parameter in inspect.signature(function).parameters:
        entry = re.search(rf"^{parameter} : .*\n((?:    .*\n?)+)", described, re.M)
        assert entry, parameter
        assert re.search(r"\[[^\]]+\]", entry[1]), parameter
    assert "[" in _section(text, "Returns")
