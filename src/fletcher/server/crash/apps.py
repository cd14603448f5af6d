from django.apps import AppConfig


class CrashConfig(AppConfig):
    name = "fletcher.server.crash"
    label = "logbook"  # the tables keep their names
