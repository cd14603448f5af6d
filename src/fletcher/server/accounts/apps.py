from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "fletcher.server.accounts"
