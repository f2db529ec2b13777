import pytest
from django.apps import apps
from django.core import serializers
from django.db import transaction
from workshop.api.projects import _summary
from workshop.demo import load_demo
from workshop.dry_fit import assembly_of
from workshop.handover import stored_sheet_file
from workshop.models import StoredProject
from workshop.notes import _looked_for, layout_of, preparing
from workshop.packed import _ground
from workshop.portraits import page_of
from workshop.prepared import moves_shown, prepared_sheet
from workshop.revisions import known
from workshop.state import parts_of


@pytest.fixture(autouse=True)
def at_once(settings):
    backend = "django_tasks.backends.immediate.ImmediateBackend"
    settings.TASKS = {"default": {"BACKEND": backend, "QUEUES": settings.QUEUES}}
    forget()


def forget():
    """Each test is rolled back, so that revisions get the same numbers again."""
    for remembered in (known, _ground, assembly_of, layout_of, _looked_for, preparing, parts_of):
        remembered.forget()
    for prepared in (prepared_sheet, moves_shown, stored_sheet_file, page_of, _summary):
        prepared.forget()


@pytest.fixture(scope="session")
def rows_of_the_demo(django_db_setup, django_db_blocker):
    """The rows of a workshop with the demo in it, loaded once."""
    # It is made before what belongs to its first test, and after other tests.
    forget()
    with django_db_blocker.unblock(), transaction.atomic():
        load_demo()
        rows = [row for model in apps.get_app_config("workshop").get_models() for row in model.objects.all()]
        said = serializers.serialize("json", rows)
        transaction.set_rollback(True)
    return said


@pytest.fixture
def tray(db, rows_of_the_demo):
    for row in serializers.deserialize("json", rows_of_the_demo):
        row.save()
    return StoredProject.objects.get(slug="sorting-tray")
