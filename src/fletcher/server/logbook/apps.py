from django.apps import AppConfig


class LogbookConfig(AppConfig):
    name = "fletcher.server.logbook"
