"""Write the documents that are made from the code: the OpenAPI document, the schemas of camera sheet, kit and shoot, the palette, the limits, the traits of scenarios and the page of the demo cameras.

Usage: .venv/bin/python -m scripts.documents
"""

from __future__ import annotations

import json
from pathlib import Path

from scripts.fleet import fleet_page
from steady_tide import library
from steady_tide.api.app import make_app
from steady_tide.api.kit import kit_schema, sheet_schema
from steady_tide.core.shoot.shoot_file import ShootFile
from steady_tide.store.database import Database

DOCS = Path(__file__).parents[1] / "docs"
WEB = Path(__file__).parents[1] / "web"
CORE = Path(__file__).parents[1] / "steady_tide" / "core"


def palette_css() -> str:
    """The palette and the type scale as the interface's styles have them."""
    palette = library.palette()
    blocks = ["/* Written by scripts/documents.py from steady_tide/library/palette.yaml. */"]
    for ground, colours in palette.grounds.items():
        values = [f"--{name}: {colour};" for name, colour in colours.items()]
        if ground == "print":
            inner = "\n".join(f"    {value}" for value in values)
            blocks.append(f"@media print {{\n  :root,\n  [data-ground] {{\n{inner}\n  }}\n}}")
        else:
            at = f'[data-ground="{ground}"]'
            inner = "\n".join(f"  {value}" for value in values)
            blocks.append(f"{f':root,{chr(10)}{at}' if ground == 'day' else at} {{\n{inner}\n}}")
    sizes = "\n".join(f"  --text-{name}: {size:g}px;" for name, size in palette.type.items())
    blocks.append(f"@theme {{\n  --text-*: initial;\n{sizes}\n}}")
    return "\n\n".join(blocks) + "\n"


def limits_module() -> str:
    """The module with a field for each limit of `weights.yaml`. Returns its text."""
    fields = "".join(f"    {name}: float\n" for name in library.limit_names())
    return f'''"""Numbers of judgement that are no weights. Written by scripts/documents.py from `library/weights.yaml`, where each has its sentence."""

from __future__ import annotations

from steady_tide.core.quantities.frozen import Frozen


class Limits(Frozen):
    """One field for each limit of `library/weights.yaml`. A limit that nothing uses fails the build."""

{fields}'''


def traits_module() -> str:
    """The module with the traits of each scenario of `scenarios.yaml`. Returns its text."""
    rows = "".join(
        f'    "{name}": Traits({", ".join(f"{trait}=True" for trait in traits)}),\n'
        for name, traits in library.scenario_traits().items()
    )
    return f'''"""Traits of each scenario. Written by scripts/documents.py from `library/scenarios.yaml`."""

from __future__ import annotations

from steady_tide.core.brief.traits import Traits

OF_SCENARIO: dict[str, Traits] = {{
{rows}}}
'''


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
    (DOCS / "fleet.md").write_text(fleet_page(), encoding="utf-8")
    (CORE / "quantities" / "limits.py").write_text(limits_module(), encoding="utf-8")
    (CORE / "brief" / "scenario_traits.py").write_text(traits_module(), encoding="utf-8")
    (WEB / "src" / "app" / "palette.css").write_text(palette_css(), encoding="utf-8")


if __name__ == "__main__":
    main()
