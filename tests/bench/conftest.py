from ..server.conftest import at_once, rows_of_the_demo, tray

__all__ = ["at_once", "rows_of_the_demo", "tray"]
