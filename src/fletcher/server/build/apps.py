from django.apps import AppConfig


class BuildConfig(AppConfig):
    name = "fletcher.server.build"
    label = "build"
