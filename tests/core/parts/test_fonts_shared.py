"""Fonts as several makers' calls have them at once in a server that has just begun."""

import json
import os
import subprocess
import sys

from ...projects import ROOT

AT_ONCE = """
import json, sys, threading
from concurrent.futures import ThreadPoolExecutor
from leannotch_core.handover import letters
from leannotch_core.parts.lettering import outlines

THREADS, WORDS = 6, "Shore 05"
sys.setswitchinterval(1e-6)

def measured():
    setting = outlines.Typesetting("plain", 8)
    drawn = outlines.text_outlines("label", WORDS, setting)
    return [round(letters.wide(WORDS, 10), 9), [[round(side, 9) for side in one.bounds] for one in drawn]]

alone, different = measured(), 0
for _ in range(2):
    for kept in (letters._face, outlines._font, outlines._glyph):
        kept.cache_clear()
    all_here = threading.Barrier(THREADS)
    with ThreadPoolExecutor(THREADS) as threads:
        asked = [threads.submit(lambda: all_here.wait() >= 0 and measured()) for _ in range(THREADS)]
        different += sum(one.exception() is not None or one.result() != alone for one in asked)
print(json.dumps(different))
"""


def test_a_font_that_many_begin_to_read_at_once_is_read_whole():
    found = os.environ | {"PYTHONPATH": str(ROOT / "core")}
    done = subprocess.run(
        [sys.executable, "-c", AT_ONCE], capture_output=True, text=True, env=found, timeout=120, check=False
    )
    assert (done.returncode, json.loads(done.stdout or "null")) == (0, 0), done.stderr
