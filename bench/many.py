"""Ten thousand shots: how long a page of a list, a list and a budget take. Beside each stands an empty request.

Usage: .venv/bin/python bench/many.py [--shoots 20]
"""

from __future__ import annotations

import argparse
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import httpx
from sqlalchemy import text

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))


def main() -> None:
    """Fill, measure, print."""
    from steady_tide.core import sizes
    from steady_tide.launch.cluster import Cluster
    from steady_tide.store.database import Database
    from tests.briefs import QUAY, SUN
    from tests.service import serving

    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--shoots", type=int, default=20)
    asked = parser.parse_args()
    with tempfile.TemporaryDirectory(prefix="steady-tide-bench-") as folder:
        Path(folder).chmod(0o755)
        cluster = Cluster(Path(folder) / "data")
        cluster.start()
        database = Database(cluster.url)
        database.migrate()
        try:
            with serving(database) as at, httpx.Client(base_url=at, timeout=120) as client:
                for number in range(asked.shoots):
                    shoot = client.post("/api/shoots", json={"title": f"day {number}"}).json()["id"]
                    brief = {"light": SUN, **QUAY, "title": f"of {number}"}
                    first = client.post(f"/api/shoots/{shoot}/shots", json={"brief": brief}).json()["id"]
                    columns = "shoot_id, starts_at, brief, plan, summary, made_from, made_on, wishes, revision"
                    with database.session() as session:
                        session.execute(
                            text(
                                f"insert into shots (id, position, {columns}) select gen_random_uuid(), n, {columns} "
                                "from shots, generate_series(2, :count) n where id = :first"
                            ),
                            {"count": sizes.SHOTS, "first": first},
                        )

                def median(call: Callable[[], httpx.Response], runs: int = 5) -> str:
                    found = []
                    for _ in range(runs):
                        began = time.perf_counter()
                        assert call().status_code == 200
                        found.append(1e3 * (time.perf_counter() - began))
                    return f"{statistics.median(found):6.0f} ms, most {max(found):6.0f}"

                print(f"{asked.shoots * sizes.SHOTS} shots in {asked.shoots} shoots of {sizes.SHOTS}")
                print("empty request     ", median(lambda: client.get("/api/health")))
                print("all shoots        ", median(lambda: client.get("/api/shoots")))
                at = f"/api/shoots/{shoot}"
                print("a page of 100     ", median(lambda: client.get(f"{at}/shots", params={"limit": 100})))
                print("a list of 500     ", median(lambda: client.get(f"{at}/shots")))
                print("a budget of 500   ", median(lambda: client.get(f"{at}/budget"), 3))
        finally:
            database.close()
            cluster.stop()


if __name__ == "__main__":
    main()
