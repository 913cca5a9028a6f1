"""The application's commands, run in forks of one process that has loaded everything: a start of its own takes five
seconds of processor time.

Run as a program, each line on stdin is an order in JSON, and each order is answered by one number: `{"run": …}` by that
of the process, `{"wait": …}` by its status when it has ended.
"""

import json
import os
import signal
import subprocess
import sys
from pathlib import Path

import uvicorn
from tests.bench import bench_for

from zesty_grid.api.application import create_application
from zesty_grid.cli import main
from zesty_grid.serving import serve
from zesty_grid.store.database import Database


def bare(arguments: list[str]) -> None:
    """A server without locks, backups or checks: FILE PORT."""
    data, port = arguments
    uvicorn.run(create_application(Database(Path(data))), port=int(port), log_level="error")


class Fork:
    """A command that runs; `said` and `complained` are the files of its words."""

    def __init__(self, forks: "Forks", pid: int, said: Path, complained: Path) -> None:
        self._forks, self.pid, self.said, self.complained = forks, pid, said, complained
        self._status: int | None = None

    def wait(self) -> int:
        if self._status is None:
            self._status = self._forks.order({"wait": self.pid})
        return self._status

    def kill(self) -> None:
        """As when the power goes."""
        if self._status is None:
            os.kill(self.pid, signal.SIGKILL)
            self.wait()

    def end(self) -> int:
        """As the terminal ends it, in order."""
        os.kill(self.pid, signal.SIGTERM)
        return self.wait()


class Forks:
    def __init__(self, folder: Path) -> None:
        self._folder, self._number = folder, 0
        self._source = subprocess.Popen(
            [sys.executable, "-m", "tests.forks"],
            cwd=Path(__file__).parent.parent,
            text=True,
            bufsize=1,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
        )

    def order(self, said: dict) -> int:
        assert self._source.stdin
        assert self._source.stdout
        self._source.stdin.write(json.dumps(said) + "\n")
        return int(self._source.stdout.readline())

    def run(self, *arguments: object, what: str = "command") -> Fork:
        self._number += 1
        words = [self._folder / f"{self._number}.{stream}" for stream in ("said", "complained")]
        order = {"run": what, "arguments": [str(one) for one in arguments], "words": [str(one) for one in words]}
        return Fork(self, self.order(order), *words)

    def close(self) -> None:
        assert self._source.stdin
        self._source.stdin.close()
        self._source.wait()


def _in_the_fork(order: dict) -> int:
    for number, path in enumerate(order["words"], 1):
        os.dup2(os.open(path, os.O_WRONLY | os.O_CREAT), number)
    try:
        {"command": main, "bare": bare}[order["run"]](order["arguments"])
    except SystemExit as ended:
        return ended.code if isinstance(ended.code, int) else 0
    except BaseException:
        sys.excepthook(*sys.exc_info())
        return 1
    finally:
        sys.stdout.flush()
        sys.stderr.flush()
    return 0


def take_orders() -> None:
    # What is worked out once, and what a command loads only when it runs, is there in every fork.
    bench_for()
    assert serve
    for line in sys.stdin:
        order = json.loads(line)
        if "wait" in order:
            print(os.waitstatus_to_exitcode(os.waitpid(order["wait"], 0)[1]), flush=True)
            continue
        child = os.fork()
        if child == 0:
            os._exit(_in_the_fork(order))
        print(child, flush=True)


if __name__ == "__main__":
    take_orders()
