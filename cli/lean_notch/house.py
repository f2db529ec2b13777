"""Where the house stands: in a checkout beside this folder, or inside this package where it was installed."""

from __future__ import annotations

import os
import sys
from importlib.metadata import PackageNotFoundError, version
from pathlib import Path

_HERE = Path(__file__).resolve()
#: The folder of core, server, demo and built pages.
ROOT = next(folder for folder in (_HERE.parent / "house", _HERE.parents[2]) if (folder / "server").is_dir())


def enter() -> None:
    """Makes the rooms importable."""
    rooms = [str(ROOT / room) for room in ("core", "server")]
    sys.path[:0] = [room for room in rooms if room not in sys.path]


def open_server(name: str, **settings: str) -> None:
    """Sets Django up, with a log of this name, where it is not."""
    import django
    from django.apps import apps

    if not apps.ready:
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
        os.environ.setdefault("NOTCH_LOG", name)
        os.environ.update(settings)
        django.setup()


def its_version() -> str:
    """As it was installed; a checkout has the one that it would be built as."""
    try:
        return version("lean-notch")
    except PackageNotFoundError:
        import tomllib

        told: str = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["version"]
        return told
