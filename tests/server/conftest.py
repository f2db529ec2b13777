import pytest
from workshop.demo import load_demo
from workshop.dry_fit import assembly_of
from workshop.handover import stored_sheet_file
from workshop.models import Project
from workshop.notes import _looked_for, layout_of, preparing
from workshop.packed import _ground
from workshop.prepared import moves_shown, prepared_sheet
from workshop.revisions import known
from workshop.shown import parts_of


@pytest.fixture(autouse=True)
def at_once(settings):
    backend = "django_tasks.backends.immediate.ImmediateBackend"
    settings.TASKS = {"default": {"BACKEND": backend, "QUEUES": settings.QUEUES}}
    # Each test is rolled back, so that revisions get the same numbers again.
    for remembered in (known, _ground, assembly_of, layout_of, _looked_for, preparing, parts_of):
        remembered.forget()
    for prepared in (prepared_sheet, moves_shown, stored_sheet_file):
        prepared.forget()


@pytest.fixture
def tray(db):
    load_demo()
    return Project.objects.get(slug="sorting-tray")
