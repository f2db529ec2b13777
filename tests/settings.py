"""The settings as they are, with a data folder of the tests' own, so that no maker's data or log is touched."""

import os
import tempfile

_data = tempfile.TemporaryDirectory(prefix="notch-test-")
os.environ["NOTCH_DATA"] = _data.name

from leannotch.settings import *  # noqa: E402, F403

# Words are stored slowly on purpose, so that nobody guesses them by trying; here most tests begin with one.
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
