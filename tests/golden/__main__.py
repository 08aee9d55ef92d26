"""Write the kept values anew: `python -m tests.golden`."""

import json

from tests.golden import DEMOS, kept_of, path_of

for name in DEMOS:
    path_of(name).write_text(json.dumps(kept_of(name), indent=1, ensure_ascii=False) + "\n")
