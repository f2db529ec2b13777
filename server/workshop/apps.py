import gc

from django.apps import AppConfig


class WorkshopConfig(AppConfig):
    """Projects, stock library and long work."""

    name = "workshop"

    def ready(self) -> None:
        # What was worked out of revisions is kept: hundreds of thousands of small things that live long. Looked
        # through at the usual pace for what may go, they would take more time than the edits that make them.
        gc.set_threshold(50_000, 20, 100)
