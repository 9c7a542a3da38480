"""`./oak VERB`: verbs that need no server. Exit codes: 0 done, 1 the input is at fault, 2 usage."""

import argparse
import sys
from collections.abc import Callable, Sequence

from ..core.errors import OakError
from . import documents, films, sheets


def parser() -> argparse.ArgumentParser:
    """All verbs with their options."""
    root = argparse.ArgumentParser(prog="oak", description="Oak Lens over documents as files.")
    verbs = root.add_subparsers(dest="verb", required=True, metavar="VERB")
    documents.add_verbs(verbs)
    films.add_verbs(verbs)
    sheets.add_sheet_verb(verbs)
    return root


def main(argv: Sequence[str] | None = None) -> int:
    """Run one verb; every fault goes to standard error on a line with its path."""
    arguments = parser().parse_args(argv)
    run: Callable[[argparse.Namespace], int] = arguments.run
    try:
        return run(arguments)
    except OakError as error:
        for fault in error.faults:
            print(fault, file=sys.stderr)
        return 1
    except (FileNotFoundError, IsADirectoryError, NotADirectoryError, PermissionError) as error:
        print(f"{error.filename}: {error.strerror}. [file]", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("Stopped; nothing half-written is left.", file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
