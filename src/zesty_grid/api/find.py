"""A colour looked for among everything that was ever read, and the recipe of what is found."""

import sqlite3
from collections.abc import Sequence
from typing import Annotated, NamedTuple

import numpy as np
from fastapi import APIRouter, File, Path, Query, UploadFile
from fastapi.responses import Response

from zesty_grid.api.answers import Created
from zesty_grid.api.between import foretold_cells
from zesty_grid.api.find_answers import FindView, FollowRecipes, FoundColour, InSet, SetView
from zesty_grid.api.read import picture_of_cell
from zesty_grid.api.shared import Store
from zesty_grid.core.compare.colour_set import SetQuestion, far_apart, in_steps, nearest_two, with_fewer_pots
from zesty_grid.core.compare.coloured import Coloured, StateKey, parse_key
from zesty_grid.core.compare.find import FindQuestion, wanted_lab
from zesty_grid.core.compare.lasts import LastsWords
from zesty_grid.core.compare.nearest import Near, nearest
from zesty_grid.core.compare.recipe import Recipe
from zesty_grid.core.fade.life import Aged
from zesty_grid.core.plan.following import RecipeOf
from zesty_grid.core.read.areas import measure_areas
from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.colour_space import hex_to_lab, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import CellMeasurement
from zesty_grid.core.read.said_by_hand import Area, CellByHand
from zesty_grid.core.read.sheet_layout import Paper, no_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.on_screen import screen_jpeg
from zesty_grid.formats.photo import MAX_BYTES, open_photo
from zesty_grid.formats.recipe_card import recipe_card_html, recipe_card_pdf
from zesty_grid.store import read as readings_store
from zesty_grid.store.catalogue import Searched, coloured_by_key, searched_colours, states_by_key
from zesty_grid.store.database import Database
from zesty_grid.store.lasting_of import aged_in_place, lives_in
from zesty_grid.store.plan import NotFound
from zesty_grid.store.recipes import RecipeBook
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api", tags=["find"])

SPOT_SHARE = 0.03
SHOWN_WIDTH_PX = 1200
Code = Annotated[str, Path(pattern=r"^[A-Z0-9]{2,12}$")]
Mass = Annotated[float, Query(gt=0, le=30_000)]
Run = Annotated[int | None, Query(ge=-(2**53), le=2**53)]


@router.post("/find")
def find_colour(question: FindQuestion, store: Store) -> FindView:
    """The nearest of all studies and of the cloths of the Shelf."""
    with store.connection() as connection:
        wanted, uncertainty = _wanted(connection, question)
        pieces = [one for one in searched_colours(connection) if one.key != question.key]
        labs = np.array([one.lab for one in pieces]).reshape(-1, 3)
        order = nearest(wanted, uncertainty, labs, np.array([p.uncertainty_de00 for p in pieces]))
        filtered = _Filtered(connection, question)
        kept = []
        for near in order:
            if filtered.keeps(pieces[near.place]):
                kept.append(near)
            if len(kept) >= question.most:
                break
        whole = coloured_by_key(connection, [pieces[near.place].key for near in kept])
        found = [filtered.told(whole[pieces[near.place].key], near) for near in kept if pieces[near.place].key in whole]
    lab = np.array(wanted)
    return FindView(
        lab=wanted,
        hex=lab_to_hex(lab),
        colour_words=colour_words(lab),
        uncertainty_de00=uncertainty,
        found=tuple(found),
        searched=len(pieces),
        lasting_unknown=filtered.lasting_unknown,
    )


@router.post("/find/set")
def find_set(question: SetQuestion, store: Store) -> SetView:
    """Colours chosen together among all that was dyed, and what is foretold in one study, in as few
    pots as serve as well."""
    with store.connection() as connection:
        filtered = _Filtered(connection, question.first)
        among = _candidates(connection, question.study)
        labs = np.array([one.lab for one in among]).reshape(-1, 3)
        known: dict[int, frozenset[str]] = {}

        def baths_of(place: int) -> frozenset[str]:
            if place not in known:
                known[place] = filtered.book.bath_keys(among[place].of)
            return known[place]

        def keeps(place: int) -> bool:
            one = among[place]
            asked = filtered.keeps(one.piece) if one.piece else filtered.keeps_cell(*one.there)
            return asked and bool(baths_of(place))

        if question.how == "apart":
            chosen = far_apart(labs, question.count, keeps)
        else:
            first, _ = _wanted(connection, question.first)
            last = np.asarray(hex_to_lab((question.last_hex or "").lstrip("#")))
            chosen = in_steps(labs, (np.array(first), last), question.count, keeps)
        chosen = with_fewer_pots(labs, chosen, keeps, baths_of)
        found = _told_set(connection, [among[place] for place in chosen])
        pots = filtered.book.pots([one.of for one in found], question.first.mass_g) if found else 0
    return SetView(
        found=tuple(found),
        searched=len(among),
        nearest_de00=nearest_two(labs[chosen]) if len(chosen) > 1 else None,
        vessels=pots,
    )


