"""Let the simulated camera film the demo's takes: run `python -m steady_tide.demo.record`, after which the files are shipped.

Each file stands in `demo/rushes`, its truth in `demo/rushes/truth.yaml`. Run it again when Look or the planner changed what
they show.
"""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path
from typing import Any

import yaml

from steady_tide import library
from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.planning.planner import plan
from steady_tide.standins.camera import Faults, film_take

HERE = Path(__file__).parent
DAY = HERE / "trial_evening.yaml"
RUSHES = HERE / "rushes"
SECONDS, BITS_PER_PIXEL = 1.4, 0.08
DAMAGED = "flour_3.mp4"  # the last one, of which the card lost the end


def trial_day() -> dict[str, Any]:
    """The day as it is written down."""
    found: dict[str, Any] = yaml.safe_load(DAY.read_text(encoding="utf-8"))
    return found


def main() -> None:
    """Film all of them."""
    day, kit, knowledge, crew = trial_day(), library.demo_kit(), library.knowledge(), School()
    shots = {shot["id"]: shot for shot in day["shots"]}
    truth: dict[str, Any] = {}
    RUSHES.mkdir(exist_ok=True)
    for take in day["takes"]:
        shot = shots[take["shot"]]
        brief = read_brief({**shot["brief"], "mains_hz": day["shoot"]["mains_hz"]})
        found = plan(brief, kit, knowledge, crew=crew, schools=False)
        ahead = timedelta(seconds=day["clocks"][found.camera.id])
        names = ("light_stops", "shake_times", "ripple", "settings", "repeat_every", "sound")
        faults = Faults(**{name: take[name] for name in names if name in take})
        truth[take["file"]] = {
            "shot": shot["brief"]["title"],
            "as": take["as"],
            **film_take(
                RUSHES / take["file"], brief, found.chosen, faults, kit, knowledge, crew,
                shot["starts_at"] + timedelta(seconds=take["after_s"]) + ahead, found.camera.name,
                SECONDS, take["seed"], BITS_PER_PIXEL,
            ),
        }  # fmt: skip
        print(take["file"], truth[take["file"]], flush=True)
    whole = (RUSHES / day["takes"][-1]["file"]).read_bytes()
    (RUSHES / DAMAGED).write_bytes(whole[: len(whole) // 40])
    (RUSHES / "truth.yaml").write_text(yaml.safe_dump(truth, sort_keys=False), encoding="utf-8")


if __name__ == "__main__":
    main()
