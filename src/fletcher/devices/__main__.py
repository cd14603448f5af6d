"""`fletcher devices`: simulated bench instruments on loopback, until Ctrl-C."""

from __future__ import annotations

import argparse
import sys

from fletcher.devices.serving import FIRST_PORT, Bench


def main(argv: list[str] | None = None) -> int:
    """Serve the instruments; 2 where a port is taken."""
    parser = argparse.ArgumentParser(prog="fletcher devices", description=__doc__)
    parser.add_argument("--port", type=int, default=FIRST_PORT, help="first port; each instrument takes the next one")
    first = parser.parse_args(argv).port
    try:
        bench = Bench(first)
    except OSError as error:
        print(f"fletcher devices: port {first} or one after it: {error.strerror}", file=sys.stderr)
        return 2
    for name, one in bench.served.items():
        print(f"{name:<18} 127.0.0.1:{one.port}", flush=True)
    try:
        bench.run(lambda: True)
    except KeyboardInterrupt:
        bench.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
