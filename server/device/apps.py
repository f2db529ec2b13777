from django.apps import AppConfig


class DeviceConfig(AppConfig):
    name = "device"
    default_auto_field = "django.db.models.BigAutoField"