class _Candidate(NamedTuple):
    """A swatch by its newest colour, or a cell that is foretold: `there` is its study, its key and
    its fibre."""

    of: RecipeOf
    lab: tuple[float, float, float]
    piece: Searched | None = None
    there: tuple[int, str, str] = (0, "", "")
    foretold_de00: float | None = None


def _candidates(connection: sqlite3.Connection, study: int | None) -> list[_Candidate]:
    newest = {one.code: one for one in searched_colours(connection) if one.kind == "swatch" and one.code}
    found = [_Candidate(RecipeOf(code=code), one.lab, piece=one) for code, one in newest.items()]
    if study is not None:
        fibres = {cell.key: cell.levels.get("fibre", "") for cell in standing_study(connection, study).planned.cells}
        for cell in foretold_cells(connection, study).cells:
            of = RecipeOf(study=study, cell=cell.cell)
            there = (study, cell.cell, fibres.get(cell.cell, ""))
            found.append(_Candidate(of, cell.colour.lab, there=there, foretold_de00=cell.colour.uncertainty_de00))
    return found


def _told_set(connection: sqlite3.Connection, chosen: Sequence[_Candidate]) -> list[InSet]:
    whole = coloured_by_key(connection, [one.piece.key for one in chosen if one.piece])
    found = []
    for one in chosen:
        piece = whole.get(one.piece.key) if one.piece else None
        words = piece.words if piece else _cell_words(connection, one.there[0], one.there[1])
        hex_ = lab_to_hex(np.array(one.lab))
        found.append(InSet(of=one.of, words=words, hex=hex_, piece=piece, foretold_de00=one.foretold_de00))
    return found


def _cell_words(connection: sqlite3.Connection, study: int, key: str) -> str:
    planned = standing_study(connection, study).planned
    cell = next((one for one in planned.cells if one.key == key), None)
    return ", ".join(planned.level_words(cell.levels).values()) if cell else key


