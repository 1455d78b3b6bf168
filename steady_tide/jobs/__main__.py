"""A worker beside the service: `python -m steady_tide.jobs NAME LANE...`; the database's address comes in the environment."""

from __future__ import annotations

import os
import sys

from steady_tide.jobs.worker import ADDRESS, main
from steady_tide.services.memory import look_seldom

if __name__ == "__main__":
    look_seldom()
    sys.exit(main(os.environ[ADDRESS], sys.argv[2:], sys.argv[1], with_parent=True))
