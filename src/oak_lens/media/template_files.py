"""Templates as files: their content packed with what they name, and read again."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO

import numpy as np
from numpy.typing import NDArray

from ..core.delivery import ExportSettings
from ..core.document import Document, in_order, parse_json
from ..core.errors import InvalidDocument, OakError
from ..core.letters import FAMILIES
from ..core.templates import TemplateContent
from .films import write_segment
from .packages import Manifest, Package, Packed, bad, write_package

KNOWN_ENDINGS = ("jpg", "jpeg", "png", "webp", "tif", "tiff", "heic", "avif", "mp4", "mov", "webm", "mkv")


PREVIEW_PX = 480
PREVIEW_RATE = "24"
PREVIEW_SECONDS = 6


@dataclass(frozen=True)
class Looks:
    """What a template looks like: a JPEG, and an MP4."""

    poster: bytes | None = None
    preview: bytes | None = None


NO_LOOKS = Looks()


def pack_template(out: IO[bytes], content: TemplateContent, original: Callable[[str], Path], font: Callable[[str], Path], looks: Looks = NO_LOOKS, author: str = "", licence: str = "") -> Manifest:
    """Writes a template's file. `original`, `font`: files by their SHA-256; what stands in empty zones is drawn anew where it is opened."""
    parts = [Packed("document.json", document_json(content.document), licence), Packed("notes.md", notes(content, author, licence).encode())]
    if looks.poster is not None:
        parts.append(Packed("poster.jpg", looks.poster))
    if looks.preview is not None:
        parts.append(Packed("preview.mp4", looks.preview))
    for media in sorted({m.sha256: m for m in content.document.media.values() if not m.placeholder}.values(), key=lambda m: m.sha256):
        ending = media.file.rpartition(".")[2].lower()
        parts.append(Packed(f"media/{media.sha256}.{ending if ending in KNOWN_ENDINGS else 'bin'}", original(media.sha256), licence))
    parts += [Packed(f"fonts/{sha256}.ttf", font(sha256)) for sha256 in sorted({f.sha256 for f in content.document.fonts.values()})]
    record = content.record
    manifest = Manifest(id=content.id, version=content.version, name=record.name, author=author, licence=licence, faces=tuple(sorted(_faces(content.document))))
    return write_package(out, manifest, parts)


def notes(content: TemplateContent, author: str = "", licence: str = "") -> str:
    """What a template is and asks for, for those who look into its file: Markdown."""
    record = content.record
    said = [f"# {record.name} {content.version}", record.about, f"By {author}." if author else "", licence]
    zones = [f"{n + 1}. {zone.name or 'Zone'}: {zone.takes}{'' if zone.required else ', may stay empty'}{f'. {zone.help}' if zone.help else ''}" for n, (_, zone) in enumerate(in_order(record.zones))]
    dials = [f"- {dial.name}{f': {dial.help}' if dial.help else ''}" for _, dial in in_order(record.dials)]
    said += ["## Drop zones", "\n".join(zones) or "None.", "## Dials", "\n".join(dials) or "None."]
    return "\n\n".join(part for part in said if part) + "\n"


def preview(content: TemplateContent, frames_of: Callable[[Document, int, int], Iterator[NDArray[np.uint8]]], folder: Path) -> bytes:
    """A small silent film of a template's beginning, its zones empty. `frames_of`: (document, width, height) to (h, w, 4) uint8 frames."""
    document = content.document
    width = PREVIEW_PX // 2 * 2
    height = max(round(width / document.frame.aspect / 2) * 2, 2)
    path = folder / "preview.mp4"
    write_segment(path, frames_of(document, width, height), ExportSettings(kind="mp4", width=width, height=height, rate=PREVIEW_RATE, quality="draft"))
    return path.read_bytes()


def document_json(document: Document) -> bytes:
    """A document as it stands in packages."""
    return document.model_dump_json(by_alias=True, indent=1).encode()


def _faces(document: Document) -> set[str]:
    """Shipped families that texts of a document are set in."""
    known = {family.id for family in FAMILIES}
    named = {layer.setting.family for s in document.scenes.values() for layer in s.layers.values() if layer.kind == "text" and layer.setting is not None}
    return named & known


def opened_template(package: Package) -> TemplateContent:
    """The template that a package holds, checked whole. Raises InvalidPackage."""
    manifest = package.manifest
    try:
        document = parse_json(package.read("document.json").decode("utf-8", "replace"))
    except InvalidDocument as error:
        raise bad(f"its document is at fault: {error.faults[0].message.rstrip('.')}") from None
    except OakError as error:
        raise bad(error.faults[0].message.rstrip(".")) from None
    if manifest.id not in document.templates or not document.scenes:
        raise bad("it holds no template")
    record = document.templates[manifest.id]
    for key, scene in document.scenes.items():
        if scene.template is None or scene.template.template != manifest.id or scene.template.part != key or key not in record.scenes:
            raise bad("it holds scenes that are not of its template")
    if missing := sorted(set(manifest.faces) - {family.id for family in FAMILIES}):
        raise bad(f"it is set in a face that is not here ({missing[0]}); pack it with the font of that face", "package.face")
    held = {p.path.split("/")[1].split(".")[0] for p in manifest.parts if "/" in p.path}
    needed = {m.sha256: m.name for m in document.media.values() if not m.placeholder} | {f.sha256: f.name for f in document.fonts.values()}
    if gone := sorted(needed.keys() - held):
        raise bad(f"“{needed[gone[0]]}” is missing from it", "package.missing")
    return TemplateContent(document, manifest.id, manifest.version)
