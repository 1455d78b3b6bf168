"""The commands of moving house: everything into one file, and out of it."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path
from typing import Annotated

import typer

from steady_tide.cli.shell import app
from steady_tide.core.quantities.errors import WrongVersion

DataFolder = Annotated[Path, typer.Option("--data", metavar="DIR", help="Folder of the database, as given to ./start.")]
FAILED = 1


@app.command()
def backup(
    file: Annotated[Path, typer.Argument(help="Where to; overwritten where it is there.")],
    data: DataFolder = Path(".data"),
    check: Annotated[bool, typer.Option(help="Read it back into a database of its own.")] = True,
) -> None:
    """Write everything into one file, while the service runs or not."""
    from steady_tide.launch.backup import BackupError, check_backup, make_backup, visiting
    from steady_tide.launch.cluster import ClusterError

    try:
        with visiting(data) as cluster:
            make_backup(cluster, file.resolve())
            held = check_backup(cluster.folder, file.resolve()) if check else None
    except (BackupError, ClusterError) as error:
        typer.echo(f"backup: {error}", err=True)
        raise typer.Exit(FAILED) from None
    typer.echo(f"{file}: {file.stat().st_size / 1e6:.1f} MB{f', read back: {held}' if held else ''}.")


@app.command()
def restore(file: Annotated[Path, typer.Argument(help="Made by `backup`.")], data: DataFolder = Path(".data")) -> None:
    """Put a backup in the place of what is there; that is kept beside as a backup of its own."""
    from steady_tide.launch.backup import FOLDER, BackupError, make_backup, restore_into, visiting
    from steady_tide.launch.cluster import ClusterError

    if not file.is_file():
        typer.echo(f"restore: there is no file {file}. Check its name.", err=True)
        raise typer.Exit(FAILED)
    try:
        with visiting(data, alone=True) as cluster:
            kept = cluster.folder / FOLDER / f"before-{datetime.now():%Y-%m-%d-%H%M%S}.kept"
            kept.parent.mkdir(exist_ok=True, mode=0o700)
            make_backup(cluster, kept)
            held = restore_into(cluster, file.resolve())
    except (BackupError, ClusterError, WrongVersion) as error:
        typer.echo(f"restore: {error}", err=True)
        raise typer.Exit(FAILED) from None
    typer.echo(f"{held} are here now. What was here before is kept in {kept}.")
