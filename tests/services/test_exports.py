"""Exports: rendered segment by segment, once whatever happens; cancelled, failed, and done again after a change."""

import errno
import time
import zipfile
from pathlib import Path
from typing import Any

import av
import pytest
from PIL import Image
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError

from oak_lens.core.delivery import known_keys
from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import ExportFailed, NotFound
from oak_lens.core.paint import Painter
from oak_lens.media.blobs import FolderBlobs
from oak_lens.services import keys
from oak_lens.services.exports import Exports
from oak_lens.services.pictures import Pictures
from oak_lens.services.ports import ExportRecord
from oak_lens.services.sounds import Sounds
from oak_lens.storage.database import AWAY
from oak_lens.storage.exports import PostgresExports
from oak_lens.storage.media import PostgresMedia
from oak_lens.storage.projects import PostgresProjects

SETTINGS = {"width": 192, "height": 108, "rate": "25", "quality": "draft"}
TICKS = 705_600_000


class Shop:
    """Everything a worker has, over one folder, with a film of three cards."""

    def __init__(self, engine: Engine, home: Path):
        self.engine, self.home = engine, home
        self.media = PostgresMedia(engine, FolderBlobs(home))
        self.pictures = Pictures(self.media)
        self.store = PostgresExports(engine, self.media.blobs)
        self.exports = Exports(self.store, self.pictures, Sounds(self.media))
        records = []
        for i, colour in enumerate(("#b03020", "#2080a0", "#c0a030")):
            card = home / f"card{i}.png"
            Image.new("RGB", (320, 180), colour).save(card)
            with card.open("rb") as stream:
                records.append({"id": f"p{i}", **self.pictures.take_in(Document(), card.name, stream)})
        self.document = apply_edits(
            Document(),
            parse_edits(
                [
                    {"edit": "set_title", "title": "Cards: three"},
                    {"edit": "set_defaults", "hold": TICKS, "join": {"kind": "dissolve", "length": TICKS // 5}},
                    {"edit": "add_pictures", "pictures": records},
                    {"edit": "add_scenes", "scenes": [{"id": f"s{i}", "media": f"p{i}"} for i in range(3)]},
                ]
            ),
        )
        self.project = PostgresProjects(engine).create("local", self.document).id

    def start(self, document: Document | None = None, **settings: Any) -> ExportRecord:
        job = self.exports.start("local", self.project, document or self.document, {**SETTINGS, **settings})
        assert job.state == "waiting" and self.queued("plan", job.id) == 1
        self.exports.plan(job.id)
        return self.exports.read("local", job.id)

    def render(self, export: str, *indexes: int) -> None:
        for index in indexes or range(len(self.store.segments(export))):
            self.exports.render(export, index)

    def queued(self, task: str, export: str) -> int:
        with self.engine.connect() as connection:
            query = "select count(*) from procrastinate_jobs where task_name = :t and args->>'export' = :e"
            return int(connection.execute(text(query), {"t": task, "e": export}).scalar_one())

    def files(self, folder: str) -> list[Path]:
        return sorted(p for p in (self.home / "exports" / folder).rglob("*") if p.is_file())


@pytest.fixture
def shop(engine: Engine, tmp_path: Path) -> Shop:
    return Shop(engine, tmp_path)


def test_what_one_worker_has_looked_through_another_need_not(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    """Keys go with the exports: a second one is planned by whichever worker is free, at once."""
    first = shop.start()
    monkeypatch.setattr(known_keys, "segment_key", lambda *_: pytest.fail("a film that is known was looked through frame by frame"))
    shop.exports = Exports(shop.store, shop.pictures, Sounds(shop.media))
    again = shop.start()
    assert shop.store.segments(again.id) == shop.store.segments(first.id)


def test_an_export_that_an_older_version_planned_is_rendered_and_joined(shop: Shop) -> None:
    """Its segments do not say of what they come."""
    job = shop.start()
    with shop.engine.begin() as connection:
        cut = "(select jsonb_agg(part - 3 order by place) from jsonb_array_elements(segments) with ordinality as of(part, place))"
        connection.execute(text(f"update export set segments = {cut} where id = :e"), {"e": job.id})
    assert shop.store.known_keys(job.id) == {} and len(shop.store.segments(job.id)) == 5
    shop.render(job.id)
    shop.exports.join(job.id)
    assert shop.exports.read("local", job.id).state == "done"
    assert shop.store.segments(shop.start().id) == shop.store.segments(job.id)


def test_an_export_is_queued_rendered_joined_and_named(shop: Shop) -> None:
    job = shop.start()
    assert job.state == "waiting" and job.file_name == "Cards three.mp4" and job.frames == 3 * 25 + 2 * 5
    assert shop.queued("segment", job.id) == len(shop.store.segments(job.id)) == 5
    shop.render(job.id)
    assert shop.exports.read("local", job.id).state == "joining" and shop.queued("join", job.id) == 1
    shop.exports.join(job.id)
    done = shop.exports.read("local", job.id)
    path, name, mime = shop.exports.film("local", job.id)
    assert (done.state, done.done_frames, name, mime) == (
        "done",
        done.frames,
        "Cards three.mp4",
        "video/mp4",
    ) and done.bytes == path.stat().st_size
    with av.open(str(path)) as film:
        assert sum(1 for _ in film.decode(video=0)) == done.frames


def test_segments_done_twice_count_once_and_join_once(shop: Shop) -> None:
    job = shop.start()
    shop.render(job.id, 0, 0, 1, 2, 1, 3, 4, 4, 0)
    assert shop.queued("join", job.id) == 1
    assert shop.exports.read("local", job.id).done_frames == job.frames
    shop.exports.join(job.id)
    first = shop.exports.film("local", job.id)[0].read_bytes()
    shop.exports.join(job.id)
    assert shop.exports.film("local", job.id)[0].read_bytes() == first


def test_a_second_export_renders_only_what_changed(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    shop.render(shop.start().id)
    rendered: list[tuple[int, int]] = []
    from oak_lens.services import exports as module

    real = module.render_segment

    def counted(document: Any, timeline: Any, segment: Any, *rest: Any) -> None:
        rendered.append((segment.first, segment.last))
        real(document, timeline, segment, *rest)

    monkeypatch.setattr(module, "render_segment", counted)
    changed = apply_edits(
        shop.document, parse_edits([{"edit": "set_views", "photos": [{"scene": "s2", "layer": "photo"}], "closing": {"zoom": 1.4}}])
    )
    job = shop.start(changed)
    shop.render(job.id)
    # The last scene's hold and the join into it; for the rest no worker was even asked.
    assert rendered == [(55, 60), (60, 85)] and shop.queued("segment", job.id) == 2
    shop.exports.join(job.id)
    assert shop.exports.read("local", job.id).state == "done"
    same = shop.start(changed)
    assert same.state == "joining" and shop.queued("segment", same.id) == 0 and shop.queued("join", same.id) == 1


def test_a_cancelled_export_stops_within_a_few_frames_and_leaves_no_half_file(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    job = shop.start()
    shop.render(job.id, 0)
    done = shop.files("segments")
    painted = []
    real = Painter.paint

    def cancelling(self: Painter, *arguments: Any) -> Any:
        painted.append(1)
        if len(painted) == 7:
            shop.exports.cancel("local", job.id)
        return real(self, *arguments)

    monkeypatch.setattr(Painter, "paint", cancelling)
    shop.render(job.id, 2, 4)
    assert len(painted) <= 12 and shop.files("segments") == done
    assert shop.exports.read("local", job.id).state == "cancelled"
    with pytest.raises(NotFound):
        shop.exports.film("local", job.id)


def test_exports_of_several_kinds_wait_in_line_and_are_named_by_their_kind(shop: Shop) -> None:
    jobs = [shop.start(kind=kind, start=TICKS) for kind in ("gif", "still", "png")]
    assert [j.frames for j in jobs] == [60, 1, 60] and all(j.state == "waiting" for j in jobs)
    for job in reversed(jobs):
        shop.render(job.id)
        shop.exports.join(job.id)
    found = [shop.exports.film("local", j.id) for j in jobs]
    assert [(name, mime) for _, name, mime in found] == [
        ("Cards three.gif", "image/gif"),
        ("Cards three.png", "image/png"),
        ("Cards three.zip", "application/zip"),
    ]
    with Image.open(found[0][0]) as film, Image.open(found[1][0]) as still, zipfile.ZipFile(found[2][0]) as sequence:
        first = Image.open(sequence.open("Cards three 00001.png")).convert("RGB")
        assert film.n_frames == 60 and len(sequence.namelist()) == 60  # type: ignore[attr-defined]
        assert still.convert("RGB").tobytes() == first.tobytes(), "a still is the film's frame, bit for bit"


@pytest.mark.parametrize("harm", ["cut", "zeroed", "gone"])
@pytest.mark.parametrize("when", ["before it is used again", "before it is joined"])
def test_a_damaged_segment_is_rendered_again(shop: Shop, harm: str, when: str) -> None:
    def harmed(path: Path) -> None:
        data = path.read_bytes()
        path.write_bytes(data[: len(data) // 2] if harm == "cut" else bytes(len(data)))
        if harm == "gone":
            path.unlink()

    first = shop.start()
    shop.render(first.id)
    shop.exports.join(first.id)
    whole = shop.exports.film("local", first.id)[0].read_bytes()
    path = shop.store.blobs.local(keys.segment(shop.store.segments(first.id)[2][2]))
    if when == "before it is used again":
        harmed(path)
    job = shop.start()
    assert shop.queued("segment", job.id) == (1 if when == "before it is used again" else 0)
    if when == "before it is joined":
        harmed(path)
        shop.exports.join(job.id)
        assert shop.exports.read("local", job.id).state == "rendering" and shop.queued("segment", job.id) == 1
    shop.render(job.id, 2)
    shop.exports.join(job.id)
    assert shop.exports.read("local", job.id).state == "done"
    assert shop.exports.film("local", job.id)[0].read_bytes() == whole


def test_a_database_that_is_away_puts_the_work_off_and_any_other_failure_ends_it(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    from oak_lens.services import exports as module

    for failure in (OperationalError("select", {}, Exception()), ValueError("what")):
        shop.exports.again = AWAY
        job = shop.start(width=200)

        def failing(*_: Any, failure: Exception = failure) -> None:
            raise failure

        monkeypatch.setattr(module, "render_segment", failing)
        if isinstance(failure, OperationalError):
            with pytest.raises(OperationalError):
                shop.render(job.id, 0)
            assert shop.exports.read("local", job.id).state == "rendering"
            shop.exports.cancel("local", job.id)
        else:
            shop.render(job.id, 0)
            failed = shop.exports.read("local", job.id)
            assert failed.state == "failed" and "start it again" in failed.message and "what" not in failed.message


def test_an_export_that_nobody_works_on_ends_with_a_sentence(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("oak_lens.storage.exports.ABANDONED_SECONDS", 0)
    kept, lost = shop.start(width=204), shop.start(width=208)
    with shop.engine.begin() as connection:
        connection.execute(text("delete from procrastinate_jobs where args->>'export' = :e"), {"e": lost.id})
    assert shop.store.fail_abandoned("It was lost.") >= 1
    found = shop.exports.read("local", lost.id)
    assert (found.state, found.message) == ("failed", "It was lost.") and shop.exports.read("local", kept.id).state == "waiting"


def test_a_full_disk_ends_an_export_with_a_sentence_and_leaves_no_part(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    job = shop.start(width=212)

    def full(*_: Any) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    shop.render(job.id, 0)
    failed = shop.exports.read("local", job.id)
    assert failed.state == "failed" and "disk is full" in failed.message and shop.files("segments") == []


def test_any_export_is_started_at_once(shop: Shop) -> None:
    scenes = [{"id": f"n{i}", "media": f"p{i % 3}"} for i in range(500)]
    long = apply_edits(shop.document, parse_edits([{"edit": "add_scenes", "scenes": scenes}]))
    began = time.thread_time()
    job = shop.exports.start("local", shop.project, long, {**SETTINGS, "rate": "60"})
    spent = time.thread_time() - began
    assert job.frames > 30_000 and shop.store.segments(job.id) == [] and shop.queued("segment", job.id) == 0
    # Not a measure: working the keys out here would take a hundred times as long.
    assert spent < 2.0


def test_sound_alone_needs_something_to_hear(shop: Shop) -> None:
    job = shop.start(kind="wav")
    assert job.state == "joining" and job.frames == 0 and shop.queued("segment", job.id) == 0
    shop.exports.join(job.id)
    silent = shop.exports.read("local", job.id)
    assert silent.state == "failed" and "nothing to hear" in silent.message
    with pytest.raises(ExportFailed, match="nothing to export"):
        shop.start(kind="wav", start=99 * TICKS)


def test_segments_long_unused_make_room_but_never_those_under_way(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    # Sizes of their own: exports of other tests are under way, too.
    old, under_way = shop.start(width=196), shop.start(width=196, quality="best")
    shop.render(old.id)
    shop.render(under_way.id, 0, 1)
    with shop.engine.begin() as connection:
        connection.execute(text("update kept_segment set used = to_timestamp(1)"))
    again = shop.start(width=196, start=2 * TICKS)
    used = {key for _, _, key in shop.store.segments(again.id)} | {key for _, _, key in shop.store.segments(under_way.id)}
    monkeypatch.setattr("oak_lens.services.exports.KEPT_SEGMENT_BYTES", 0)
    shop.exports.join(old.id)
    assert shop.exports.read("local", old.id).state == "done"
    left = {p.name for p in shop.files("segments")}
    assert left and left <= used and {shop.store.segments(under_way.id)[i][2] for i in (0, 1)} <= left


def test_an_export_cancelled_while_it_is_joined_leaves_no_film(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    job = shop.start()
    shop.render(job.id)
    real = shop.exports._sounds.track

    def cancelling(*arguments: Any) -> Any:
        shop.exports.cancel("local", job.id)
        return real(*arguments)

    monkeypatch.setattr(shop.exports._sounds, "track", cancelling)
    shop.exports.join(job.id)
    assert shop.exports.read("local", job.id).state == "cancelled" and shop.files("films") == []


def test_a_missing_picture_fails_the_export_with_its_name(shop: Shop) -> None:
    shop.media.blobs.forget(keys.original(shop.document.media["p1"].sha256))
    job = shop.start()
    shop.render(job.id)
    failed = shop.exports.read("local", job.id)
    assert failed.state == "failed" and "missing" in failed.message and failed.message.endswith(".")
    assert shop.queued("join", job.id) == 0


def test_an_export_keeps_the_document_it_was_asked_for(shop: Shop) -> None:
    job = shop.start()
    projects = PostgresProjects(shop.engine)
    with projects.hold(shop.project) as held:
        held.set_deleted(True)
    shop.render(job.id)
    shop.exports.join(job.id)
    assert shop.exports.read("local", job.id).state == "done"


def test_nothing_to_export_and_other_peoples_exports(shop: Shop) -> None:
    with pytest.raises(ExportFailed, match="nothing to export"):
        shop.start(Document())
    with pytest.raises(ExportFailed, match="even number"):
        shop.exports.start("local", shop.project, shop.document, {**SETTINGS, "width": 193})
    job = shop.start()
    for call in (shop.exports.read, shop.exports.cancel, shop.exports.film, shop.exports.forget):
        with pytest.raises(NotFound):
            call("somebody", job.id)
    assert shop.exports.read("local", job.id).state == "waiting"


def test_forgetting_takes_the_film_away(shop: Shop) -> None:
    job = shop.start()
    shop.render(job.id)
    shop.exports.join(job.id)
    assert shop.files("films")
    shop.exports.forget("local", job.id)
    assert not shop.files("films")
    with pytest.raises(NotFound):
        shop.exports.read("local", job.id)
