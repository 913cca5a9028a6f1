"""Starts the real server again and again in a fork that has loaded everything already.

Run as a program: FILE PORT. Each line on stdin starts a server; its process number is printed, and
the line after it waits for that process to be gone.
"""

import os
import sys
from pathlib import Path

import uvicorn
from tests.bench import bench_for

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database


def main() -> None:
    # What is worked out once for this study is there in every fork.
    bench_for()
    data, port = Path(sys.argv[1]), int(sys.argv[2])
    while sys.stdin.readline():
        child = os.fork()
        if child == 0:
            uvicorn.run(create_application(Database(data)), port=port, log_level="error")
            os._exit(0)
        print(child, flush=True)
        os.waitpid(child, 0)
        print("gone", flush=True)


if __name__ == "__main__":
    main()
