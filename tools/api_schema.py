"""Write the API's OpenAPI schema for the front end's types, or check that the committed one is current."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
TARGET = ROOT / "frontend" / "src" / "api" / "openapi.json"


def main() -> int:
    """Exit code 1 if `--check` finds the committed schema out of date."""
    sys.path.insert(0, str(ROOT / "src"))
    os.environ["DJANGO_SETTINGS_MODULE"] = "fletcher.server.settings"
    for name in ("FLETCHER_SECRET_KEY", "FLETCHER_DB_PASSWORD", "FLETCHER_DB_PORT"):
        os.environ.setdefault(name, "1")
    import django

    django.setup()
    from fletcher.server.api import api

    text = json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True) + "\n"
    if "--check" not in sys.argv:
        TARGET.parent.mkdir(parents=True, exist_ok=True)
        TARGET.write_text(text)
        return 0
    if TARGET.read_text() == text:
        return 0
    print("The API changed: run ./fletcher api and commit what it writes.")
    return 1


if __name__ == "__main__":
    sys.exit(main())
