"""The real application for the component tests of the front end: `python -m tests.served_for_components PORT`.

POST /anew: from then on an empty file, with the Shelf as it comes. POST /small: the small study of the tests.
"""

import sys
from pathlib import Path
from tempfile import TemporaryDirectory

import uvicorn
from starlette.responses import JSONResponse, Response
from starlette.types import Receive, Scope, Send
from tests.conftest import stocked_file
from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database


def main() -> None:
    with TemporaryDirectory() as folder:

        def anew(number: int) -> Database:
            path = Path(folder) / f"{number}.db"
            path.write_bytes(stocked_file())
            return Database(path)

        number, application = 0, create_application(anew(0))

        async def front(scope: Scope, receive: Receive, send: Send) -> None:
            nonlocal number, application
            if scope["path"] == "/anew":
                number += 1
                application = create_application(anew(number))
                await Response(status_code=204)(scope, receive, send)
            elif scope["path"] == "/small":
                study, _ = new_study(application.state.database, small_plan())
                await JSONResponse({"id": study})(scope, receive, send)
            else:
                await application(scope, receive, send)

        uvicorn.run(front, port=int(sys.argv[1]), log_level="warning", lifespan="off")


if __name__ == "__main__":
    main()
