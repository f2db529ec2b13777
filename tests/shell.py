"""Commands as they are called in a shell, in this process."""

from lean_notch.command import status_of


def of(command):
    """Calls a command with arguments; its exit status. What it says is where it says it."""
    return lambda arguments: status_of([command, *map(str, arguments)])
