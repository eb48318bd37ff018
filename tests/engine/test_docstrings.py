"""Public functions say what they take and give, numbers with their units."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

SOURCE = Path(__file__).resolve().parents[2] / "src"
_NUMBERS = ("float", "Floats")


def _public(path: Path) -> Iterator[ast.FunctionDef]:
    body = ast.parse(path.read_text(encoding="utf-8")).body
    told: set[str] = set()
    for statement in body:
        if isinstance(statement, ast.Assign) and ast.unparse(statement.targets[0]) == "__all__":
            told = set(ast.literal_eval(statement.value))
    for statement in body:
        if isinstance(statement, ast.FunctionDef) and statement.name in told:
            yield statement


def functions_of(package: str) -> dict[str, ast.FunctionDef]:
    """Public functions of a package by module and name."""
    return {
        f"{path.relative_to(SOURCE).with_suffix('').as_posix()}:{function.name}": function
        for path in sorted((SOURCE / package).rglob("*.py"))
        for function in _public(path)
    }


FUNCTIONS = functions_of("bathys") | functions_of("bathys_web")


def _methods(path: Path) -> Iterator[tuple[str, ast.FunctionDef]]:
    """Public methods of public classes, but for those that say no more than the method they
    override or the property they are."""
    for holder in ast.parse(path.read_text(encoding="utf-8")).body:
        if isinstance(holder, ast.ClassDef) and not holder.name.startswith("_"):
            for method in holder.body:
                if not isinstance(method, ast.FunctionDef) or method.name.startswith("_"):
                    continue
                is_property = any("property" in ast.unparse(d) for d in method.decorator_list)
                if not is_property:
                    yield f"{holder.name}.{method.name}", method


METHODS = {
    f"{path.relative_to(SOURCE).with_suffix('').as_posix()}:{name}": method
    for path in sorted(SOURCE.rglob("*.py"))
    if "migrations" not in path.parts
    for name, method in _methods(path)
}
_OVERRIDDEN = {name.partition(":")[2].partition(".")[2] for name in METHODS}
_OVERRIDDEN = {
    one
    for one in _OVERRIDDEN
    if any(n.endswith(f".{one}") and ast.get_docstring(m) for n, m in METHODS.items())
}


def _section(text: str, name: str) -> str:
    found = re.search(rf"\n{name}\n-+\n(.*?)(?=\n\w[\w ]*\n-+\n|\Z)", text, re.S)
    return found[1] if found else ""


def _has_unit(text: str) -> bool:
    return re.search(r"\[[^\]]+\]", text) is not None


def lacks_of(function: ast.FunctionDef) -> list[str]:
    """What a function's docstring leaves unsaid."""
    text = ast.get_docstring(function) or ""
    described, lacks = _section(text, "Parameters"), []
    arguments = function.args
    for argument in (*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs):
        entry = re.search(rf"^{argument.arg}(?:, \w+)* : .*\n((?:    .*\n?)+)", described, re.M)
        entry = entry or re.search(
            rf"^(?:\w+, )+{argument.arg}(?:, \w+)* : .*\n((?:    .*\n?)+)", described, re.M
        )
        if entry is None:
            lacks.append(argument.arg)
        elif ast.unparse(argument.annotation or argument) in _NUMBERS and not _has_unit(entry[1]):
            lacks.append(f"the unit of {argument.arg}")
    gives = ast.unparse(function.returns) if function.returns is not None else "None"
    given = _section(text, "Returns") + _section(text, "Yields")
    if gives != "None" and not given:
        lacks.append("what it returns")
    if gives in _NUMBERS and not _has_unit(given):
        lacks.append("the unit of what it returns")
    return lacks


@pytest.mark.parametrize("name", FUNCTIONS)
def test_a_public_function_says_what_it_takes_and_gives(name: str) -> None:
    """Each parameter stands in the Parameters section and the result in Returns or Yields, every
    number with its unit in brackets."""
    assert lacks_of(FUNCTIONS[name]) == []


@pytest.mark.parametrize("name", METHODS)
def test_a_public_method_says_what_it_gives_and_in_which_unit(name: str) -> None:
    """In a sentence, numbers with their unit in brackets; or as the method that it overrides says
    it."""
    method, own = METHODS[name], name.rpartition(".")[2]
    text = ast.get_docstring(method) or ""
    if not text:
        assert own in _OVERRIDDEN, "no docstring, and no method of this name has one"
        return
    assert text.split("\n\n")[0].rstrip().endswith((".", ":")), text
    gives = ast.unparse(method.returns) if method.returns is not None else "None"
    taken = [ast.unparse(a.annotation) for a in method.args.args if a.annotation is not None]
    if any(number in words for words in (gives, *taken) for number in _NUMBERS):
        assert _has_unit(text), "no unit"
