"""`./oak VERB`: verbs that need no server. Exit codes: 0 done, 1 the input is at fault, 2 usage."""

import gc

# Nothing that is loaded here is let go of again: looking for it would take a quarter of the start.
gc.disable()

import argparse  # noqa: E402
import sys  # noqa: E402
from collections.abc import Callable, Sequence  # noqa: E402

from ..core.errors import OakError  # noqa: E402
from ..core.letters import bring_faces  # noqa: E402
from ..core.templates import bring_templates  # noqa: E402
from ..core.treatments import SHELF  # noqa: E402
from ..media.faces import ShippedFaces  # noqa: E402
from . import documents, films, templates  # noqa: E402

gc.freeze()
gc.enable()


def parser() -> argparse.ArgumentParser:
    """All verbs with their options."""
    root = argparse.ArgumentParser(prog="oak", description="Oak Lens over documents as files.")
    verbs = root.add_subparsers(dest="verb", required=True, metavar="VERB")
    documents.add_verbs(verbs)
    films.add_verbs(verbs)
    templates.add_verbs(verbs)
    return root


def main(argv: Sequence[str] | None = None) -> int:
    """Run one verb; every fault goes to standard error on a line with its path."""
    arguments = parser().parse_args(argv)
    bring_faces(ShippedFaces())
    bring_templates(SHELF)
    run: Callable[[argparse.Namespace], int] = arguments.run
    try:
        return run(arguments)
    except OakError as error:
        for fault in error.faults:
            print(fault, file=sys.stderr)
        return 1
    except OSError as error:
        name = str(error.filename or "")[:200]
        print(f"{name + ': ' if name else ''}{error.strerror or type(error).__name__}. [file]", file=sys.stderr)
        return 1
    except MemoryError:
        print("There is not enough memory for this. Try a smaller size. [memory]", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("Stopped; nothing half-written is left.", file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
