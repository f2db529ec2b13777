from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "people"
    default_auto_field = "django.db.models.BigAutoField"
