from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "ypsicline.server.jobs"
    label = "jobs"
    default_auto_field = "django.db.models.BigAutoField"
