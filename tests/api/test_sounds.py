"""Music by the API: taken in, made, drawn, heard as it is exported; what cannot be used is refused and nothing is lost."""

import io
import wave
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from oak_lens.core.errors import StorageFull
from oak_lens.services.ports import MediaState, Work
from tests.media.test_clips import EVEN, make_clip

from .conftest import Signed

RATE = 48_000
TICKS = 705_600_000


def wav(samples: Any, rate: int = RATE, channels: int = 1) -> bytes:
    buffer = io.BytesIO()
    with wave.open(buffer, "wb") as file:
        file.setnchannels(channels)
        file.setsampwidth(2)
        file.setframerate(rate)
        file.writeframes(np.rint(np.asarray(samples) * 32767).astype("<i2").tobytes())
    return buffer.getvalue()


def clicks(seconds: float, every: float = 0.5, level: float = 0.5) -> Any:
    sound = np.zeros(int(seconds * RATE))
    t = np.arange(1200)
    for start in np.arange(0.25, seconds - 0.1, every):
        first = int(start * RATE)
        sound[first : first + 1200] = level * np.sin(t / 6) * np.exp(-t / 300)
    return sound


def send(signed: Signed, project: str, data: bytes, name: str = "clicks.wav") -> Any:
    """The answer once a worker has listened; refused at once or by it."""
    at = f"/api/projects/{project}"
    sent = signed.send("POST", f"{at}/sounds", data=data, headers={"X-File-Name": name})
    if sent.status_code != 200:
        return sent
    signed.client.application.extensions["oak"].sounds.listen(sent.json["sha256"])
    return signed.send("GET", f"{at}/listening/{sent.json['sha256']}?name={name}")


def heard(signed: Signed, project: str, first: int, count: int) -> Any:
    """(n, 2) of the film's sound."""
    answer = signed.client.get(f"/api/projects/{project}/sound?first={first}&count={count}")
    assert answer.status_code == 200 and answer.mimetype == "audio/wav"
    with wave.open(io.BytesIO(answer.data)) as file:
        assert (file.getframerate(), file.getnchannels()) == (RATE, 2)
        return np.frombuffer(file.readframes(file.getnframes()), "<i2").reshape(-1, 2) / 32767


@pytest.fixture
def project(signed: Signed, tmp_path: Path) -> str:
    """A film of two scenes of three seconds, cut."""
    project = signed.project()
    Image.new("RGB", (320, 180), "#405060").save(tmp_path / "card.png")
    record = signed.picture(project, tmp_path / "card.png").json["record"]
    signed.edit(
        project,
        {"edit": "set_defaults", "join": {"kind": "cut"}},
        {"edit": "add_pictures", "pictures": [{"id": "p", **record}]},
        {"edit": "add_scenes", "scenes": [{"id": "a", "media": "p"}, {"id": "b", "media": "p"}]},
    )
    return project


