"""Budgets in words: what a shot runs out of, and what is left after it."""

from __future__ import annotations

from steady_tide.core.outing.budget import CameraBudget, Fail, ShootBudget, ShotBudget, Without
from steady_tide.words.refusals import refused
from steady_tide.words.templates import say

FAILS = {
    "flight": ("The charge does not bring it home: {minutes:minutes} of flight are missing with the return kept back."),
    "cells": "The cells run out: {short_wh:.1f} of {needed_wh:.1f}\u202fWh are missing, {hours:hours} of recording.",
    "room": "The {what}s are full: {missing_gb:whole} of {recorded_gb:gb} find no room.",
    "take_over_card": (
        "One take records {take_gb:gb}, and the largest {what} holds {largest_gb:gb}: it ends in the middle."
    ),
    "no_room": "No {what} is left that holds {mb_s:mb_s} with a margin of a quarter.",
    "heat": "It stops for heat {minutes:minutes} into a take of {take_h:hours}{warm}.",
}
WARM_WORTH_A_WORD_K = 1.0


class FailText(Fail):
    """What a shot runs out of, in words."""

    text: str


class ShotBudgetText(ShotBudget):
    """What one shot takes, and what is left after it."""

    fails: tuple[FailText, ...]


class CameraBudgetText(CameraBudget):
    """One camera's day."""

    shots: tuple[ShotBudgetText, ...]


class WithoutText(Without):
    """A shot that has no plan to be budgeted, and why."""

    why: str


class BudgetText(ShootBudget):
    """The budgets of a whole day, in words."""

    cameras: tuple[CameraBudgetText, ...]
    without: tuple[WithoutText, ...]


def fail_words(fail: Fail) -> str:
    """What a shot runs out of, as a sentence."""
    facts = dict(fail.facts)
    if fail.kind == "card":
        facts["what"] = "drive" if facts["drive"] else "card"
    if fail.kind == "heat":
        warm = facts["warm_k"] >= WARM_WORTH_A_WORD_K
        facts["warm"] = f", {facts['warm_k']:.0f}\u202fK warm from before" if warm else ""
    return say(FAILS[fail.code], facts)


def budget_text(budget: ShootBudget) -> BudgetText:
    """Put budgets into words. budget: quantities. Returns its text."""
    said = budget.model_dump()
    for camera, told_camera in zip(budget.cameras, said["cameras"], strict=True):
        for row, told_row in zip(camera.shots, told_camera["shots"], strict=True):
            for fail, told_fail in zip(row.fails, told_row["fails"], strict=True):
                told_fail["text"] = fail_words(fail)
    for entry in said["without"]:
        entry["why"] = refused(entry["code"], entry["facts"])
    return BudgetText.model_validate(said)
