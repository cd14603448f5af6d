from django.apps import AppConfig


class StockConfig(AppConfig):
    name = "fletcher.server.stock"
    label = "stock"
