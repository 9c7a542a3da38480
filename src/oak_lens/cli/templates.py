"""`./oak template pack|check|open`: templates as files, without a server."""

import argparse
from pathlib import Path
from typing import Any

from ..core.document import Document
from ..core.errors import Fault, NotFound
from .files import read_document, write_document
from .options import folder_option, out_option


def add_verbs(verbs: Any) -> None:
    root = verbs.add_parser("template", help="templates as files: pack, check, open")
    does = root.add_subparsers(dest="does", required=True, metavar="pack|check|open")

    pack = does.add_parser("pack", help="a template of a document, with the pictures beside that, into one file")
    pack.add_argument("document", type=Path, metavar="DOC.json")
    pack.add_argument("template", metavar="ID", help="of the template in the document; also what it is called for good")
    pack.add_argument("--version", default="1.0.0")
    pack.add_argument("--out", type=out_option, required=True, metavar="X.oaktemplate")
    pack.set_defaults(run=run_pack)

    check = does.add_parser("check", help="whether a file is a template that can be opened")
    check.add_argument("file", type=Path, metavar="X.oaktemplate")
    check.set_defaults(run=run_check)

    opened = does.add_parser("open", help="a template's document and pictures into a folder")
    opened.add_argument("file", type=Path, metavar="X.oaktemplate")
    opened.add_argument("--out", type=folder_option, required=True, metavar="DIR")
    opened.set_defaults(run=run_open)


def run_pack(arguments: argparse.Namespace) -> int:
    from ..core.templates import extracted
    from ..media.template_files import pack_template

    document = read_document(arguments.document)
    if arguments.template not in document.templates:
        raise NotFound([Fault("template.not_found", f"templates.{arguments.template}", f"The document holds no such template; it holds {', '.join(document.templates) or 'none'}.")])
    content = extracted(document, arguments.template, arguments.template, arguments.version)
    beside = arguments.document.resolve().parent
    part = arguments.out.with_name(f".{arguments.out.name}.part")
    try:
        with part.open("wb") as out:
            manifest = pack_template(out, content, lambda sha256: _beside(document, beside, sha256), lambda sha256: beside / f"{sha256}.ttf", author=document.details.author, licence=document.details.rights)
        part.replace(arguments.out)
    finally:
        part.unlink(missing_ok=True)
    print(f"{arguments.out}: “{manifest.name}” {manifest.version}, {len(manifest.parts)} parts")
    return 0


def _beside(document: Document, folder: Path, sha256: str) -> Path:
    return folder / next(m.file for m in document.media.values() if m.sha256 == sha256)


def run_check(arguments: argparse.Namespace) -> int:
    import io

    from ..media.packages import Package
    from ..media.template_files import opened_template

    with arguments.file.open("rb") as file:
        package = Package(file)
        content = opened_template(package)
        for part in package.manifest.parts:
            package.copy(part, io.BytesIO())
    zones, dials = len(content.record.zones), len(content.record.dials)
    print(f"{arguments.file}: whole; “{content.record.name}” {content.version}, {len(content.parts)} scenes, {zones} zones, {dials} dials")
    return 0


def run_open(arguments: argparse.Namespace) -> int:
    from ..media.packages import Package
    from ..media.template_files import opened_template

    with arguments.file.open("rb") as file:
        package = Package(file)
        content = opened_template(package)
        arguments.out.mkdir(parents=True, exist_ok=True)
        files = {}
        for part in package.manifest.parts:
            if "/" in part.path:
                name = part.path.split("/")[1]
                with (arguments.out / name).open("wb") as out:
                    package.copy(part, out)
                files[part.sha256] = name
    document = content.document
    media = {k: m.model_copy(update={"file": files.get(m.sha256, m.file)}) for k, m in document.media.items()}
    write_document(arguments.out / "document.json", document.model_copy(update={"media": media}))
    print(f"{arguments.out}: “{content.record.name}” {content.version}, {len(files)} files")
    return 0
