"""``lean-notch start``: the application, with the demo data where there is none yet."""

from __future__ import annotations

import click

from ..house import its_version, open_server


@click.command()
@click.option("--port", type=click.IntRange(1, 65535), default=8000, show_default=True)
@click.option("--host", default="", metavar="ADDRESS", help="Serve others too, at an address of this machine.")
def command(port: int, host: str) -> None:
    """Serve the application on this machine; with --host to others too, who say a word that lets them in."""
    # The address for others is a setting, so it is known before anything else is.
    open_server("serve", **({"NOTCH_HOST": host} if host else {}))
    from django.core.management import call_command

    _made_ready()
    call_command("prepare")
    call_command("serve", port=port)


def _made_ready() -> None:
    """Compiles the innermost loops, so that no maker waits for it. A checkout does it before."""
    from django.conf import settings
    from leannotch_core.ready import main as compile_all

    if settings.IN_CHECKOUT:
        return
    stamp = settings.DATA / f"ready-{its_version()}"
    if stamp.exists():
        return
    click.echo("The innermost loops are made ready for this machine, once: about a minute …")
    compile_all()
    stamp.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    stamp.touch(mode=0o600)
