"""python -m fletcher.cli"""

import sys

from fletcher.cli import main

sys.exit(main())
