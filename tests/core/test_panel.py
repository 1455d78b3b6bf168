"""The panel of briefs: how plans are held against what an operator accepts, and that they stand up to it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache

import pytest

from bench.reasons import faults
from bench.sweeps import Found, look, sweeps
from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning import planner
from steady_tide.core.planning.panel import Expectation, PanelBrief, differences, facts_of, judge, shares
from steady_tide.core.planning.plan import Plan
from steady_tide.words.reasons import reason_words
from steady_tide.words.warnings import CAUTIONS, WARNINGS
from tests.briefs import SUN, brief, decided
from tests.checks import at_least_one

KIT = library.demo_kit()
PANEL = library.panel()


@cache
def _planned(asked: str) -> Plan:
    return planner.plan(Brief.model_validate_json(asked), KIT, library.knowledge(), schools=False)


def plan(asked: Brief) -> Plan:
    """The plan of a brief, made once."""
    return _planned(asked.model_dump_json())


def wanting(**said: object) -> Expectation:
    return Expectation.model_validate({"of": "x", "why": "so", **said})


@pytest.mark.parametrize(
    ("said", "value", "holds"),
    [
        ({"is": [1, 2]}, 2, True),
        ({"is": [1, 2]}, 3, False),
        ({"is": [None]}, None, True),
        ({"from": "1/60", "to": "1/48"}, 1 / 50, True),
        ({"from": "1/60", "to": "1/48"}, 1 / 30, False),
        ({"from": "1/60", "to": "1/48"}, "auto", False),
        ({"from": "1/60", "to": "1/48", "or": ["auto"]}, "auto", True),
        ({"to": 200}, 200, True),
        ({"to": 200}, 201, False),
        ({"to": 0.5}, 0.5, True),
        ({"has": ["a"]}, ("a", "b"), True),
        ({"has": ["a"], "lacks": ["b"]}, ("a", "b"), False),
        ({"any_of": ["a", "c"]}, ("b", "c"), True),
        ({"any_of": ["a", "c"]}, ("b",), False),
    ],
)
def test_an_expectation_holds_or_does_not(said: dict[str, object], value: object, holds: bool) -> None:
    assert wanting(**said).holds({"x": value}) == holds


def entry(accepts: list[dict[str, object]], refuses: list[dict[str, object]] | None = None) -> PanelBrief:
    asked = {"light": SUN, "camera_move": {"mount": "walking"}, "delivery": {"graded": True}}
    return PanelBrief.model_validate(
        {"id": "a", "title": "quay", "brief": asked, "accepts": accepts, "refuses": refuses or []}
    )


def test_one_change_is_a_change_and_two_are_a_refusal() -> None:
    right = {"of": "frame_rate", "is": [25], "why": "timeline"}
    wrong = {"of": "frame_rate", "is": [60], "why": "no"}
    other = {"of": "iso_ceiling", "from": 6400, "why": "no"}
    verdicts = [judge(entry(said), KIT, plan).verdict for said in ([right], [right, wrong], [wrong, other])]
    assert verdicts == ["whole", "changed", "refused"]
    assert judge(entry([right], [right]), KIT, plan).verdict == "refused", "what is refused is refused at once"
    judged = [judge(entry(said), KIT, plan) for said in ([right], [wrong])]
    assert shares(judged) == {"whole": 1, "changed": 1, "refused": 0}
    assert [d.was for d in differences(judged[:1], {"a": "refused"})] == ["refused"]
    assert differences(judged[:1], {"a": "whole"}) == ()


def test_every_expectation_names_a_fact_and_every_name_in_it_exists() -> None:
    asked = brief(camera_move={"mount": "walking"})
    known = set(facts_of(asked, plan(asked), KIT))
    assert len({entry.id for entry in PANEL}) == len(PANEL) >= 80
    for one in PANEL:
        assert one.accepts, one.id
        for want in (*one.accepts, *one.refuses):
            assert want.of in known, (one.id, want.of)
            assert want.why.endswith((".", "!")), (one.id, want.why)
            names = {*want.has, *want.lacks, *want.any_of}
            there = set(WARNINGS) if want.of == "warnings" else set(CAUTIONS)
            # What must not be said may be something that nobody says any more.
            assert not names - set(want.lacks) - there, (one.id, names)


@pytest.fixture(scope="module")
def planned() -> dict[str, Plan]:
    """Every brief of the panel with its plan."""
    return {one.id: plan(one.read()) for one in PANEL}


def test_an_operator_would_sign_nearly_all(planned: dict[str, Plan]) -> None:
    judged = [judge(one, KIT, plan) for one in PANEL]
    told = [f"{j.verdict} {j.id}: {[(w.of, w.value) for w in j.wanted]}" for j in judged if j.verdict != "whole"]
    assert shares(judged)["whole"] >= 0.95 * len(PANEL), told
    assert shares(judged)["refused"] == 0, told


def test_no_reason_of_the_panel_says_what_its_numbers_do_not(planned: dict[str, Plan]) -> None:
    found = [f"{name}: {fault}" for name, made in planned.items() for fault in faults(made)]
    assert found == []


def test_no_two_reasons_of_a_sheet_are_the_same_sentence_about_a_tie(planned: dict[str, Plan]) -> None:
    tied = 0
    for found in at_least_one(planned.values()):
        said = [
            reason_words(dial, reason, dict(found.names)).replace(str(reason.rival), "")
            for dial, reason in found.reasons.items()
            if reason.kind == "close"
        ]
        assert len(set(said)) == len(said), found.title
        tied += len(said)
    assert tied > 100, "many values give up as much as another"


def test_each_warning_and_caution_is_raised_by_a_brief_and_not_by_another(planned: dict[str, Plan]) -> None:
    """Those that the panel is about; each has a brief that raises it and one like it that does not."""
    said = {name: {w.code for w in made.warnings} | {c.topic for c in made.cautions} for name, made in planned.items()}
    for code in (
        "pan_too_fast", "skew", "contrast_beyond", "sudden_light", "mixed_light", "backscatter", "lamps_dim_near",
        "charge_ends_take", "thin_later", "black_ground", "reflections", "red_gone", "lamp_reach", "wide_band", "heat",
        "outside_power", "driving", "suction", "wet", "night_dive", "diving", "seals", "flying", "mounts", "cold",
        "housing_missing", "light_missing", "pulsing_smear", "too_dark", "smear_by_day",
    ):  # fmt: skip
        raising = {name for name, codes in said.items() if code in codes}
        assert raising, f"no brief raises {code}"
        assert len(raising) < len(said) / 2, code


NEAR: list[tuple[str, dict[str, object], dict[str, object]]] = [
    ("glare_stays", {"glare": True, "kit": {"filters": []}}, {"glare": True}),
    ("not_proof", {"wet": True, "kit": {"cameras": ["lugger-5"]}}, {"wet": True}),
    ("too_near", {"subject": {"distance_m": [0.01, 0.015]}}, {"subject": {"distance_m": [0.2, 0.4]}}),
    ("contrast_beyond", {"contrast_stops": 15}, {"contrast_stops": 10}),
    ("wide_band", {"light": {"kind": "meter", "ev100": [8, 14]}}, {"light": {"kind": "meter", "ev100": [11, 14]}}),
]


@pytest.mark.parametrize(("code", "raises", "not_"), NEAR, ids=[code for code, _, _ in NEAR])
def test_a_warning_stands_where_it_applies_and_not_beside_it(
    code: str, raises: dict[str, object], not_: dict[str, object]
) -> None:
    assert code in {warning.code for warning in decided(**raises).warnings}
    assert code not in {warning.code for warning in decided(**not_).warnings}


def test_advice_is_never_impossible(planned: dict[str, Plan]) -> None:
    for one in at_least_one(PANEL):
        asked, made = one.read(), planned[one.id]
        for warning in made.warnings:
            if warning.code == "too_dark":
                mend = warning.facts["mend"]
                assert mend != "edit" or asked.graded, f"{one.id}: no edit is planned"
                assert mend != "light" or asked.subject.distance_m[0] <= 20, f"{one.id}: no lamp reaches"
            if warning.code == "battery_short" and warning.facts["cells"]:
                flies = asked.camera_move.mount in ("drone_gimbal", "fpv")
                assert (warning.facts["cells"]["case"] == "flying") <= flies, one.id
        codes = {warning.code for warning in made.warnings}
        assert not {"charge_ends_take", "battery"} <= codes, f"{one.id}: one says it lasts, one that it does not"
        assert not {"flicker", "flicker_clean"} <= codes, one.id
        assert not {"red_gone", "lamp_reach"} <= codes, f"{one.id}: lamps bring red"


def swept() -> Iterator[Found]:
    """The sweeps that a run can afford; `bench/sweeps.py` goes through all."""
    for sweep in sweeps():
        if re.match(
            r"light, walking, graded|width of the band about EV (13|4)|depth, IB|pan|contrast|speed, fr", sweep.name
        ):
            yield look(sweep)


def test_nothing_jumps() -> None:
    found = list(swept())
    assert sum(one.steps for one in found) > 300
    jumps = [jump for one in found for jump in one.jumps]
    assert len(jumps) == 1, jumps
    assert "housing none -> limpet-case" in jumps[0], "where the body is no longer proof, its case takes other glass"
    assert sum(len(one.flips) for one in found) <= 2, "filters of a case come in steps"
    assert sum(len(one.cheaper) for one in found) <= 2, "a bright end that just meets a density is cheaper"
