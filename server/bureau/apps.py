from django.apps import AppConfig


class BureauConfig(AppConfig):
    name = "bureau"
    default_auto_field = "django.db.models.BigAutoField"
