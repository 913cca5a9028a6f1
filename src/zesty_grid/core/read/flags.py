"""What the flags of a measured cell mean, in words, with the cure."""

from zesty_grid.core.frozen import Frozen


class Flag(Frozen):
    """`asks`: a person should look before the reading is accepted."""

    flag: str
    words: str
    cure: str
    asks: bool = True


FLAGS = (
    Flag(
        flag="empty",
        words="Nothing lies here, or it looks like the page.",
        cure="Lay the piece flat over the dots, or draw its outline.",
    ),
    Flag(
        flag="clipped",
        words="Parts are too bright for the camera.",
        cure="Lower the exposure and take the photo again.",
    ),
    Flag(
        flag="too dark",
        words="Nearly black: the camera sees little here.",
        cure="Give the sheet more light, or a longer exposure.",
    ),
    Flag(
        flag="glare",
        words="Light is thrown back from the surface; it was left out.",
        cure="Turn the lamp or the sheet where it is much.",
    ),
    Flag(
        flag="cloth too small",
        words="The piece is small for its cell.",
        cure="Lay it flat and whole in the cell, or use smaller cells.",
    ),
    Flag(
        flag="more than one piece",
        words="More than one piece lies here; the largest was read.",
        cure="Give each piece a cell of its own.",
    ),
    Flag(
        flag="more than one colour",
        words="The piece has more than one colour.",
        cure="Accept its zones by name; the mean is of all of them together.",
    ),
    Flag(
        flag="hole",
        words="The page is seen through a hole, which was left out.",
        cure="Nothing, if it belongs to the piece.",
    ),
    Flag(
        flag="see-through",
        words="The page seems to show through; its share was taken off.",
        cure="If nothing shows through, say so. Else fold it to four layers, or lay card under it, and note which.",
    ),
    Flag(flag="yarn", words="Yarn: read where the strands face the light.", cure="", asks=False),
    Flag(
        flag="shadow",
        words="The light differs here, by a shadow, a fold or the phone; divided out as far as paper shows it.",
        cure="Clear the light, lay the page flat, and take the photo again if the number matters.",
    ),
    Flag(
        flag="local tone",
        words="The phone changed the contrast here.",
        cure="Switch off what improves pictures by itself, or take a raw photo.",
    ),
    Flag(
        flag="other light",
        words="Another light falls here than on the chart.",
        cure="Use one kind of light only, from both sides.",
    ),
    Flag(
        flag="light not seen",
        words="No paper here tells of the light: it is taken to be that of the chart.",
        cure="Lay the chart close by, or use a sheet.",
        asks=False,
    ),
    Flag(
        flag="beyond the chart",
        words="More saturated than any patch of the chart.",
        cure="Believe it less: the uncertainty says how much.",
    ),
)
ASKS_NOTHING = {flag.flag for flag in FLAGS if not flag.asks}
