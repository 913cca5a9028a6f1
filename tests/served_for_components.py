"""The real application for the component tests of the front end: `python -m tests.served_for_components PORT`.

Each POST to /anew answers from then on with an empty file and the Shelf as it comes.
"""

import sys
from pathlib import Path
from tempfile import TemporaryDirectory

import uvicorn
from starlette.responses import Response
from starlette.types import Receive, Scope, Send
from tests.conftest import file_made_by

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database


def main() -> None:
    stocked = file_made_by(lambda database: None)
    with TemporaryDirectory() as folder:

        def anew(number: int) -> Database:
            path = Path(folder) / f"{number}.db"
            path.write_bytes(stocked)
            return Database(path)

        number, application = 0, create_application(anew(0))

        async def front(scope: Scope, receive: Receive, send: Send) -> None:
            nonlocal number, application
            if scope["path"] != "/anew":
                await application(scope, receive, send)
                return
            number += 1
            application = create_application(anew(number))
            await Response(status_code=204)(scope, receive, send)

        uvicorn.run(front, port=int(sys.argv[1]), log_level="warning", lifespan="off")


if __name__ == "__main__":
    main()
