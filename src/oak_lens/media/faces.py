"""Faces as files: those that ship, unpacked when first needed, and the projects' own. Every font that is opened has been checked."""

import json
import os
import re
import tempfile
from functools import lru_cache
from pathlib import Path

import ots

from ..core.errors import MissingFace
from ..core.letters import SHIPPED_FACES, FaceFiles, Family, FontFile

ROOT = Path(__file__).resolve().parents[3]
PACKAGES = ROOT / "web" / "node_modules"
"""Where the packages of the pages lie: the shipped faces are among them."""

_RANGE = re.compile(r"U\+([0-9a-fA-F]+)(?:-([0-9a-fA-F]+))?")


def unpacked_folder() -> Path:
    """Where unpacked faces are kept between starts, beside what is compiled."""
    return Path(os.environ.get("NUMBA_CACHE_DIR", ROOT / ".run" / "compiled")).parent / "faces"


class ShippedFaces(FaceFiles):
    """The shipped families, packed as they come; a file is unpacked and checked by the OpenType Sanitiser when its first letter is asked for."""

    def __init__(self, packages: Path = PACKAGES, unpacked: Path | None = None):
        self._packages, self._unpacked = packages, unpacked or unpacked_folder()
        self._sources: dict[str, Path] = {}

    def files(self, family: str, weight: float, italic: bool) -> tuple[FontFile, ...]:
        spec = SHIPPED_FACES.get(family)
        if spec is None:
            return ()
        slope = "italic" if italic and spec.italic else "normal"
        return self._files(spec, self._named(spec, weight), slope)

    def _named(self, family: Family, weight: float) -> str:
        """What the files of the weight are called by."""
        if self._folder(family).parent.name == "@fontsource-variable":
            return "wght"
        return str(min(_weights(self._folder(family)), key=lambda w: (abs(w - weight), w)))

    def _folder(self, family: Family) -> Path:
        variable = self._packages / "@fontsource-variable" / family.id
        return variable if variable.is_dir() else self._packages / "@fontsource" / family.id

    @lru_cache(maxsize=256)  # noqa: B019  One for each process.
    def _files(self, family: Family, weight: str, slope: str) -> tuple[FontFile, ...]:
        folder = self._folder(family)
        try:
            version = json.loads((folder / "package.json").read_text())["version"]
            parts = json.loads((folder / "unicode.json").read_text())
        except OSError:
            return ()
        found = []
        if (folder / "files" / f"{family.id}-emoji-{weight}-{slope}.woff2").exists():
            # Parts have their colours in a form that is not read; the whole has them in both.
            parts = {"emoji": ",".join(parts.values())}
        # The last part holds the commonest letters: it is looked into first.
        for part, ranges in reversed(list(parts.items())):
            path = folder / "files" / f"{family.id}-{part.strip('[]')}-{weight}-{slope}.woff2"
            if path.exists():
                key = f"{family.id}-{version}-{path.stem.removeprefix(family.id + '-')}"
                self._sources[key] = path
                found.append(FontFile(key, _ranges(ranges), slope == "italic"))
        return tuple(found)

    def data(self, key: str) -> bytes:
        kept = self._unpacked / f"{key}.ttf"
        try:
            return kept.read_bytes()
        except FileNotFoundError:
            pass
        source = self._sources.get(key)
        if source is None:
            raise MissingFace.of("face.missing", "A font of this text is not here. Choose another face.", key)
        self._unpacked.mkdir(parents=True, exist_ok=True, mode=0o700)
        with tempfile.TemporaryDirectory(dir=self._unpacked) as folder:
            made = Path(folder) / "checked.ttf"
            try:
                ots.sanitize(str(source), str(made), capture_output=True, check=True)
            except ots.OTSError as error:
                raise MissingFace.of("face.broken", "A face that ships with Oak Lens is broken. Install Oak Lens anew.", key) from error
            os.replace(made, kept)
        return kept.read_bytes()


def _weights(folder: Path) -> list[int]:
    try:
        return [int(w) for w in json.loads((folder / "metadata.json").read_text())["weights"]]
    except OSError:
        return [400]


def _ranges(text: str) -> tuple[tuple[int, int], ...]:
    found = ((int(first, 16), int(last or first, 16)) for first, last in _RANGE.findall(text))
    return tuple(sorted(found))
