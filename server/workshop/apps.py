import gc

from django.apps import AppConfig
from ninja import Schema


class WorkshopConfig(AppConfig):
    """Projects, stock library and long work."""

    name = "workshop"

    def ready(self) -> None:
        # What was worked out of revisions is kept: hundreds of thousands of small things that live long. Looked
        # through at the usual pace for what may go, they would take more time than the edits that make them.
        gc.set_threshold(50_000, 20, 100)
        # What calls are made of is built when it is first asked for: all of it would take half of a start.
        Schema.model_config["defer_build"] = True
