"""The house itself: layers, documents, locks, and what must not stand in it."""

from __future__ import annotations

import ast
import json
import re
import subprocess
import sys
from importlib.metadata import packages_distributions
from pathlib import Path
from typing import get_args

import numpy as np
import pytest

from scripts.documents import limits_module, traits_module
from scripts.fleet import fleet_page
from steady_tide import library
from steady_tide.api.kit import KitView, ThingKind, Vocabulary
from steady_tide.core.brief.brief import KitList
from steady_tide.core.brief.traits import TRAITS
from steady_tide.core.gear.items import KINDS
from steady_tide.core.gear.kit import TAKEN_ALONG, Kit
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.outing.schedule import LIGHT_WINDOWS
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.pinning import dials_of
from steady_tide.core.planning.situation import situation
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.limits import Limits
from steady_tide.formats.shoot_zip import write_shoot_json
from steady_tide.formats.shots_csv import COLUMNS, SHOWN_ONLY
from steady_tide.standins.grey_card import SimulatedSensor
from tests.briefs import SUN, brief
from tests.checks import at_least_one
from tests.days import demo_shoot
from tests.films import mill_shoot
from tests.footage import film, view
from tests.sample_media import clip, grey_card, picture, still
from tests.shell import answer, steady_tide
from tests.small_sheet import laid_out, small_sheet, small_sheet_data

ROOT = Path(__file__).parents[1]


def tracked(*patterns: str) -> list[Path]:
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard", *patterns], cwd=ROOT, capture_output=True, text=True
    )
    return [ROOT / line for line in listed.stdout.splitlines() if (ROOT / line).is_file()]


@pytest.mark.parametrize("lock", ["requirements.lock", "requirements-dev.lock"])
def test_python_locks_are_pinned_with_hashes_and_name_no_host(lock: str) -> None:
    text = (ROOT / lock).read_text()
    assert "://" not in re.sub(r"#.*", "", text)
    for package in re.findall(r"^([a-z0-9-]+)(?:\[[^\]]*\])?==", text, re.M):
        assert re.search(rf"^{package}(?:\[[^\]]*\])?==[^\n]+\\\n\s+--hash=sha256:", text, re.M), package


def test_the_run_time_lock_agrees_with_the_test_lock() -> None:
    versions = [
        dict(re.findall(r"^([a-z0-9-]+)(?:\[[^\]]*\])?==(\S+)", (ROOT / lock).read_text(), re.M))
        for lock in ("requirements.lock", "requirements-dev.lock")
    ]
    assert versions[0].items() <= versions[1].items()


def test_the_front_end_lock_names_no_host() -> None:
    lock = (ROOT / "web" / "package-lock.json").read_text()
    assert '"resolved"' not in lock
    packages = json.loads(lock)["packages"]
    assert all("integrity" in entry for name, entry in packages.items() if name)


def test_every_dial_of_the_sheet_is_a_dial_of_the_planner() -> None:
    space = laid_out(small_sheet(), situation(brief(), library.knowledge(), USUAL))
    listed = [dial.id for dial in dials_of(space, USUAL.dials).values() if dial.listed]
    assert sorted(listed) == sorted(USUAL.listed)


def test_every_listed_dial_stands_in_one_row() -> None:
    shown = [dial for _, dials in USUAL.rows for dial in dials]
    assert sorted(shown) == sorted(USUAL.listed)


def test_shortcuts_do_not_clash_and_every_row_has_one() -> None:
    text = (ROOT / "web/src/parts/shortcuts.ts").read_text()
    entries = re.findall(r'id: "([\w-]+)", key: "(.)", says: "[^"]+", where: "(\w+)"', text)
    assert len(entries) >= 20
    for where in ("bench", "shoots", "card", "kit"):
        keys = [key for _, key, station in entries if station in (where, "anywhere")]
        assert len(keys) == len(set(keys)), where
    assert {f"row-{row.id}" for row, _ in USUAL.rows} == {name for name, _, _ in entries if name.startswith("row-")}


