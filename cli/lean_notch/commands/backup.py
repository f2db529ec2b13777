"""``lean-notch backup FILE``: a copy of the database that can be carried away, also while it is served."""

from __future__ import annotations

from pathlib import Path

import click
from workshop import backups, storage

from ..files import FILE


@click.command()
@click.argument("file", type=FILE)
def command(file: Path) -> None:
    """Copy all that is kept to FILE."""
    if file.exists():
        raise storage.StorageTrouble(f"{file} is there already; name another file.")
    if not storage.database().exists():
        raise storage.StorageTrouble(f"There is nothing in {storage.folder()} yet.")
    try:
        backups.copy_to(file)
    except OSError as error:
        raise storage.StorageTrouble(f"{file} cannot be written: {error.strerror}.") from error
    click.echo(f"All that is in {storage.folder()} is copied to {file}, {file.stat().st_size / 1e6:.1f} MB.")
