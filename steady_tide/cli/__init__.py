"""steady-tide: the same core from the shell, without server or database."""

from __future__ import annotations

import sys
from importlib import import_module

import typer

from steady_tide.cli.shell import BAD_INPUT, NO_PLAN, app
from steady_tide.core.quantities.errors import BadInput, NoLegalPlan
from steady_tide.services.memory import keep_freed, look_seldom
from steady_tide.words.quantities import NARROW
from steady_tide.words.refusals import refusal_words

# Where each command stands: only what is asked for is loaded, so that nobody waits for the others.
MODULE_OF = {
    "backup": "backup", "restore": "backup", "edit": "edit", "lut": "edit", "sheet": "kit", "measure": "kit",
    "light": "light", "day": "light", "water": "light", "log": "log", "ladder": "log", "look": "look",
    "budget": "outside", "presets": "outside", "card": "outside", "order": "outside", "panel": "panel",
    "practice": "practice", "rushes": "rushes", "plan": "shots", "cameras": "shots", "check-sheet": "shots",
    "story": "story", "shadow": "story", "uses": "uses", "setup": "uses", "worker": "worker",
}  # fmt: skip


def load(command: str | None) -> None:
    """Bring a command. command: its name; all of them where it is none, as for a list of them."""
    modules = {MODULE_OF[command]} if command in MODULE_OF else set(MODULE_OF.values())
    for module in sorted(modules):
        import_module(f"{__name__}.{module}")


def run() -> None:
    """The command. Exits with 2 on bad input and with 3 where no legal plan exists."""
    keep_freed()
    look_seldom()
    load(sys.argv[1] if len(sys.argv) > 1 else None)
    try:
        app(standalone_mode=True)
    except BadInput as error:
        for fault in error.faults:
            typer.echo(f"{error.subject}: {fault}", err=True)
        raise SystemExit(BAD_INPUT) from None
    except NoLegalPlan as error:
        typer.echo(refusal_words(error).replace(NARROW, " "), err=True)
        raise SystemExit(NO_PLAN) from None
