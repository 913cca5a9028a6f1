"""Anything that has a colour and can be laid beside anything else: a swatch in a state, a zone, a
stage of a trial, a control, a reference cloth."""

import re
from typing import Annotated, Literal, NamedTuple

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.refusal import Fault, Refusal

ColouredKind = Literal["swatch", "control", "zone", "stage", "cloth"]
ColouredKey = Annotated[str, Field(min_length=2, max_length=160)]
_STATE = re.compile(r"(?P<code>[A-Z0-9]+)@(?P<run>-?\d{1,15})(?:~(?P<zone>.{1,80}))?")
_STAGE = re.compile(
    r"(?P<code>[A-Z0-9]+)/t(?P<trial>\d{1,15})/s(?P<stage>\d{1,4})/(?P<part>dark|exposed)"
    r"(?:~(?P<zone>.{1,80}))?"
)


class Coloured(Frozen):
    """`key` names it for ever: `EYFC@41` a swatch after the bath that began as number 41 (0: as it
    came), `EYFC@41~halo` a zone of it, `EYFC/t3/s4/exposed` a piece at a stage of a trial,
    `cloth:old-skein` a cloth of the Shelf. `undyed` is the key of undyed cloth of its fibre."""

    key: ColouredKey
    kind: ColouredKind
    study: int | None = None
    study_name: str = ""
    code: str = ""
    name: str
    words: str
    state: str = ""
    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    fibre: str = ""
    levels: dict[str, str] = Field(default_factory=dict)
    taken_on: str = ""
    undyed: str | None = None


class StateKey(NamedTuple):
    code: str
    run: int
    zone: str


class StageKey(NamedTuple):
    code: str
    trial: int
    stage: int
    part: str
    zone: str


class ClothKey(NamedTuple):
    cloth: str


def parse_key(key: str) -> StateKey | StageKey | ClothKey:
    """Raises Refusal for what is no key."""
    if key.startswith("cloth:"):
        return ClothKey(key.removeprefix("cloth:"))
    if found := _STATE.fullmatch(key):
        return StateKey(found["code"], int(found["run"]), found["zone"] or "")
    if found := _STAGE.fullmatch(key):
        return StageKey(found["code"], int(found["trial"]), int(found["stage"]), found["part"], found["zone"] or "")
    raise Refusal(
        "no-colour-key",
        f"“{key[:60]}” names nothing that has a colour.",
        "Choose it from the lists of swatches and cloths.",
        (Fault(field="key", given=key[:60], allowed="a key such as EYFC@41", cure="Choose it from a list."),),
    )


def state_key(code: str, run: int, zone: str = "") -> str:
    return f"{code}@{run}" + (f"~{zone}" if zone else "")


def stage_key(code: str, trial: int, stage: int, part: str, zone: str = "") -> str:
    return f"{code}/t{trial}/s{stage}/{part}" + (f"~{zone}" if zone else "")
