"""Leaving the demo, and bringing it back."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy.orm import Session

from steady_tide.services.rush_folders import look_into
from steady_tide.store import demo as store
from steady_tide.store.rushes import add_folder


def come_back(session: Session) -> None:
    """Bring the demo back as it was left; its clips are measured again. Raises NotFound where it was not left."""
    for path in store.return_demo(session):
        if Path(path).is_dir():
            folder = add_folder(session, path, "named")
            folder.demo = True
            look_into(session, folder)
