"""``lean-notch``: one command line for all that is done without a screen, and for the application itself."""

from __future__ import annotations

import importlib
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import click

from .house import enter, its_version, open_server


class Does(NamedTuple):
    """What a command does, and whether it opens the data folder."""

    says: str
    opens: bool = False


#: Every command, a file of its name in ``commands``: a new one is a line here.
COMMANDS: Mapping[str, Does] = {
    "start": Does("serve the application with the demo data"),
    "cut": Does("write a sheet's file, proved", opens=True),
    "eval": Does("work a project out with values set", opens=True),
    "bring": Does("make the parts of somebody's drawing or mesh a project"),
    "machine": Does("carry a file out on a simulated machine"),
    "proof": Does("tell what any file would give when it is cut"),
    "backup": Does("copy all that is kept to a file to carry away", opens=True),
    "restore": Does("bring back the backup of a day or of a file", opens=True),
}

#: The exit status where something is refused, as of a call that cannot be read.
REFUSED = 2


class _Refusal(click.ClickException):
    """A sentence on why something was not done."""

    exit_code = REFUSED

    def __init__(self, command: str, says: str) -> None:
        super().__init__(says)
        self._command = command

    def show(self, file: object = None) -> None:
        click.echo(f"lean-notch {self._command}: {self.message}", err=True)


class _Commands(click.Group):
    """Loads a command when it is called: most of them take long to load."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        enter()
        if COMMANDS[cmd_name].opens:
            open_server(cmd_name)
        found: click.Command = importlib.import_module(f"lean_notch.commands.{cmd_name}").command
        return found

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, does.says) for name, does in COMMANDS.items()])

    def invoke(self, ctx: click.Context) -> object:
        """What any room refuses is said in one way."""
        from .refusals import says

        try:
            return super().invoke(ctx)
        except (click.ClickException, click.exceptions.Exit, click.Abort):
            raise
        except Exception as error:
            if (sentence := says(error)) is None:
                raise
            raise _Refusal(ctx.invoked_subcommand or "", sentence) from error


@click.group(cls=_Commands, context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100})
@click.version_option(its_version(), prog_name="Lean Notch")
def lean_notch() -> None:
    """Parts for laser and CNC that fit: measured, joined, laid out, prepared, proved, handed over.

    Exit status 0 where it was done, 2 where something is refused; what was found is told either way.
    """


def main(arguments: Sequence[str] | None = None) -> None:
    """Ends the process with the exit status."""
    lean_notch.main(args=list(arguments) if arguments is not None else None, prog_name="lean-notch")


def status_of(arguments: Sequence[str]) -> int:
    """The exit status of a command, for who goes on afterwards."""
    try:
        main(arguments)
    except SystemExit as end:
        return int(end.code or 0)
    return 0