def test_the_map_of_the_house_leads_somewhere() -> None:
    text = (ROOT / "CONTRIBUTING.md").read_text()
    table = [line for line in text.splitlines() if line.startswith("| ")]
    named = {name for line in table for name in re.findall(r"`([\w./-]+)`", line)}
    paths = {name for name in named if "/" in name}
    assert len(paths) > 80
    for path in paths:
        assert any((ROOT / below / path).exists() for below in ("", "steady_tide", "web/src")), path
    # Each registry is named beside the file that it stands in.
    for registry in ("USUAL", "ROWS", "KINDS", "FORMS", "basis_of", "limits", "sources", "DialKind", "Item"):
        line = next((line for line in table if f"`{registry}`" in line), "")
        files = [ROOT / "steady_tide" / path for path in re.findall(r"`([\w./-]+/[\w./-]+)`", line)]
        places = [file for folder in files for file in (folder.glob("*.*") if folder.is_dir() else [folder])]
        assert any(registry in file.read_text() for file in places if file.is_file()), registry


LAYERS = ("changes", "api", "parts", "instruments", "stations", "app")


def test_imports_of_the_interface_run_downwards() -> None:
    root = ROOT / "web" / "src"
    imported = re.compile(r'(?:from|import)\(?\s*"(\.[^"]+)"')
    files = sorted(root.rglob("*.ts*"))
    for file, target in at_least_one((one, name) for one in files for name in imported.findall(one.read_text())):
        own = file.relative_to(root).parts
        other = (file.parent / target).resolve().relative_to(root).parts
        assert LAYERS.index(other[0]) <= LAYERS.index(own[0]), f"{file.name} imports {target}"


# Modules that judge: what is too much, what matters, what is worth a word.
JUDGING = (
    *(
        f"core/planning/items/{name}.py"
        for name in ("independent", "cast", "exposure", "framing", "motion", "recording")
    ),
    *(f"core/planning/{name}.py" for name in ("power_and_cards", "situation", "advice", "ranking")),
    *(f"core/outing/{name}.py" for name in ("packing", "day_task")),
    *(f"core/rushes/{name}.py" for name in ("planned_and_filmed", "verdict", "takes", "report")),
    *(f"core/log/{name}.py" for name in ("recurring", "ladder")),
)
# Nothing, one and two, the halves of a span, percent, and what units hold of each other.
INNOCENT = {0, 1, 2, 0.5, 100, 60, 3600, 1000, 1e6, 2e6, 1e-9, 1e9, 8}
NO_JUDGEMENT = {"1e-06": "keeps a division finite", "6000": "parts of a stop for whole numbers", "9": "digits"}


def parsed(code: str) -> ast.AST:
    """Parse some code. This Python now and then loses count of how deep it is (its issue 106905), and then says so."""
    for _ in range(3):
        try:
            return ast.parse(code)
        except SystemError:
            continue
    return ast.parse(code)


def test_no_number_of_judgement_stands_in_the_code() -> None:
    found = []
    for name in JUDGING:
        for node in ast.walk(parsed((ROOT / "steady_tide" / name).read_text())):
            number = isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.value
            if number and number not in INNOCENT and str(number) not in NO_JUDGEMENT:
                found.append(f"{name}:{node.lineno}: {number}")
    assert not found, "belongs into limits of weights.yaml, with its sentence: " + "; ".join(found)


def test_every_number_of_judgement_has_its_sentence_and_is_used() -> None:
    for name, limit in library.knowledge().weights.limits.items():
        assert len(limit.why.split()) >= 3, name
    used = set()
    for file in (ROOT / "steady_tide").rglob("*.py"):
        for node in ast.walk(parsed(file.read_text())):
            if isinstance(node, ast.Attribute) and ast.unparse(node.value).endswith("limits"):
                used.add(node.attr)
    written = (ROOT / "steady_tide" / "core" / "quantities" / "limits.py").read_text()
    assert written == limits_module(), "run scripts/documents.py"
    unused = set(Limits.model_fields) - used
    assert not unused, f"nothing uses these limits; take them out of weights.yaml and limits.py: {sorted(unused)}"


