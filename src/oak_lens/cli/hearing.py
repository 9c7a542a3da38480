"""The verb `hear`: a sound file heard through and put into a document, without a server."""

import argparse
import os
import sys
import tempfile
from dataclasses import asdict
from pathlib import Path

from ..core.edits import apply_edits, parse_edits
from ..media.folders import file_sha256
from ..media.listening import listen, note_of, record_of
from .files import read_document, write_document


def run_hear(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    beside = (arguments.out or arguments.document).resolve().parent
    with tempfile.TemporaryDirectory() as scratch:
        heard = asdict(listen(arguments.sound, Path(scratch) / "samples", Path(scratch) / "peaks.npy"))
    sha256 = file_sha256(arguments.sound)
    number = next(n for n in range(1, len(document.sounds) + 2) if f"m{n}" not in document.sounds)
    record = {**record_of(sha256, arguments.sound.name, heard), "file": os.path.relpath(arguments.sound.resolve(), beside)}
    document = apply_edits(document, parse_edits([{"edit": "add_sounds", "sounds": [{"id": f"m{number}", **record}]}]))
    write_document(arguments.out or arguments.document, document)
    if note := note_of(heard):
        print(note, file=sys.stderr)
    loudness = "silent" if record["loudness"] is None else f"{record['loudness']:.1f} LUFS"
    beats = record["beats"]
    told = "no beat" if beats is None else f"{len(beats['times'])} beats at {beats['tempo']:.1f} a minute"
    print(f"{arguments.sound}: {loudness}, peak {record['peak']:.1f} dBTP, {told}; a song of {arguments.out or arguments.document}")
    return 0
