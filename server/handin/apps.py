from django.apps import AppConfig


class HandInConfig(AppConfig):
    name = "handin"
    default_auto_field = "django.db.models.BigAutoField"