def test_the_traits_of_scenarios_are_those_of_the_library() -> None:
    written = (ROOT / "steady_tide" / "core" / "brief" / "scenario_traits.py").read_text()
    assert written == traits_module(), "run scripts/documents.py"
    used = "\n".join(file.read_text() for file in (ROOT / "steady_tide" / "core").rglob("*.py"))
    for trait in TRAITS:
        assert re.search(rf"traits\.{trait}\b|self\.{trait}\b", used), f"nothing asks for {trait}"


def test_no_scenario_and_no_mount_is_asked_for_by_its_name() -> None:
    """The code asks for traits; so another scenario or mount is a line of data."""
    knowledge = library.knowledge()
    names = {*knowledge.scenarios, *knowledge.mounts}
    found = []
    for file in (ROOT / "steady_tide").rglob("*.py"):
        for node in ast.walk(parsed(file.read_text())):
            if not isinstance(node, ast.Compare):
                continue
            asked = {ast.unparse(side).rsplit(".", 1)[-1] for side in (node.left, *node.comparators)}
            constants = {n.value for n in ast.walk(node) if isinstance(n, ast.Constant) and isinstance(n.value, str)}
            if (asked & {"scenario", "mount", "kind"} and constants & names) or "mount.id" in ast.unparse(node):
                found.append(f"{file.name}:{node.lineno}: {ast.unparse(node)}")
    for file in (ROOT / "web" / "src").rglob("*.ts*"):
        for name in names if file.name != "schema.d.ts" else ():
            if re.search(rf"(scenario|mount|\bid|kind) [!=]== \"{name}\"", file.read_text()):
                found.append(f"{file.name}: {name}")
    assert not found, "ask for a trait, from scenarios.yaml or mounts.yaml: " + "; ".join(found)


def test_every_limit_of_size_is_used() -> None:
    code = "\n".join(file.read_text() for file in (ROOT / "steady_tide").rglob("*.py") if file.name != "sizes.py")
    table = (ROOT / "steady_tide/core/quantities/sizes.py").read_text()
    lines = re.findall(r"^([A-Z_]+(?:, [A-Z_]+)*) = ", table, re.M)
    for size in at_least_one(size for line in lines for size in line.split(", ")):
        assert f"sizes.{size}" in code or len(re.findall(rf"\b{size}\b", table)) > 1, size


def test_every_public_function_of_the_core_says_what_it_does() -> None:
    files = (ROOT / "steady_tide/core").rglob("*.py")
    public = re.compile(r'^def ([a-z]\w*)\((?:.|\n)*?\) -> [^\n]*:\n(\s+""")?', re.M)
    for file, found in at_least_one((one, found) for one in files for found in public.finditer(one.read_text())):
        assert found.group(2), f"{file.name}: {found.group(1)} has no summary"


def test_links_and_pictures_of_the_documents_exist() -> None:
    documents = [ROOT / name for name in ("README.md", "CONTRIBUTING.md", "CHANGELOG.md")]
    documents += sorted((ROOT / "docs").glob("*.md"))
    links = re.compile(r"\]\(([^)#\s]+)\)")
    for document, target in at_least_one((one, link) for one in documents for link in links.findall(one.read_text())):
        assert document.parent.joinpath(target).exists(), f"{document.name}: {target}"


def own_gear(folder: Path) -> None:
    """The files that the examples of one's own gear name."""
    (folder / "modes.csv").write_text('Size,FPS,View\n4K 16:9,"60, 50, 30, 25",wide\n1080p,"240, 120",wide\n')
    clip(folder / "clip.mp4", 1920, 1080, "30")
    still(folder / "still.jpg")
    grey_card(folder, SimulatedSensor(read_noise_e=2.7, full_well_e=5600.0))
    for name, level in (("without.png", 0.4), ("with.png", 0.38)):
        (folder / name).write_bytes(picture(np.full((120, 160, 3), level)))


