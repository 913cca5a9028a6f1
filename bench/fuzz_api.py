"""A long run of the schema-driven tester: `make fuzz`, or with a number of requests.

Other requests each time. One JSON object a line: what was answered otherwise than is documented.
"""

import json
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.api_contract import application_on, complaints, operations_of, seeded_file, start_anew

REQUESTS = 100_000


def main() -> None:
    requests = int(sys.argv[1]) if len(sys.argv) > 1 else REQUESTS
    with TemporaryDirectory() as folder:
        seeded = seeded_file(Path(folder) / "seeded.db")
        application = application_on(seeded)
        operations = operations_of(application)
        examples = max(1, requests // (2 * len(operations)))
        total = 0
        for n, (label, operation) in enumerate(operations.items()):
            start_anew(application, seeded, Path(folder) / str(n))
            for words in dict.fromkeys(complaints(operation, examples, steady=False)):
                total += 1
                print(json.dumps({"operation": label, "complaint": words}), flush=True)
        print(
            json.dumps(
                {"fuzz": "API", "operations": len(operations), "examples_each": 2 * examples, "complaints": total}
            )
        )
        raise SystemExit(1 if total else 0)


if __name__ == "__main__":
    main()
