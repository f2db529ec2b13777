import pytest
from workshop.demo import load_demo
from workshop.dry_fit import assembly_of
from workshop.handover import stored_sheet_file
from workshop.models import Project
from workshop.revisions import document_of, result_of


@pytest.fixture(autouse=True)
def at_once(settings):
    settings.TASKS = {"default": {"BACKEND": "django_tasks.backends.immediate.ImmediateBackend"}}
    # Each test is rolled back, so that revisions get the same numbers again.
    for remembered in (document_of, result_of, assembly_of, stored_sheet_file):
        remembered.cache_clear()


@pytest.fixture
def tray(db):
    load_demo()
    return Project.objects.get(slug="sorting-tray")
