"""What a crew owns: variable filters, ports that take one or two, card classes, cells in the cold."""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import ValidationError

from steady_tide import library
from steady_tide.core.gear.items import CLASS_MB_S, CellKind, Filter, Housing, Keeping, Medium, piece_of
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.packing import packing_of
from steady_tide.core.planning.planner import plan
from steady_tide.words.cards import card_of
from steady_tide.words.packing import packing_text
from tests.briefs import EELGRASS, QUAY, brief
from tests.days import day, shot

FITS = ("limpet",)


def kit(*filters: Filter, **more: Any) -> Kit:
    return library.demo_kit().model_copy(update={"filters": filters, **more})


def nd(id_: str, stops: float, **more: Any) -> Filter:
    return Filter(id=id_, name=id_, stops=stops, fits=FITS, **more)


def test_a_variable_filter_is_set_at_whole_stops_within_its_useful_range() -> None:
    glass = nd("turning", 5.6, turns_from_stops=1.2)
    assert [(position.id, position.stops) for position in glass.positions()] == [
        ("turning@2", 2),
        ("turning@3", 3),
        ("turning@4", 4),
        ("turning@5", 5),
    ]
    assert {piece_of(position.id) for position in glass.positions()} == {"turning"}
    assert nd("narrow", 2.6, turns_from_stops=2.2).positions()[0].stops == 2.6, "no whole stop in it: its most"
    assert nd("plain", 3).positions() == (nd("plain", 3),)


def test_a_variable_filter_does_what_fixed_ones_of_its_marks_do() -> None:
    def given_up(*filters: Filter) -> tuple[float, tuple[str, ...]]:
        made = plan(brief(**QUAY), kit(*filters), library.knowledge(), schools=False, only="limpet-7")
        return made.given_up_stops, tuple(made.settings.nd)

    turned, set_to = given_up(nd("turning", 6, turns_from_stops=2))
    fixed, _ = given_up(*(nd(f"nd{stops}", stops) for stops in range(2, 7)))
    alone, _ = given_up()
    assert turned <= alone
    assert len(set_to) == 1
    assert set_to[0].startswith("turning@")
    # Fixed ones may be stacked where the mount takes two; one of them alone is no better than the turned one.
    best_single = min(given_up(nd("one", stops))[0] for stops in range(2, 7))
    assert turned == pytest.approx(min(best_single, alone), abs=1e-9)
    assert fixed <= turned + 1e-9


def test_one_piece_is_not_put_before_itself() -> None:
    made = plan(
        brief(light={"kind": "meter", "ev100": [17, 17.5]}, **QUAY),
        kit(nd("turning", 4, turns_from_stops=2)),
        library.knowledge(),
        schools=False,
        only="limpet-7",
    )
    assert len(made.settings.nd) <= 1
    for value in made.profiles["nd"]:
        assert str(value.value).count("turning") <= 1


@pytest.mark.parametrize(
    "fields",
    [{"turns_from_stops": 6.0}, {"turns_from_stops": 2.0, "kind": "colour"}, {"turns_from_stops": 0.0}],
)
def test_a_range_that_is_none_is_refused(fields: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        nd("x", 6, **fields)


def test_a_port_takes_as_many_filters_as_it_takes() -> None:
    demo = library.demo_kit()
    colours = tuple(filter_ for filter_ in demo.filters if filter_.kind == "colour")
    # Deeper than the bare camera may go, in water where a filter works.
    below = {**EELGRASS, "light": {**EELGRASS["light"], "depth_m": [6, 9], "water_type": "IB"}}
    worn_by_stack = []
    for stack in (0, 1, 2):
        housings = tuple(housing.model_copy(update={"stack": stack}) for housing in demo.housings)
        owned = demo.model_copy(update={"filters": (*colours, *demo.filters), "housings": housings})
        made = plan(brief(**below), owned, library.knowledge(), schools=False, only="limpet-7")
        worn = len(made.settings.nd) + (made.settings.colour_filter is not None)
        assert made.settings.housing is not None
        assert worn <= stack
        worn_by_stack.append(worn)
    assert worn_by_stack[0] < worn_by_stack[-1], "what may be worn is worn"


@pytest.mark.parametrize("name", CLASS_MB_S)
def test_a_card_holds_its_class_at_least(name: Any) -> None:
    least = CLASS_MB_S[name]
    assert least == 8 * int(name[1:])
    assert Medium(id="a", name="a", capacity_gb=64, write_mb_s=least, speed_class=name).write_mb_s == least
    with pytest.raises(ValidationError, match="holds"):
        Medium(id="a", name="a", capacity_gb=64, write_mb_s=least - 1, speed_class=name)


def test_a_colder_cell_never_gives_more() -> None:
    CellKind(id="x", name="x", left=((20, 1.0), (0, 0.8), (-20, 0.8)))
    for left in (((0, 0.8), (20, 1.0)), ((20, 0.8), (0, 0.9)), ((20, 1.0), (20, 0.9)), ()):
        with pytest.raises(ValidationError):
            CellKind(id="x", name="x", left=left)


def test_ids_are_plain_so_that_a_mark_can_follow_them() -> None:
    for bad in ("a@3", "A", "", "a/b", "../a", "a b"):
        with pytest.raises(ValidationError):
            nd(bad, 3)
    with pytest.raises(ValidationError):
        Housing(id="tall!", name="x", fits=(), proof_depth_m=40)


def test_a_turned_filter_is_packed_once_and_named_with_its_mark_on_the_card() -> None:
    glass = nd("turning", 6, turns_from_stops=1).model_copy(update={"name": "Turning glass"})
    owned = kit(glass)
    bright = shot("1", 0, kit=owned, light={"kind": "meter", "ev100": [15, 15.5]}, **QUAY)
    dull = shot("2", 30, kit=owned, light={"kind": "meter", "ev100": [12, 12.5]}, **QUAY)
    marks = {made.plan.settings.nd for made in (bright, dull)}
    assert len(marks) == 2, "turned differently for each"
    outing = day(bright, dull)
    known = library.knowledge()
    kept = {"turning": Keeping(ready=0, where="the grey box", note="")}
    found = packing_text(packing_of(outing, budget_of(outing, owned, known), owned, known, kept))
    packed = [line for line in found.lines if line.group == "glass"]
    assert [(line.id, line.count, line.name) for line in packed] == [("turning", 1, "Turning glass")]
    assert "the grey box" in packed[0].note
    card = card_of(bright.brief, bright.plan, bright.sheet, known)
    assert "Turning glass at" in card.model_dump_json()


def test_what_is_ready_stands_on_the_packing_list() -> None:
    owned, known = library.demo_kit(), library.knowledge()
    outing = day(shot("1", 0, light={"kind": "meter", "ev100": [12, 13]}, take={"length_s": 5400, "count": 2}))
    budget = budget_of(outing, owned, known)
    spare = next(cell for cell in owned.batteries if cell.kind == "cell" and "limpet-7" in cell.fits)
    kept = {spare.id: Keeping(ready=0, where="the charger", note="")}
    notes = {line.id: line.note for line in packing_text(packing_of(outing, budget, owned, known, kept)).lines}
    assert f"0 of {spare.count} charged now" in notes["spare-limpet-7"]
    assert "the charger" in notes["spare-limpet-7"]
    silent = {line.id: line.note for line in packing_text(packing_of(outing, budget, owned, known)).lines}
    assert "charged now" not in silent["spare-limpet-7"]
