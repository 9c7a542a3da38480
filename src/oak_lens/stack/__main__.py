"""`./oak start`. What takes longest begins first: reading everything, while we read what starts the database."""

import sys

from .nursery import nursery

nursery.begin()

from .start import main  # noqa: E402

sys.exit(main())
