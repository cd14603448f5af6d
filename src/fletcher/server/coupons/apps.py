from django.apps import AppConfig


class CouponsConfig(AppConfig):
    name = "fletcher.server.coupons"
