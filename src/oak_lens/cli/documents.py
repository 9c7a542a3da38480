"""Verbs about documents: new, validate, schema, edit, evaluate. Each loads what it needs when it is run: checking a document is quick."""

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from ..core.document import Document, json_schema
from ..core.errors import Fault, InvalidPicture
from ..core.time import ticks
from .files import read_document, read_edits, write_document
from .options import join_option, length_option, moment_option, out_option, size_option


def add_verbs(verbs: Any) -> None:
    new = verbs.add_parser("new", help="a new document, one scene for each picture of a folder")
    new.add_argument("out", type=out_option, metavar="OUT.json")
    new.add_argument("--pictures", type=Path, required=True, metavar="DIR")
    new.add_argument("--size", type=size_option, default=(1920, 1080), metavar="WxH")
    new.add_argument("--rate", default="30")
    new.add_argument("--hold", type=length_option, default=3.0, metavar="SECONDS")
    new.add_argument("--join", type=join_option, default=("dissolve", 1.0), metavar="KIND:SECONDS")
    new.add_argument("--title")
    new.set_defaults(run=run_new)

    validate = verbs.add_parser("validate", help="check a document; every fault on a line")
    validate.add_argument("document", type=Path, metavar="DOC.json")
    validate.set_defaults(run=run_validate)

    schema = verbs.add_parser("schema", help="the JSON Schema of documents")
    schema.set_defaults(run=run_schema)

    edit = verbs.add_parser("edit", help="apply edits to a document")
    edit.add_argument("document", type=Path, metavar="DOC.json")
    edit.add_argument("edits", type=Path, metavar="EDITS.json")
    edit.add_argument("--out", type=out_option, required=True, metavar="OUT.json")
    edit.set_defaults(run=run_edit)

    evaluate = verbs.add_parser("evaluate", help="what the film shows at a moment, as JSON")
    evaluate.add_argument("document", type=Path, metavar="DOC.json")
    evaluate.add_argument("--at", type=moment_option, required=True, metavar="SECONDS")
    evaluate.set_defaults(run=run_evaluate)


def run_new(arguments: argparse.Namespace) -> int:
    from ..core.edits import apply_edits, parse_edits
    from ..media.folders import pictures_in

    records, faults = pictures_in(arguments.pictures, arguments.out.resolve().parent)
    for fault in faults:
        print(fault, file=sys.stderr)
    if not records:
        raise InvalidPicture([Fault("picture.none", str(arguments.pictures), "There is no usable picture in this folder.")])
    width, height = arguments.size
    kind, join_seconds = arguments.join
    edits = parse_edits(
        [
            {"edit": "set_title", "title": arguments.title or arguments.pictures.resolve().name},
            {"edit": "set_frame", "width": width, "height": height, "rate": arguments.rate},
            {"edit": "set_defaults", "hold": ticks(arguments.hold), "join": {"kind": kind, "length": ticks(join_seconds)}},
            {"edit": "add_pictures", "pictures": records},
            {"edit": "add_scenes", "scenes": [{"id": f"s{i}", "media": r["id"]} for i, r in enumerate(records, start=1)]},
        ]
    )
    write_document(arguments.out, apply_edits(Document(), edits))
    print(f"{arguments.out}: {len(records)} scenes" + (f"; {len(faults)} files left out" if faults else ""))
    return 0


def run_validate(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    print(f"{arguments.document}: valid, {len(document.scenes)} scenes, {len(document.media)} pictures")
    return 0


def run_schema(arguments: argparse.Namespace) -> int:
    print(json.dumps(json_schema(), indent=1))
    return 0


def run_edit(arguments: argparse.Namespace) -> int:
    from ..core.edits import apply_edits, parse_edits

    document = apply_edits(read_document(arguments.document), parse_edits(read_edits(arguments.edits)))
    write_document(arguments.out, document)
    return 0


def run_evaluate(arguments: argparse.Namespace) -> int:
    from ..core.draw import plain
    from ..core.evaluate import film_at, layer_corners_px, timeline_of

    document = read_document(arguments.document)
    picturing = film_at(document, timeline_of(document), ticks(arguments.at))
    print(
        json.dumps(
            {
                "at_seconds": arguments.at,
                "frame_px": [document.frame.width, document.frame.height],
                "layers": layer_corners_px(picturing, document.frame.height),
                "draw": plain(picturing),
            },
            indent=1,
        )
    )
    return 0
