"""What holds whatever the sizes: the suite tries it with few, the same ones each time.

``python -m tests.properties [TIMES [ROOM]]`` tries TIMES as many, others each time. Exit status 1 where one does not
hold.
"""

import os
import subprocess
import sys

#: Says how many times as many are tried; nothing within the suite.
_MORE = "NOTCH_TEST_TIMES"

#: Whether this is the suite.
IN_THE_SUITE = _MORE not in os.environ


def tried(count):
    """How many sizes are tried of something that the suite tries with so many."""
    return count * int(os.environ.get(_MORE, "1"))


def main(times="10", room=""):
    own = os.environ | {_MORE: times}
    # Whatever stands under a property is a test of its own kind to the library, which marks it so.
    asked = [sys.executable, "-m", "pytest", "-m", "hypothesis", f"tests/{room}"]
    return subprocess.run(asked, env=own, check=False).returncode


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
