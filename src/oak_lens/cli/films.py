"""Verbs that make pictures and sound: frame, render, fill, hear, sheets. What they do is loaded when one of them is asked for."""

import argparse
import os
from pathlib import Path
from typing import Any

from ..core.delivery.kinds import KINDS
from ..core.time import RATES
from .options import folder_option, moment_option, out_option, range_option, size_option

QUALITIES = ("draft", "good", "best")


def add_verbs(verbs: Any) -> None:
    frame = verbs.add_parser("frame", help="one frame of the film as PNG")
    frame.add_argument("document", type=Path, metavar="DOC.json")
    frame.add_argument("--at", type=moment_option, required=True, metavar="SECONDS")
    frame.add_argument("--out", type=out_option, required=True, metavar="X.png")
    frame.add_argument("--size", type=size_option, metavar="WxH")
    frame.set_defaults(run=_frame)

    render = verbs.add_parser("render", help="the film, its pictures or its sound, by the file's ending or --kind")
    render.add_argument("document", type=Path, metavar="DOC.json")
    render.add_argument("--out", type=out_option, required=True, metavar="FILM.mp4")
    render.add_argument("--kind", choices=[k.id for k in KINDS], help="; ".join(f"{k.id}: {k.label}" for k in KINDS))
    render.add_argument("--transparent", action="store_true", help="what nothing covers stays see-through")
    render.add_argument("--rate", choices=[r.label for r in RATES], help="frames a second; without it the project's")
    render.add_argument("--range", type=range_option, metavar="A:B", help="seconds")
    render.add_argument("--size", type=size_option, metavar="WxH")
    render.add_argument("--quality", choices=QUALITIES, default="good")
    render.add_argument("--processes", type=int, default=os.cpu_count() or 1)
    render.add_argument("--keep", type=folder_option, metavar="DIR", help="keep coded segments here, and reuse what has not changed")
    render.set_defaults(run=_render)

    fill = verbs.add_parser("fill", help="a film of each row of a table, by a template")
    fill.add_argument("template", metavar="TEMPLATE", help="X.oaktemplate, or the id of one that ships")
    fill.add_argument("--table", type=Path, required=True, metavar="X.csv", help="its first row names the columns; each other makes a film")
    fill.add_argument("--pictures", type=Path, metavar="DIR", help="pictures that the table names, or, if it names none, that are in every film")
    fill.add_argument("--out", type=folder_option, required=True, metavar="DIR")
    fill.add_argument("--match", action="append", default=[], metavar="COLUMN=TARGET", help="what a column is for, by label or id, where its name does not say so")
    fill.add_argument("--name", metavar="PATTERN", help="what the films are called: {Column}, {number}; without it the first column")
    fill.add_argument("--size", type=size_option, metavar="WxH", help="of the frame; the film is laid out for its shape")
    fill.add_argument("--quality", choices=QUALITIES, default="good")
    fill.add_argument("--processes", type=int, default=os.cpu_count() or 1)
    fill.add_argument("--check", action="store_true", help="say what is wrong with which row, and render nothing")
    fill.set_defaults(run=_fill)

    hear = verbs.add_parser("hear", help="put a sound file into a document as a song, with its loudness, peak and beats")
    hear.add_argument("sound", type=Path, metavar="SOUND")
    hear.add_argument("--into", type=Path, required=True, metavar="DOC.json", dest="document")
    hear.add_argument("--out", type=out_option, metavar="OUT.json", help="write the document here instead")
    hear.set_defaults(run=_hear)

    sheets = verbs.add_parser("sheets", help="paint sheets of all looks, layouts, surfaces and joins with the pictures of a folder")
    sheets.add_argument("--pictures", type=Path, required=True, metavar="DIR")
    sheets.add_argument("--out", type=folder_option, required=True, metavar="DIR")
    sheets.set_defaults(run=_sheets)


def _frame(arguments: argparse.Namespace) -> int:
    from .rendering import run_frame

    return run_frame(arguments)


def _render(arguments: argparse.Namespace) -> int:
    from .rendering import run_render

    return run_render(arguments)


def _fill(arguments: argparse.Namespace) -> int:
    from .filling import run_fill

    return run_fill(arguments)


def _hear(arguments: argparse.Namespace) -> int:
    from .hearing import run_hear

    return run_hear(arguments)


def _sheets(arguments: argparse.Namespace) -> int:
    from .sheets import run_sheets

    return run_sheets(arguments)
