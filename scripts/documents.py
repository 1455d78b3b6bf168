"""Write the documents that are made from the code: the OpenAPI document and the schemas of camera sheet, kit and shoot.

Usage: .venv/bin/python scripts/documents.py
"""

from __future__ import annotations

import json
from pathlib import Path

from steady_tide.api.app import make_app
from steady_tide.api.kit import kit_schema, sheet_schema
from steady_tide.core.shoot.shoot_file import ShootFile
from steady_tide.store.database import Database

DOCS = Path(__file__).parents[1] / "docs"


def main() -> None:
    """Write them all."""
    app = make_app(Database("postgresql+psycopg://nobody@127.0.0.1:1/never-connected"))
    shoot = {"$schema": "https://json-schema.org/draft/2020-12/schema", **ShootFile.model_json_schema()}
    made = {
        "openapi.json": app.openapi(),
        "camera-sheet.schema.json": sheet_schema(),
        "kit.schema.json": kit_schema(),
        "shoot.schema.json": shoot,
    }
    for name, document in made.items():
        (DOCS / name).write_text(json.dumps(document, indent=2, ensure_ascii=False) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
