"""Asks the API and prints how much processor time the answers take."""

import json
import statistics
import time

from starlette.testclient import TestClient


def ask(client: TestClient, bench: dict[str, object], name: str, path: str, target_ms: int | None, rounds: int) -> None:
    """One JSON object: median and 95th percentile of `rounds` answers, in milliseconds."""
    times = []
    client.get(path)  # the first answer of a kind builds how it is written
    for _ in range(rounds):
        start = time.process_time()
        answer = client.get(path)
        times.append(1000 * (time.process_time() - start))
        assert answer.status_code == 200, answer.text[:200]
    print(
        json.dumps(
            bench
            | {
                "asked": name,
                "median_ms": round(statistics.median(times), 1),
                "p95_ms": round(sorted(times)[int(0.95 * rounds)], 1),
                "target_ms": target_ms,
                "answer_kb": round(len(answer.content) / 1024),
            }
        ),
        flush=True,
    )
