from django.apps import AppConfig


class OperationsConfig(AppConfig):
    name = "ypsicline.server.operations"
    label = "operations"
