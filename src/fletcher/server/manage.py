"""Django's management commands, with the environment that the `fletcher` command sets."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "fletcher.server.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
