"""The application, loaded whole."""

import os
from importlib import import_module

from django.conf import settings
from django.core.wsgi import get_wsgi_application

from fletcher.core.materials.tables import reference

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "fletcher.server.settings")
application = get_wsgi_application()
# read once, before workers part, what else each would read under its first request
import_module(settings.ROOT_URLCONF)
reference()
