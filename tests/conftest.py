from hypothesis import HealthCheck, settings

settings.register_profile(
    "notch", deadline=None, max_examples=120, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("notch")

#: What takes longest is begun first, so that no worker is left alone with it at the end.
LONGEST = ("test_start.py", "test_way_in.py", "test_joints.py", "test_sabotage.py")


def pytest_collection_modifyitems(items):
    items.sort(key=lambda item: item.path.name not in LONGEST)
