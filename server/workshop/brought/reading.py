"""Reading a file that was brought: long work, told of and to be stopped, in a process with bounds of its own."""

from __future__ import annotations

import gzip
import json

from leannotch_core.drawings.apart import Stopped, apart
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.sent import as_read, read_apart

from workshop.brought.kept import making_of
from workshop.models import Run
from workshop.runs import StopAsked, end


def read(run: Run) -> None:
    """Reads the file of a run; one that cannot be read, or that nobody waits for any more, is not kept."""
    file, stop = run.file, StopAsked(run)
    if file is None:
        end(run, "failed", "The file was taken away meanwhile; bring it again.")
        return
    told = 0.0

    def heard(share: float) -> bool:
        nonlocal told
        if share > told:
            told = share
            Run.objects.filter(id=run.id).update(progress=share)
        return stop()

    try:
        sent = apart(read_apart, bytes(file.data), file.name, heard=heard)
    except BrokenFile as refusal:
        file.delete()
        end(run, "failed", str(refusal)[:400])
    except Stopped:
        file.delete()
        end(run, "stopped", "Reading was stopped, and the file was not kept.")
    else:
        file.reading, file.making = gzip.compress(json.dumps(sent).encode()), making_of(as_read(sent, file.name))
        file.save(update_fields=["reading", "making"])
        end(run, "done", progress=1)
