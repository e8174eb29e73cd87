"""``python -m lumvak``, and what the ``lumvak`` command calls."""

import os
import sys


def run() -> None:
    """Load the command line and run it; an interruption while it loads ends it in silence."""
    try:
        from lumvak.cli.main import main

        sys.exit(main())
    except KeyboardInterrupt:
        os._exit(130)


if __name__ == "__main__":
    run()
