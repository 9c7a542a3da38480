"""The library: templates that ship, that were made here, and that came as files; all by the key of what is in them."""

import hashlib
import secrets
from collections.abc import Iterator
from dataclasses import asdict, dataclass, replace
from datetime import UTC, datetime
from functools import cached_property
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import IO, Any

import numpy as np
from numpy.typing import NDArray

from ..core.document import Document, in_order
from ..core.edits import in_frame, shapes_of
from ..core.errors import Fault, InvalidFont, InvalidPicture, LimitReached, NotFound
from ..core.evaluate import SETTLED, film_at, scene_at, timeline_of
from ..core.paint import ByteCache, Painter
from ..core.templates import PICTURED, TemplateContent, extracted, filled_in_order, zones_in
from ..core.time import TICKS_PER_SECOND, frame_start, rate_named
from ..core.treatments import ShippedShelf
from ..media.fonts import checked_font
from ..media.intake import media_facts
from ..media.jpegs import jpeg
from ..media.packages import Limits, Package, PackedPart, bad
from ..media.template_files import PREVIEW_RATE, PREVIEW_SECONDS, Looks, opened_template, pack_template, preview
from . import keys
from .pictures import pyramids_of
from .placeholders import Placeholders
from .ports import KeptTemplate, MediaState, MediaStore, TemplateStore

MOST_TEMPLATES = 1000
POSTER_PX = 960
PART_LOST = "A picture or font of the template is missing on this machine. Replace it, then save again."
LOST = "This template's file is missing on this machine. Open it again from its file, or remove it from the library."


@dataclass(frozen=True, slots=True)
class TemplateFacts:
    """A template as it stands in the library. `pictures`, `texts`: how many zones it has of them; `required`: pictures that it asks for; `scenes`:
    how many it has; `repeats`: whether it takes any number of pictures; `length`: ticks its scenes stand; `moods`: how it feels; `frames`: width / height of the frames that it has scenes for, its own first; `kept`: the id it is kept by, empty for
    one that ships; `source`: `shipped`, `made`, `opened`."""

    key: str
    id: str
    version: str
    name: str
    kind: str
    about: str
    words: str
    pictures: int
    required: int
    texts: int
    dials: int
    scenes: int
    repeats: bool
    length: int
    shapes: tuple[float, ...]
    moods: tuple[str, ...] = ()
    songs: int = 0
    frames: tuple[float, ...] = ()
    kept: str = ""
    source: str = "shipped"
    favourite: bool = False


def facts_of(content: TemplateContent) -> TemplateFacts:
    """What the library shows of a template."""
    key, frames = content.key, tuple(shapes_of(content))
    content = in_frame(content, content.document.frame)
    record, first = content.record, content.parts[0][1]
    zones = filled_in_order(content)
    shown = [z for z in zones_in(first, record) if record.zones[z].takes in PICTURED]
    return TemplateFacts(
        key=key,
        id=content.id,
        version=content.version,
        name=record.name,
        kind=record.kind,
        about=record.about,
        words=record.words,
        pictures=len(zones),
        required=sum(zone.required for _, zone in zones),
        texts=len(content.zones("text")),
        dials=len(record.dials),
        scenes=len(content.parts),
        repeats=record.kind == "treatment" or any(rule.repeats for rule in record.scenes.values()),
        length=sum(scene.hold or 0 for _, scene in content.parts),
        shapes=tuple(record.zones[z].shape or 1.5 for z in shown),
        moods=record.moods,
        songs=len(content.zones("song")),
        frames=frames,
    )


