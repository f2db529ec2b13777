from django.apps import AppConfig


class WorkshopConfig(AppConfig):
    """Projects, stock library and long work."""

    name = "workshop"