def test_every_field_of_every_kind_of_gear_stands_in_its_form() -> None:
    forms = {form.id: form for form in library.gear_forms()}
    assert set(forms) == set(KINDS)
    for kind, model in KINDS.items():
        shown = {field.path for field in forms[kind].fields}
        assert shown == set(model.model_fields) - {"id", "name"}, kind
        assert {field.when.path for field in forms[kind].fields if field.when} <= shown


def test_every_kind_of_gear_goes_everywhere() -> None:
    """Files, the Kit and its routes take every kind; the planner, a brief's list and its words all that is taken along."""
    kinds, along = set(KINDS), set(TAKEN_ALONG)
    assert set(KitFile.model_fields) - {"format", "version", "cameras", "keeping"} == kinds
    assert set(get_args(ThingKind)) == kinds
    assert kinds <= set(KitView.model_fields)
    assert set(Kit.model_fields) - {"cameras"} == along == kinds - {"mounts", "chemistries"}
    assert set(KitList.model_fields) - {"cameras"} <= along
    assert along <= set(Vocabulary.model_fields)


def test_every_source_that_is_named_stands_in_the_bibliography() -> None:
    named = {
        key
        for file in (ROOT / "steady_tide").rglob("*.py")
        for key in re.findall(r"\b[Ss]ource: ([a-z]+[0-9-][a-z0-9-]*)", file.read_text())
    }
    assert named >= {"photon-transfer", "iso2720", "sd-speed"}
    assert named <= set(library.knowledge().weights.sources)


def test_the_page_on_gear_says_the_limits_that_hold() -> None:
    text = (ROOT / "docs" / "kit.md").read_text()
    assert f"first {sizes.in_mb(sizes.CLIP_HEAD)} MB and the last {sizes.in_mb(sizes.CLIP_TAIL)} MB" in text
    assert f"above {sizes.CLIP // sizes.GB} GB" in text
    for word in ("fisheye", "rectilinear level", "strongest", "mezzanine"):
        assert word in text


def test_the_page_on_keeping_says_the_limits_that_hold() -> None:
    text = " ".join((ROOT / "docs" / "keeping.md").read_text().split())
    assert f"{sizes.SHOTS} shots of {sizes.SHOT // sizes.KB} kB" in text
    assert f"{sizes.TICKS} ticks and {sizes.REALLY_SET} notes" in text
    assert f"{sizes.CAMERAS} cameras and {sizes.THINGS} of each other kind, {sizes.in_mb(sizes.KIT)} MB" in text
    assert f"up to {sizes.in_mb(sizes.YAML)} MB, tracks and dives up to {sizes.in_mb(sizes.TRACK_OR_DIVE)} MB" in text


def test_the_shell_examples_of_the_readme_run(tmp_path: Path) -> None:
    text = (ROOT / "README.md").read_text()
    brief = re.search(r"```json\n(.*?)```", text, re.S)
    shown = re.search(r"```text\n(.*?)```", text, re.S)
    commands = re.findall(r"^\.venv/bin/steady-tide (.+?)(?:\s+#.*)?$", text, re.M)
    assert brief
    assert shown
    assert len(commands) >= 7
    (tmp_path / commands[0].split()[-1]).write_text(brief.group(1))
    (tmp_path / "mine.json").write_text(json.dumps(small_sheet_data()))
    (tmp_path / "shoot.json").write_text(write_shoot_json(demo_shoot(1)))
    (tmp_path / "takes.csv").write_text("at,rating,mount\n2026-10-17 10:05,keep,chest\n")
    own_gear(tmp_path)
    printed = []
    for number, command in enumerate(commands):
        done = (steady_tide if number == 0 else answer)(tmp_path, *command.split())
        assert done.returncode == 0, (command, done.stderr)
        printed.append(done.stdout)
    for line in shown.group(1).splitlines():
        if line.strip() and not line.startswith("..."):
            assert line.rstrip() in printed[0], line


