"""Movements of the camera, each with what it is: the rest of the code asks for these traits, never for a name."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

MoveKind = Literal["push_in", "pull_back", "reveal", "pan", "tilt", "arc", "follow", "fly_over", "steps"]


@dataclass(frozen=True)
class MovementTraits:
    """What a movement is. towards: 1 if the camera comes nearer, -1 if it goes away; turns: it turns on the spot, across or up
    the frame; aside: what it shows comes from behind something; around: it circles its subject; follows: the subject moves
    along; flies; in_steps: a still from each of many places."""

    towards: Literal[-1, 0, 1] = 0
    turns: Literal["across", "up"] | None = None
    aside: bool = False
    around: bool = False
    follows: bool = False
    flies: bool = False
    in_steps: bool = False


MOVEMENTS: dict[MoveKind, MovementTraits] = {
    "push_in": MovementTraits(towards=1),
    "pull_back": MovementTraits(towards=-1),
    "reveal": MovementTraits(aside=True),
    "pan": MovementTraits(turns="across"),
    "tilt": MovementTraits(turns="up"),
    "arc": MovementTraits(around=True),
    "follow": MovementTraits(follows=True),
    "fly_over": MovementTraits(flies=True),
    "steps": MovementTraits(in_steps=True),
}
