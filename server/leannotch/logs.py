"""Log files in the data folder: made when there is something to write, and turned over before they grow large."""

from __future__ import annotations

import logging
from io import TextIOWrapper
from logging.handlers import RotatingFileHandler
from pathlib import Path


class LogFile(RotatingFileHandler):
    """Five files of a megabyte each. Where nothing can be written, the work goes on without a log."""

    def __init__(self, filename: Path) -> None:
        super().__init__(filename, maxBytes=1_000_000, backupCount=4, encoding="utf-8", delay=True)

    def _open(self) -> TextIOWrapper:
        Path(self.baseFilename).parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        opened = super()._open()
        Path(self.baseFilename).chmod(0o600)
        return opened

    def handleError(self, record: logging.LogRecord) -> None:  # noqa: N802 - the name is logging's
        return