def test_a_file_is_heard_placed_drawn_and_played_to_the_sample(signed: Signed, project: str) -> None:
    answer = send(signed, project, wav(clicks(8))).json
    record = answer["record"]
    assert answer["note"] == "" and record["name"] == "clicks" and record["length"] == 8 * TICKS and record["channels"] == 1
    assert record["beats"]["tempo"] == pytest.approx(120, rel=0.02) and record["beats"]["confidence"] > 0.3
    added = signed.edit(project, {"edit": "add_sounds", "sounds": [{"id": "m", **record}]}).json
    assert added["sounds"]["m"]["sha256"] == record["sha256"] and set(added["songs"]) == {"m"} and added["undo"] == "Add music"
    # Silence before, music after: where it begins is sample-exact.
    signed.edit(project, {"edit": "set_songs", "ids": ["m"], "song": {"at": TICKS, "fade_out": 0}})
    sound = heard(signed, project, 0, 6 * RATE)
    assert len(sound) == 6 * RATE and not sound[: RATE + RATE // 4].any()
    assert np.flatnonzero(np.abs(sound[:, 0]) > 0.005)[0] == pytest.approx(RATE + RATE // 4, abs=3)
    # Any piece is the same as that part of all of it, and nothing comes after the film's end.
    assert (heard(signed, project, 70_001, 5_000) == sound[70_001:75_001]).all() and len(heard(signed, project, 5 * RATE, 9 * RATE)) == RATE
    found = signed.client.get(f"/api/projects/{project}/heard").json
    assert found["songs"] == [{"song": "m", "start": TICKS, "end": 9 * TICKS}]
    assert all(abs((b / TICKS - 1.25) % 0.5 - 0.25) > 0.2 for b in found["beats"]) and set(found["bars"]) < set(found["beats"])
    peaks = signed.client.get(f"/api/projects/{project}/sounds/m/peaks?start=0&end={8 * TICKS}&count=16").json["peaks"]
    assert len(peaks) == 16 and all(low < 0 < high for low, high in peaks)


def test_music_is_made_with_exact_beats_and_the_film_fitted_and_undone(signed: Signed, project: str) -> None:
    wish = {"mood": "bright", "tempo": 120, "intensity": 0.5, "seconds": 9, "seed": 3}
    record = signed.send("POST", f"/api/projects/{project}/made-music", wish).json["record"]
    # Exactly as long as asked: four bars fill it, a little slower.
    assert record["length"] == 9 * TICKS and record["beats"]["tempo"] == pytest.approx(60 / 0.5625)
    assert [b / TICKS for b in record["beats"]["times"][:4]] == [0, 0.5625, 1.125, 1.6875] and record["licence"]
    listened = signed.send("POST", f"/api/projects/{project}/made-music/heard", wish)
    assert listened.mimetype == "audio/wav" and len(listened.data) == pytest.approx(9 * RATE * 4, rel=0.01)
    before = signed.edit(project, {"edit": "add_sounds", "sounds": [{"id": "m", **record}]}).json["timeline"]["length"]
    fitted = signed.edit(project, {"edit": "fit_film"}).json
    assert fitted["timeline"]["length"] == record["length"] and set(fitted["marks"]) == {"a", "b"}
    undone = signed.send("POST", f"/api/projects/{project}/undo").json
    assert undone["timeline"]["length"] == before
    again = signed.send("POST", f"/api/projects/{project}/made-music", wish).json["record"]
    assert again["sha256"] == record["sha256"], "the same seed is the same piece"
    assert signed.send("POST", f"/api/projects/{project}/made-music", {**wish, "tempo": 900}).status_code == 422


def test_music_without_a_film_can_be_heard_and_kept(signed: Signed) -> None:
    project = signed.project()
    record = send(signed, project, wav(clicks(4))).json["record"]
    signed.edit(project, {"edit": "add_sounds", "sounds": [{"id": "m", **record}]})
    assert len(heard(signed, project, 0, 9 * RATE)) == 4 * RATE and np.abs(heard(signed, project, 0, 2 * RATE)).max() > 0.05
    for edit in ({"edit": "fit_film"}, {"edit": "fit_music"}):
        refusal = signed.edit(project, edit)
        assert refusal.status_code == 409 and "no scene" in refusal.json["faults"][0]["message"]
    assert signed.client.get(f"/api/projects/{project}").json["document"]["songs"]["m"]["sound"] == "m"


@pytest.mark.parametrize(
    ("data", "name", "status", "code"),
    [
        (b"not a sound at all" * 9, "words.mp3", 415, "sound.format"),
        (b"", "empty.flac", 415, "sound.format"),
        (wav([0.1] * 40), "blink.wav", 422, "sound.short"),
    ],
)
def test_what_is_no_sound_is_refused_with_a_sentence(signed: Signed, project: str, data: bytes, name: str, status: int, code: str) -> None:
    answer = send(signed, project, data, name)
    assert answer.status_code == status and answer.json["faults"][0]["code"] == code and len(answer.json["faults"][0]["message"]) > 20
    assert signed.client.get(f"/api/projects/{project}").json["document"]["sounds"] == {}


def test_listening_tells_how_far_it_is_is_cancelled_and_asked_for_again(
    signed: Signed, project: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    sounds = signed.client.application.extensions["oak"].sounds
    monkeypatch.setattr("oak_lens.services.sounds.TOLD_EVERY_SECONDS", 0.0)
    at, data = f"/api/projects/{project}", wav(clicks(45))

    def post() -> Any:
        return signed.send("POST", f"{at}/sounds", data=data, headers={"X-File-Name": "long.wav"}).json

    sent = post()
    place = f"{at}/listening/{sent['sha256']}?name=long.wav"
    assert sent["record"] is None and sent["share"] == 0.0
    shares: list[float] = []
    original = sounds._store.set_state

    def watched(work: Work, state: MediaState) -> None:
        original(work, state)
        if state.state == "working":
            shares.append(signed.client.get(place).json["share"])
            if len(shares) == 2:
                assert signed.send("DELETE", place).status_code == 204

    monkeypatch.setattr(sounds._store, "set_state", watched)
    sounds.listen(sent["sha256"])
    assert len(shares) == 2 and 0.0 < shares[0] < shares[1] < 1.0
    cancelled = signed.client.get(place)
    assert cancelled.status_code == 409 and cancelled.json["faults"][0]["code"] == "sound.cancelled"
    monkeypatch.setattr(sounds._store, "set_state", original)
    assert post()["share"] == 0.0, "sent again, it is listened to again"
    with monkeypatch.context() as full:
        full.setattr("oak_lens.media.listening.finest_peaks", lambda *_: (_ for _ in ()).throw(OSError(28, "No space left on device")))
        with pytest.raises(StorageFull):
            sounds.listen(sent["sha256"])
    assert signed.client.get(place).json["record"] is None, "it waits for room"
    sounds.listen(sent["sha256"])
    done = signed.client.get(place).json
    assert done["share"] == 1.0 and done["record"]["length"] == 45 * TICKS
    assert post()["record"] == done["record"], "what is known needs no listening"
    assert signed.client.get(f"{at}/listening/{'0' * 64}").status_code == 404


def test_a_clips_file_can_be_music_too_and_neither_disturbs_the_other(signed: Signed, project: str, tmp_path: Path) -> None:
    clip = make_clip(tmp_path / "dome.mp4", EVEN, 440)
    record = signed.picture(project, clip).json["record"]
    signed.edit(project, {"edit": "add_pictures", "pictures": [{"id": "c", **record}]})
    answer = send(signed, project, clip.read_bytes(), "dome.mp4").json
    assert answer["record"]["sha256"] == record["sha256"] and answer["record"]["loudness"] is not None
    at = f"/api/projects/{project}/listening/{record['sha256']}"
    # What is heard already is not called off, and the clip stays as it was.
    assert signed.send("DELETE", at).status_code == 204 and signed.client.get(at).json["share"] == 1.0
    states = signed.client.application.extensions["oak"].pictures.states
    document = signed.client.application.extensions["oak"].projects.read("local", project)[1]
    assert {s.state for s in states(document) if s.sha256 == record["sha256"]} == {"ready"}


def test_silence_is_taken_with_a_note_and_what_is_unknown_is_not_found(signed: Signed, project: str) -> None:
    silent = send(signed, project, wav(np.zeros(2 * RATE)), "rest.wav").json
    assert silent["note"] == "The file is silent." and silent["record"]["loudness"] is None and silent["record"]["beats"] is None
    signed.edit(project, {"edit": "add_sounds", "sounds": [{"id": "m", **silent["record"]}]})
    assert not heard(signed, project, 0, RATE).any()
    assert signed.client.get(f"/api/projects/{project}/sounds/none/peaks?end=9").status_code == 404
    assert signed.send("POST", f"/api/projects/{project}/sounds", data=b"x").json["faults"][0]["code"] == "sound.no_file"
    assert signed.client.get("/api/projects/elsewhere/sound").status_code == 404


def test_levels_reach_the_target_below_the_ceiling(signed: Signed, project: str) -> None:
    """A steady tone at the film's target, whatever the level of its file; a spiky one stays below the ceiling."""
    t = np.arange(8 * RATE) / RATE
    for level in (0.02, 0.6):
        record = send(signed, project, wav(level * np.sin(2 * np.pi * 997 * t)), "tone.wav").json["record"]
        name = f"m{int(level * 100)}"
        signed.edit(
            project,
            {"edit": "add_sounds", "sounds": [{"id": name, **record}]},
            {"edit": "set_songs", "ids": [name], "song": {"at": 0, "fade_out": 0}},
            {"edit": "set_mix", "mix": {"target": -20, "ceiling": -1}},
        )
        loud = heard(signed, project, 0, 6 * RATE)
        # A sine of 997 Hz in both channels measures -3.01 LUFS + 3 at full scale: its level in LUFS is 20 log10 of its amplitude.
        assert 20 * np.log10(np.abs(loud[RATE : 5 * RATE]).max()) == pytest.approx(-20, abs=0.6)
        signed.edit(project, {"edit": "remove_songs", "ids": [name]})
    record = send(signed, project, wav(clicks(8, 1.0, 0.9)), "spikes.wav").json["record"]
    signed.edit(
        project, {"edit": "add_sounds", "sounds": [{"id": "s", **record}]}, {"edit": "set_mix", "mix": {"target": -8, "ceiling": -6}}
    )
    assert np.abs(heard(signed, project, 0, 6 * RATE)).max() <= 10 ** (-5.9 / 20)
