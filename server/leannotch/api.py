"""All calls of this server: those of the workshop, and those of the simulated machine that stands beside it."""

from device.api import router as device
from workshop.api import api

api.add_router("/device", device)

__all__ = ["api"]
