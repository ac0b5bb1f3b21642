"""Run with ``python -m awlmark``."""

import sys

from awlmark.cli import main

if __name__ == "__main__":
    sys.exit(main())
