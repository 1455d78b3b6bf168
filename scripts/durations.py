"""Keep how long each file of tests takes, so that long ones begin first and `./test --changed` knows what fits.

Usage: .venv/bin/python -m scripts.durations JUNIT.xml
"""

from __future__ import annotations

import json
import sys
import xml.etree.ElementTree as ElementTree
from collections import defaultdict
from pathlib import Path

ROOT = Path(__file__).parents[1]
KEPT = ROOT / "tests" / "durations.json"


def durations(report: Path) -> dict[str, float]:
    """Seconds by file of tests. report: as pytest's --junitxml writes it. Returns them, the longest first."""
    found: dict[str, float] = defaultdict(float)
    for case in ElementTree.parse(report).iter("testcase"):
        file = f"{str(case.get('classname')).replace('.', '/')}.py"
        found[file] += float(case.get("time", 0.0))
    there = {file: round(seconds, 1) for file, seconds in found.items() if (ROOT / file).is_file()}
    return dict(sorted(there.items(), key=lambda entry: -entry[1]))


if __name__ == "__main__":
    KEPT.write_text(json.dumps(durations(Path(sys.argv[1])), indent=1) + "\n")
