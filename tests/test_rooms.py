"""The rooms' imports point one way, and the core is pure."""

import ast
import doctest
import importlib
import pkgutil
import re
from collections.abc import Iterator
from pathlib import Path

import oak_lens.core

SOURCE = Path(oak_lens.core.__file__).parents[1]
CORE = (
    "errors",
    "time",
    "curves",
    "space",
    "looks",
    "stage",
    "moves",
    "draw",
    "joins",
    "document",
    "framing",
    "layouts",
    "evaluate",
    "sound",
    "edits",
    "paint",
    "delivery",
)
OUTER = {
    "core": set(),
    "media": {"core"},
    "services": {"core", "media"},
    "storage": {"core", "media", "services"},
    "api": {"core", "services", "storage"},
    "worker": {"core", "media", "services", "storage"},
    "cli": {"core", "media"},
    "stack": {"core", "services", "storage"},
}
PURE = {"numpy", "cv2", "PIL", "numba", "pydantic", "pydantic_core"}
IMPURE_STANDARD = {"os", "sys", "pathlib", "time", "datetime", "random", "socket", "subprocess", "io", "tempfile", "secrets", "uuid"}


def imports(path: Path) -> Iterator[str]:
    """Absolute names of what a module imports."""
    package = path.relative_to(SOURCE.parent).with_suffix("").parts
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            parts = node.module.split(".") if node.module else []
            base = list(package[: len(package) - node.level]) if node.level else []
            if node.level and not parts:
                yield from (".".join([*base, alias.name]) for alias in node.names)
            else:
                yield ".".join([*base, *parts])


def test_imports_point_one_way() -> None:
    wrong = []
    for path in SOURCE.rglob("*.py"):
        room = path.relative_to(SOURCE).parts[0]
        if room not in OUTER:
            continue
        for name in imports(path):
            parts = name.split(".")
            if parts[0] != "oak_lens" or len(parts) < 2:
                continue
            if parts[1] != room and parts[1] not in OUTER[room]:
                wrong.append(f"{path}: {name}")
            if room == "core" and parts[1] == "core" and len(parts) > 2:
                here = path.relative_to(SOURCE / "core").with_suffix("").parts[0]
                if here != "__init__" and CORE.index(parts[2]) > CORE.index(here):
                    wrong.append(f"{path}: {name}")
    assert not wrong


def test_the_core_is_pure() -> None:
    import sys

    wrong = []
    for path in (SOURCE / "core").rglob("*.py"):
        for name in imports(path):
            top = name.split(".")[0]
            if top != "oak_lens" and (top in IMPURE_STANDARD or (top not in sys.stdlib_module_names and top not in PURE)):
                wrong.append(f"{path}: {name}")
    assert not wrong


def test_examples_in_docstrings_hold() -> None:
    failures = 0
    for module in pkgutil.walk_packages(oak_lens.core.__path__, "oak_lens.core."):
        failures += doctest.testmod(importlib.import_module(module.name)).failed
    assert failures == 0


def test_what_is_said_of_the_whole_is_true() -> None:
    from oak_lens.core import document, errors

    told = oak_lens.core.__doc__ or ""
    assert [room.strip(" .") for room in told.split("before it:")[1].replace("\n", " ").split(",")] == list(CORE)
    table = (SOURCE.parents[1] / "ARCHITECTURE.md").read_text()
    assert re.findall(r"^\| `(\w+)` \|", table, re.M) == list(CORE)
    listed = set(re.findall(r"[├└]── (\w+)", errors.__doc__ or ""))
    assert listed == {n for n, c in vars(errors).items() if isinstance(c, type) and issubclass(c, errors.OakError)} - {"OakError"}
    for text in (document.models.__doc__ or "", (SOURCE.parents[1] / "docs" / "document-format.md").read_text().partition("\n")[0]):
        assert f"schema {document.SCHEMA_VERSION}" in text