@router.post("/find/photo")
def colour_beside_chart(
    photo: Annotated[UploadFile, File()], x: Annotated[float, Query(ge=0, le=1)], y: Annotated[float, Query(ge=0, le=1)]
) -> CellMeasurement:
    """The colour of an object that lies beside the common chart, at a place in the photo given as
    shares of its width and height. Nothing is kept."""
    picture = open_photo(photo.file.read(MAX_BYTES + 1))
    half = SPOT_SHARE * min(picture.width, picture.height) / 2
    at = (x * picture.width, y * picture.height)
    corners = [(at[0] + a * half, at[1] + b * half) for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    area = Area(outline_px=tuple((round(a, 1), round(b, 1)) for a, b in corners))
    sheet = no_sheet("FIND", patch24())
    by_hand = CellByHand(cell=sheet.cells[0].cell, areas=(area,))
    return measure_areas(picture, sheet, [by_hand]).cells[0]


@router.post("/find/photo/image", response_class=Response)
def photo_on_screen(photo: Annotated[UploadFile, File()]) -> Response:
    """The photo upright, as JPEG, for a screen that cannot show its kind itself (HEIC, raw).
    Nothing is kept."""
    shown = screen_jpeg(open_photo(photo.file.read(MAX_BYTES + 1)), SHOWN_WIDTH_PX)
    return Response(shown, media_type="image/jpeg")


@router.get("/swatches/{code}/recipe")
def recipe(code: Code, store: Store, mass_g: Mass = 100, run: Run = None) -> Recipe:
    """Every bath of a swatch, for another mass of fibre."""
    with store.connection() as connection:
        return RecipeBook(connection).recipe(code, mass_g, run)


@router.post("/recipes/follow", status_code=201)
def follow_recipes(asked: FollowRecipes, store: Store) -> Created:
    """A study in which so much fibre is dyed by the recipe of each of some swatches."""
    with store.transaction() as connection:
        made = RecipeBook(connection).follow(asked.swatches, asked.mass_g, asked.pieces, asked.fibres)
        return Created(id=made)


@router.get("/swatches/{code}/recipe.pdf", response_class=Response)
def recipe_as_pdf(code: Code, store: Store, mass_g: Mass = 100, run: Run = None, paper: Paper = "A4") -> Response:
    with store.connection() as connection:
        told = RecipeBook(connection).recipe(code, mass_g, run)
        piece, lasting = _card(connection, code, run)
    picture = _cloth_as_photographed(store, piece)
    pdf = recipe_card_pdf(told, piece, lasting, picture, paper)
    return Response(pdf, media_type="application/pdf")


@router.get("/swatches/{code}/recipe.html", response_class=Response)
def recipe_as_html(code: Code, store: Store, mass_g: Mass = 100, run: Run = None) -> Response:
    with store.connection() as connection:
        told = RecipeBook(connection).recipe(code, mass_g, run)
        piece, lasting = _card(connection, code, run)
    picture = _cloth_as_photographed(store, piece)
    return Response(recipe_card_html(told, piece, lasting, picture), media_type="text/html")


def _card(connection: sqlite3.Connection, code: str, run: int | None) -> tuple[Coloured | None, list[str]]:
    """The colour that the card is of, and how long it lives in each place of the Shelf."""
    own = states_by_key(connection, [StateKey(code, 0, "")])
    piece = next((one for one in own if run is not None and one.key == f"{code}@{run}"), None)
    piece = piece or (own[-1] if own else None)
    if piece is None or not piece.study:
        return piece, []
    return piece, lives_in(connection, piece.study, code, load_shelf(connection).light_places)


def _cloth_as_photographed(store: Database, piece: Coloured | None) -> bytes | None:
    """The swatch cut out of the photo that it was read in, as PNG; None where there is none."""
    key = parse_key(piece.key) if piece else None
    if not isinstance(key, StateKey):
        return None
    with store.connection() as connection:
        there = readings_store.last_photographed(connection, key.code, key.run)
        if there is None:
            return None
        photo = readings_store.load_photo(connection, there[0])
        data = readings_store.photo_bytes(connection, there[0])
    try:
        return picture_of_cell(photo, data, there[1], "photo")
    except Refusal:
        return None  # a photo that cannot be opened any more spoils no card


def _wanted(connection: sqlite3.Connection, question: FindQuestion) -> tuple[tuple[float, float, float], float]:
    if question.key is None:
        return wanted_lab(question), question.uncertainty_de00
    found = coloured_by_key(connection, [question.key]).get(question.key)
    if found is None:
        raise NotFound("colour of that name")
    return found.lab, found.uncertainty_de00


class _Filtered:
    """What a question lets through, with what is known of each that passes."""

    def __init__(self, connection: sqlite3.Connection, question: FindQuestion) -> None:
        self.connection, self.question = connection, question
        self.book = RecipeBook(connection)
        self.lasting_unknown = 0
        self._aged: dict[int, dict[str, Aged]] = {}
        self.place = None
        if question.lasting:
            places = load_shelf(connection).light_places
            self.place = next((p for p in places if p.key == question.lasting.place), None)
            if self.place is None:
                raise NotFound("place of light on the Shelf")

    def keeps(self, piece: Searched) -> bool:
        asked = self.question
        if asked.fibres and piece.fibre not in asked.fibres:
            return False
        if piece.kind == "cloth":
            return not (asked.gentle or asked.lasting or asked.in_hand or asked.cost_at_most)
        if asked.lasting and not self._lasts_long(piece):
            return False
        return self.recipe_is_as_asked(self._of(piece))

    def recipe_is_as_asked(self, of: RecipeOf) -> bool:
        asked = self.question
        if asked.gentle and not self.book.gentleness(of).is_gentle:
            return False
        if asked.in_hand or asked.cost_at_most is not None:
            cost, there = self.book.quick(of, asked.mass_g)
            if asked.in_hand and not there:
                return False
            if asked.cost_at_most is not None and (cost is None or cost > asked.cost_at_most):
                return False
        return True

    def keeps_cell(self, study: int, cell: str, fibre: str) -> bool:
        """One that was only foretold; how it lasts is not known."""
        asked = self.question
        if asked.lasting or (asked.fibres and fibre not in asked.fibres):
            return False
        return self.recipe_is_as_asked(RecipeOf(study=study, cell=cell))

    def told(self, piece: Coloured, near: Near) -> FoundColour:
        de00, off, same = near.de00, near.uncertainty_de00, near.same
        if piece.kind == "cloth":
            return FoundColour(piece=piece, de00=de00, uncertainty_de00=off, same=same)
        gentle = self.book.gentleness(self._of(piece))
        cost, there = self.book.quick(self._of(piece), self.question.mass_g)
        aged = self._aged_of(piece)
        lasts = None
        if aged and self.place and self.question.lasting:
            lasts = _lasts(aged, self.place.name, self.question.lasting.years)
        return FoundColour(
            piece=piece,
            de00=de00,
            uncertainty_de00=off,
            same=same,
            gentle=gentle,
            is_gentle=gentle.is_gentle,
            cost=cost,
            in_hand=there,
            lasts=lasts,
        )

    def _lasts_long(self, piece: Searched) -> bool:
        aged = self._aged_of(piece)
        if aged is None:
            self.lasting_unknown += 1
            return False
        within = self.question.lasting.within_de00 if self.question.lasting else 0
        return not aged.too_far and aged.high_de00 <= within

    def _aged_of(self, piece: Coloured | Searched) -> Aged | None:
        if self.place is None or self.question.lasting is None or piece.study is None:
            return None
        if piece.study not in self._aged:
            years = self.question.lasting.years
            self._aged[piece.study] = aged_in_place(self.connection, piece.study, self.place, years)
        return self._aged[piece.study].get(piece.code)

    def _of(self, piece: Coloured | Searched) -> RecipeOf:
        key = parse_key(piece.key)
        return RecipeOf(code=piece.code, run=key.run if isinstance(key, StateKey) else None)


def _lasts(aged: Aged, place: str, years: float) -> LastsWords:
    return LastsWords(
        place=place,
        years=years,
        de00=aged.de00,
        low_de00=aged.low_de00,
        high_de00=aged.high_de00,
        beyond=aged.beyond or aged.too_far,
    )
