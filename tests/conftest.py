from hypothesis import HealthCheck, settings

settings.register_profile(
    "notch", deadline=None, max_examples=120, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("notch")
