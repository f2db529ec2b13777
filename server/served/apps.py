from django.apps import AppConfig


class ServedConfig(AppConfig):
    name = "served"