@pytest.mark.parametrize(
    "page", ["docs/look.md", "docs/rushes.md", "docs/log.md", "docs/story.md", "docs/uses.md", "docs/practice.md"]
)
def test_the_commands_of_a_page_run(tmp_path: Path, page: str) -> None:
    commands = re.findall(r"^\.venv/bin/steady-tide (.+?)(?:\s+#.*)?$", (ROOT / page).read_text(), re.M)
    assert len(commands) >= 2
    (tmp_path / "brief.json").write_text(json.dumps({"light": SUN}))
    (tmp_path / "plan.json").write_text(answer(tmp_path, "plan", "brief.json", "--json").stdout)
    film(tmp_path / "clip.mp4", [view(1, 3 * n, 0) for n in range(8)])
    (tmp_path / "takes.csv").write_text("at,rating,mount\n2026-10-17 10:05,keep,chest\n")
    (tmp_path / "log.json").write_text('{"format": "steady-tide/log", "version": 1}')
    (tmp_path / "shoot.json").write_text(write_shoot_json(mill_shoot(1)))
    for command in commands:
        done = answer(tmp_path, *command.split())
        assert done.returncode == 0, (command, done.stderr)


WIDTHS = (1280, 1920, 2560, 3840, 5120, 7680)
STANDARD = {(width, width * high // wide) for width in WIDTHS for wide, high in ((16, 9), (4, 3), (3, 2))}


@pytest.mark.parametrize("sheet", library.demo_kit().cameras, ids=lambda sheet: sheet.id)
def test_demo_cameras_follow_from_standards_and_arithmetic(sheet: CameraSheet) -> None:
    for mode in at_least_one(sheet.modes):
        assert (mode.width, mode.height) in STANDARD
        window = mode.window_px
        assert window[0] / window[1] == pytest.approx(mode.width / mode.height, rel=0.001), "no frame is squeezed"
        assert window[0] >= mode.width, "no frame is blown up"
    for lens in at_least_one(sheet.lenses):
        sensor = lens.sensor
        assert 12e6 <= sensor.width_px * sensor.height_px <= 24e6
        assert 1900 <= sensor.full_well_e / sensor.pixel_pitch_um**2 <= 2200


def test_the_page_of_the_demo_cameras_is_what_their_sheets_say() -> None:
    assert (ROOT / "docs" / "fleet.md").read_text() == fleet_page(), "run scripts/documents.py"


def test_no_text_has_sizes_outside_the_standards() -> None:
    """Names and sizes that belong to no standard frame."""
    # Written apart, so that this page does not find itself.
    sides = "|".join(
        f"{first}{rest}"
        for first, rest in ((53, 12), (29, 88), (46, 48), (33, 60), (55, 68), (48, 72), (27, "04"), (54, 72))
    )
    named = re.compile(rf"\b(?:2[.]7|5[.]3)\s?K\b|\b8[:]7\b|\(8[,] 7\)|(?<![.\d])(?:{sides})\b|\b27[2]0\s?[x×]")
    files = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True).stdout.split(b"\0")
    suffixes = {".py", ".ts", ".tsx", ".md", ".yaml", ".json", ".csv", ".html", ".css"}
    texts = [ROOT / name.decode() for name in files if name and Path(name.decode()).suffix in suffixes]
    assert len(texts) > 500
    found = {
        str(path.relative_to(ROOT)): match[0]
        for path in texts
        if path.name != "package-lock.json" and (match := named.search(path.read_text()))
    }
    assert found == {}


def test_the_checks_of_the_light_stand_in_its_page_as_they_come_out() -> None:
    made = subprocess.run(
        [str(ROOT / ".venv/bin/python"), "scripts/light_checks.py"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert made.returncode == 0, made.stderr
    assert made.stdout.strip() in (ROOT / "docs" / "light.md").read_text()


def test_the_page_on_going_outside_names_every_column_window_and_price() -> None:
    text = (ROOT / "docs" / "outside.md").read_text()
    for name in (*COLUMNS, *SHOWN_ONLY, *LIGHT_WINDOWS):
        assert f"`{name}`" in text, name
    limits = library.knowledge().limits
    prices = {
        "moved from where it stands": limits.moved_stops_per_h,
        "on the way, and changing over": limits.on_the_way_stops_per_h,
        "a housing opened or closed": limits.opened_housing_stops,
        "the day is longer, from its first shot to its last": limits.longer_stops_per_h,
        "the day ends later": limits.later_stops_per_h,
    }
    for what, stops in prices.items():
        assert re.search(rf"\| {what} \| {stops:g}( |$)", text, re.M), what


def test_no_path_of_a_machine_and_no_registry_is_committed() -> None:
    forbidden = re.compile(r"/root/|/home/|/work/|pypi\.|npmjs\.|registry\.", re.I)
    for file in at_least_one(tracked()):
        if file.suffix in {".woff2", ".ttf", ".png"} or file.name in {
            "package-lock.json",
            "test_house.py",
            "requirements.lock",
            "requirements-dev.lock",
        }:
            continue
        found = forbidden.search(file.read_text(errors="ignore"))
        assert not found, f"{file}: {found.group(0) if found else ''}"


def test_everything_that_is_imported_is_asked_for_at_run_time() -> None:
    """The environment of the tests holds more than the product's: what only they bring must not be needed to start."""
    locked = set(re.findall(r"^([a-z0-9._-]+)(?:\[[^\]]*\])?==", (ROOT / "requirements.lock").read_text(), re.M))
    homes = packages_distributions()
    missing = set()
    for path in (ROOT / "steady_tide").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            named = [node.module] if isinstance(node, ast.ImportFrom) and node.level == 0 else []
            named += [one.name for one in node.names] if isinstance(node, ast.Import) else []
            for module in filter(None, named):
                top = module.partition(".")[0]
                if top in sys.stdlib_module_names or top == "steady_tide":
                    continue
                if not locked & {re.sub(r"[._-]+", "-", home.lower()) for home in homes.get(top, [])}:
                    missing.add(f"{top} in {path.relative_to(ROOT)}")
    assert not missing


NO_UNITS = {
    "of",
    "at",
    "up",
    "dim",
    "sun",
    "own",
    "lit",
    "fit",
    "iso",
    "max",
    "end",
    "low",
    "red",
    "hit",
    "1m",
    "OF",
    "on",
    "out",
    "to",
    "it",
}


def test_every_unit_at_the_end_of_a_name_stands_on_the_page_of_names() -> None:
    """Names of quantities end in their unit, in one spelling; `docs/nomenclature.md` lists them all."""
    page = (ROOT / "docs" / "nomenclature.md").read_text()
    table = page[: page.index("## Terms of the code")]
    listed = set(re.findall(r"`_(\w+)`", table))
    assert len(listed) > 30
    fields: list[str] = []
    for file in (ROOT / "steady_tide" / "core").rglob("*.py"):
        for node in ast.walk(parsed(file.read_text())):
            named = isinstance(node, ast.AnnAssign) and isinstance(node.target, ast.Name)
            if named and re.search(r"float|Floats|Number|int\b", ast.unparse(node.annotation)):
                fields.append(node.target.id)
    assert len(fields) > 500
    unlisted = {
        name
        for name in fields
        if "_" in name and len(last := name.rpartition("_")[2]) <= 3 and last not in NO_UNITS
        if not any(name.endswith(f"_{unit}") for unit in listed)
    }
    assert not unlisted, f"name their unit as docs/nomenclature.md does, or add it there: {sorted(unlisted)}"
    unused = {unit for unit in listed if not any(name == unit or name.endswith(f"_{unit}") for name in fields)}
    assert not unused, f"no field ends so any more: {sorted(unused)}"


def test_the_page_of_names_speaks_of_words_that_are_explained() -> None:
    last = (ROOT / "docs" / "nomenclature.md").read_text().strip().splitlines()[-1]
    named = last.partition("`: ")[2].rstrip(".").split(", ")
    explained = {term["term"] for term in library.glossary().values()}
    assert len(named) > 5
    assert set(named) <= explained, set(named) - explained
