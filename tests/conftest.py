import os
import tempfile

import pytest
from hypothesis import HealthCheck, settings

from .properties import IN_THE_SUITE, tried
from .serving import PREPARED

settings.register_profile(
    "notch",
    deadline=None,
    max_examples=tried(40),
    derandomize=IN_THE_SUITE,
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("notch")


@pytest.hookimpl(tryfirst=True)
def pytest_configure(config):
    """One folder for the workers of a run, in which they keep what each of them needs."""
    if not hasattr(config, "workerinput"):
        kept = tempfile.TemporaryDirectory(prefix="notch-run-")
        config.add_cleanup(kept.cleanup)
        os.environ[PREPARED] = kept.name
