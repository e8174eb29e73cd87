"""``python -m lumvak``."""

import sys

from lumvak.cli.main import main

sys.exit(main())
