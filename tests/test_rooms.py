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
    "letters",
    "stage",
    "moves",
    "draw",
    "joins",
    "document",
    "framing",
    "layouts",
    "templates",
    "titles",
    "treatments",
    "evaluate",
    "sound",
    "edits",
    "tables",
    "paint",
    "trials",
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
    "stack": {"core", "media", "services", "storage", "api", "worker"},
}
PURE = {"numpy", "cv2", "PIL", "numba", "llvmlite", "pydantic", "pydantic_core", "uharfbuzz", "pathops", "regex", "fontTools", "icu4py"}
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


PAGE = SOURCE.parents[1] / "web" / "src"
PAGE_ROOMS = ("api", "interaction", "ui", "project", "playback", "features", "app")
"""Rooms of the page, each of which imports from those before it."""

PAGE_IMPORT = re.compile(r"""(import\(|^import\b[^'\n]*|^export\b[^'\n]* from )'([^']+)'""", re.M)


def page_imports(path: Path) -> Iterator[tuple[str, bool]]:
    """What a module of the page imports, as a path from its sources; and whether only when it is needed."""
    for how, name in PAGE_IMPORT.findall(path.read_text()):
        if name.startswith("@/"):
            yield name[2:], how == "import("
        elif name.startswith("."):
            yield (path.parent / name).resolve().relative_to(PAGE).as_posix(), how == "import("


def test_the_pages_imports_point_one_way_and_features_are_entered_by_their_index() -> None:
    wrong, arrows = [], set()
    for path in sorted(PAGE.rglob("*.ts*")):
        here = path.relative_to(PAGE).as_posix()
        room, feature = here.split("/")[0], here.split("/")[1] if here.startswith("features/") else None
        if room not in PAGE_ROOMS or here.endswith((".test.ts", ".d.ts")):
            continue
        for target, late in page_imports(path):
            to, *rest = target.split("/")
            if PAGE_ROOMS.index(to) > PAGE_ROOMS.index(room) and not late:
                wrong.append(f"{here} imports {target}, which stands above it")
            if to == "features" and rest[0] != feature:
                arrows.add((feature, rest[0]))
                if len(rest) > 1 and not late and feature is not None:
                    wrong.append(f"{here} enters {rest[0]} by {target} instead of its index")
    features = {path.name for path in (PAGE / "features").iterdir()}
    wrong += [f"{name} has no index" for name in features if name != "shell" and not (PAGE / "features" / name / "index.ts").exists()]
    # Taken away one after another, those nothing of the rest imports: what is left goes round in a circle.
    left = set(features)
    while free := {name for name in left if not any(a in left and b == name for a, b in arrows)}:
        left -= free
    assert not wrong and not left, "\n".join([*wrong, f"in a circle: {sorted(left)}" if left else ""])


def test_no_component_of_the_page_is_drawn_anew_for_whatever_changes_in_the_document() -> None:
    assert not [path.name for path in PAGE.rglob("*.ts*") if re.search(r"useProject\(\(s\) => s\.document\)|useProject\(\)", path.read_text())]


MOST_LINES = 150


def test_no_component_of_the_page_is_longer_than_one_can_see() -> None:
    found = []
    for path in sorted(PAGE.rglob("*.tsx")):
        for whole in re.finditer(r"^(?:export )?function (\w+).*?^}$", path.read_text(), re.M | re.S):
            if whole[0].count("\n") + 1 > MOST_LINES:
                found.append(f"{path.name}: {whole[1]} has {whole[0].count(chr(10)) + 1} lines")
    assert not found
