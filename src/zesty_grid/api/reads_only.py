"""Questions that are asked by POST, as they are too long for an address, and change nothing."""

import re

from fastapi import Request

QUESTIONS = re.compile(
    r"/api/(find|find/photo|find/photo/image|light/window|ph|ph/next|ph-strips/scale|ph-strips/[a-z0-9.-]+/readings|charts/look|tables/look|tables/print"
    r"|studies/\d+/(budget|effect|go-on/effect|compare|compare/foretell|compare/next"
    r"|dye/additions|dye/who|dye/scan|trials/proposal|instruments/look))"
)


def reads_only(request: Request) -> bool:
    return request.method == "POST" and QUESTIONS.fullmatch(request.url.path) is not None
