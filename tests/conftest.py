from hypothesis import HealthCheck, settings

settings.register_profile(
    "notch", deadline=None, max_examples=120, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("notch")


def pytest_collection_modifyitems(items):
    """Files that start programs of their own first: two workers then end at about the same time."""
    items.sort(key=lambda item: (item.path.name != "test_start.py", "browser" not in item.path.parts))
