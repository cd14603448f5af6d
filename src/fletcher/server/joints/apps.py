from django.apps import AppConfig


class JointsConfig(AppConfig):
    name = "fletcher.server.joints"
    label = "coupons"  # the tables keep their names
