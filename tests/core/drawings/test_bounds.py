"""What work on one file may take: as much as is said beyond what the process has, and no more."""

import json
import os
import resource
import subprocess
import sys

import pytest
from leannotch_core.drawings.bounds import HOLDS

from ...projects import ROOT

BOUNDED = """
import json, resource, sys
from pathlib import Path
from leannotch_core.drawings.bounds import Bounds, keep_within
had = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
keep_within(Bounds(seconds={seconds}, megabytes={megabytes}))
print(json.dumps([had, resource.getrlimit(resource.RLIMIT_AS), resource.getrlimit(resource.RLIMIT_CPU)]))
room = bytearray({takes})
"""


def bounded(seconds, megabytes, takes):
    said = BOUNDED.format(seconds=seconds, megabytes=megabytes, takes=takes)
    found = os.environ | {"PYTHONPATH": str(ROOT / "core")}
    return subprocess.run(
        [sys.executable, "-c", said], capture_output=True, text=True, env=found, timeout=60, check=False
    )


@pytest.mark.skipif(not HOLDS, reason="only Linux holds a process to its bounds itself")
@pytest.mark.parametrize(("seconds", "whole"), [(2, 2), (2.01, 3), (0.5, 1)])
def test_a_process_is_held_to_its_seconds_and_to_so_much_memory_more(seconds, whole):
    done = bounded(seconds, 200, 150_000_000)
    had, memory, processor = json.loads(done.stdout)
    assert done.returncode == 0 and processor == [whole, whole + 1]
    assert memory[0] == memory[1] and abs(memory[0] - had - 200_000_000) < 8 * resource.getpagesize()
    refused = bounded(seconds, 200, 210_000_000)
    assert refused.returncode and "MemoryError" in refused.stderr