class Templates:
    """What people do with the library. Every call names who is asking."""

    def __init__(self, store: TemplateStore, media: MediaStore, placeholders: Placeholders, shipped: ShippedShelf):
        self._store, self._media, self._blobs = store, media, store.blobs
        self._placeholders, self._shipped = placeholders, shipped

    def listed(self, who: str) -> list[TemplateFacts]:
        """The newest version of each that they have, then those that ship."""
        liked, own = self._store.favourites(who), dict[str, TemplateFacts]()
        for kept in self._store.listed(who):
            lists: dict[str, tuple[Any, ...]] = {k: tuple(kept.facts[k]) for k in ("shapes", "moods", "frames") if k in kept.facts}
            facts = TemplateFacts(**{**kept.facts, **lists, "kept": kept.id, "source": kept.source})
            if kept.template not in own or newer(facts.version, own[kept.template].version):
                own[kept.template] = facts
        return [replace(f, favourite=f.id in liked) for f in (*own.values(), *self._shipping)]

    @cached_property
    def _shipping(self) -> list[TemplateFacts]:
        return [facts_of(content) for content in self._shipped.listed()]

    def like(self, who: str, template: str, on: bool) -> None:
        self._store.set_favourite(who, template, on)

    def save(self, who: str, project: str, document: Document, template: str) -> TemplateFacts:
        """What was made in a project becomes one of the library, or the next version of what it became before. Raises NotFound, LimitReached,
        StorageFull."""
        if template not in document.templates or not any(s.template and s.template.template == template for s in document.scenes.values()):
            raise NotFound([Fault("template.not_found", "", "There is no such template in this project, or no scene of it is left.")])
        kept = self._room(who)
        # Named by where it was made: out of the library and opened again from its file, it goes on as the same.
        own = f"t-{hashlib.sha256(f'{project} {template}'.encode()).hexdigest()[:16]}"
        before = max((k for k in kept if k.template == own or (k.project, k.made_as) == (project, template)), key=lambda k: _numbers(k.version), default=None)
        id = before.template if before else own
        content = extracted(document, template, id, "1.0.0")
        if before is not None:
            old = self._content(before.key) if self._blobs.has(keys.template(before.key)) else None
            if old is not None and old.key == content.key:
                return replace(facts_of(old), kept=before.id, source="made")
            # Of one whose file is lost nobody knows what is otherwise now.
            version = f"{_numbers(before.version)[0] + 1}.0.0" if old is None else next_version(old, content)
            content = replace(content, version=version)
        with self._blobs.writing(keys.template(content.key)) as path, path.open("wb") as out:
            looks = Looks(self._poster(content), self._preview(content))
            pack_template(out, content, self._original, self._font, looks, document.details.author, document.details.rights)
        return self._add(who, content, "made", project, template)

    def open(self, who: str, stream: IO[bytes]) -> TemplateFacts:
        """A template from a file, checked whole before any of it is kept. Raises InvalidPackage, Conflict, LimitReached, StorageFull."""
        kept = self._room(who)
        received = self._blobs.receive(stream, Limits().file)
        try:
            with received.open("rb") as file:
                package = Package(file)
                content = opened_template(package)
                same = next((k for k in kept if (k.template, k.version) == (content.id, content.version) and k.key == content.key), None)
                if same is not None and self._blobs.has(keys.template(same.key)):
                    return replace(facts_of(content), kept=same.id, source=same.source)
                self._take_in(package, received.parent)
            self._placeholders.bring(content.document)
            # The file first: a row without one would be a template that nobody can put on.
            self._blobs.keep(received, keys.template(content.key))
            return replace(facts_of(content), kept=same.id, source=same.source) if same is not None else self._add(who, content, "opened")
        finally:
            received.unlink(missing_ok=True)

    def file(self, who: str, id: str) -> tuple[str, Path]:
        """(file name, file) of a template that they have. Raises NotFound."""
        for kept in self._store.listed(who):
            if kept.id == id and self._blobs.has(keys.template(kept.key)):
                return f"{kept.facts['name'] or 'Template'} {kept.version}.oaktemplate", self._blobs.local(keys.template(kept.key))
        raise NotFound([Fault("template.not_found", "", "There is no such template in your library.")])

    def remove(self, who: str, id: str) -> None:
        """Out of the library; films that use it stay as they are. Raises NotFound."""
        if not self._store.remove(who, id):
            raise NotFound([Fault("template.not_found", "", "There is no such template in your library.")])

    def _room(self, who: str) -> list[KeptTemplate]:
        kept = self._store.listed(who)
        if len(kept) >= MOST_TEMPLATES:
            raise LimitReached([Fault("template.count", "", f"A library holds at most {MOST_TEMPLATES} templates. Remove some first.")])
        return kept

    def _add(self, who: str, content: TemplateContent, source: str, project: str = "", made_as: str = "") -> TemplateFacts:
        facts = replace(facts_of(content), source=source)
        kept = KeptTemplate(secrets.token_hex(8), content.id, content.version, content.key, source, project, made_as, asdict(facts), datetime.now(UTC))  # type: ignore[arg-type]
        self._store.add(who, kept)
        return replace(facts, kept=kept.id)

    def _content(self, key: str) -> TemplateContent:
        """Raises NotFound where its file is lost."""
        with self._file(keys.template(key), LOST).open("rb") as file:
            return opened_template(Package(file))

    def _take_in(self, package: Package, folder: Path) -> None:
        """Pictures and fonts of a package into the store, each looked at as if it came by itself."""
        for part in package.manifest.parts:
            if "/" not in part.path:
                continue
            with TemporaryDirectory(dir=folder) as own:
                copy = Path(own) / "part"
                with copy.open("wb") as out:
                    package.copy(part, out)
                self._take_in_part(part, copy)

    def _take_in_part(self, part: PackedPart, copy: Path) -> None:
        try:
            if part.path.startswith("fonts/"):
                checked = copy.with_name("checked.ttf")
                checked_font(copy, checked)
                if hashlib.sha256(checked.read_bytes()).hexdigest() != part.sha256:
                    raise bad(f"{part.path} is a font that is not as we keep them")
                self._blobs.keep(checked, keys.font(part.sha256))
                return
            kind = media_facts(copy)["kind"]
        except (InvalidPicture, InvalidFont) as error:
            raise bad(f"{part.path} cannot be used: {error.faults[0].message.rstrip('.')}") from None
        self._blobs.keep(copy, keys.original(part.sha256))
        if kind == "clip":
            self._media.set_state("prepare", MediaState(part.sha256, "ready"))
        else:
            self._media.request_preparation(part.sha256)

    def poster(self, who: str, key: str) -> bytes:
        """What one of their templates looks like, its zones empty, as JPEG. Raises NotFound."""
        if key not in {facts.key for facts in self.listed(who)}:
            raise NotFound([Fault("template.not_found", "", "There is no such template in your library.")])
        kept = keys.template_poster(key)
        if not self._blobs.has(kept):
            content = self._shipped.content(key) or self._content(key)
            with self._blobs.writing(kept, durable=False) as path:
                path.write_bytes(self._poster(content))
        return self._blobs.local(kept).read_bytes()

    def _poster(self, content: TemplateContent) -> bytes:
        """A moment of its scene; of several, four that show how it goes on, two and two."""
        self._placeholders.bring(content.document)
        document = in_frame(content, content.document.frame).document
        painter = Painter(pyramids_of(self._media, ByteCache(1 << 26)), 1 << 26)
        scenes = [k for k, _ in in_order(document.scenes)]
        shown = scenes[:1] if len(scenes) < 4 else [scenes[0], scenes[1], scenes[len(scenes) // 2], scenes[-1]]
        width = POSTER_PX if len(shown) == 1 else POSTER_PX // 2
        height = max(2, round(width / document.frame.aspect))
        lengths = [document.scenes[k].hold or 1 for k in shown]
        frames = [painter.paint(scene_at(document, k, round(length * SETTLED), length), width, height) for k, length in zip(shown, lengths, strict=True)]
        return jpeg(frames[0] if len(frames) == 1 else np.vstack((np.hstack(frames[:2]), np.hstack(frames[2:]))))

    def _preview(self, content: TemplateContent) -> bytes:
        """The beginning of its film, small."""
        painter = Painter(pyramids_of(self._media, ByteCache(1 << 26)), 1 << 26)

        def frames(document: Document, width: int, height: int) -> Iterator[NDArray[np.uint8]]:
            timeline, rate = timeline_of(document), rate_named(PREVIEW_RATE)
            last = min(timeline.length, PREVIEW_SECONDS * TICKS_PER_SECOND)
            for index in range(max(last // rate.frame_ticks, 1)):
                yield painter.paint(film_at(document, timeline, frame_start(index, rate)), width, height)

        with TemporaryDirectory() as folder:
            return preview(in_frame(content, content.document.frame), frames, Path(folder))

    def _original(self, sha256: str) -> Path:
        return self._file(keys.original(sha256))

    def _font(self, sha256: str) -> Path:
        return self._file(keys.font(sha256))

    def _file(self, key: str, sentence: str = PART_LOST) -> Path:
        try:
            return self._blobs.local(key)
        except FileNotFoundError:
            raise NotFound([Fault("template.missing", "", sentence)]) from None


def _numbers(version: str) -> tuple[int, ...]:
    return tuple(int(n) for n in version.split("."))


def newer(version: str, than: str) -> bool:
    """Whether a version comes after another."""
    return _numbers(version) > _numbers(than)


def next_version(before: TemplateContent, after: TemplateContent) -> str:
    """The version after one: the first number is raised where a zone or dial is gone or of another kind, the second where some are new, else the
    last."""
    major, minor, patch = _numbers(before.version)
    old, new = _offered(before), _offered(after)
    if any(new.get(k) != kind for k, kind in old.items()):
        return f"{major + 1}.0.0"
    return f"{major}.{minor + 1}.0" if len(new) > len(old) else f"{major}.{minor}.{patch + 1}"


def _offered(content: TemplateContent) -> dict[str, str]:
    zones = {f"zone {k}": "text" if z.takes == "text" else "song" if z.takes == "song" else "picture" for k, z in in_order(content.record.zones)}
    return zones | {f"dial {k}": d.kind for k, d in content.record.dials.items()}
