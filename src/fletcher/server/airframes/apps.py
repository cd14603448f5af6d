from django.apps import AppConfig


class AirframesConfig(AppConfig):
    name = "fletcher.server.airframes"
