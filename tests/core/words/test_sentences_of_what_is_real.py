"""The sentences of Tell and Compare: every fact has its words, and what says the same is said once."""

import pytest

from zesty_grid.core.compare.compared import Compared, DependsOn, Depths, EffectAt, FactorEffect, PairEffect, RestsOn
from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.noise.levels import USUAL, starting_at
from zesty_grid.core.noise.together import Together
from zesty_grid.core.plan.told import Effect, LevelCount, PairTold
from zesty_grid.core.words.real_differences import (
    chance_words,
    change_words,
    effect_words,
    in_words,
    rests_words,
    statements,
)
from zesty_grid.core.words.telling import effect_words as told_words

NAMES = {
    "iron": "Iron",
    "iron=yes": "Iron 1 %",
    "iron=no": "No iron",
    "dye": "Dye",
    "dye=a": "Alder",
    "dye=b": "Bracken",
    "ph": "Dye pH",
    "mordant": "Mordant",
    "mordant=alum": "Alum",
    "mordant=none": "No mordant",
}


def change(direction, size, word, real=True):
    return DirectionChange(
        direction=direction, change_de00=size, low_de00=size - 1, high_de00=size + 1, word=word, real=real
    )


def effect(**changes):
    base = {
        "factor": "iron",
        "from_level": "no",
        "to_level": "yes",
        "how": "alike",
        "combinations": 2,
        "de00": 11.0,
        "low_de00": 9.0,
        "high_de00": 13.0,
        "p": 0.001,
        "p_alone": 0.001,
        "verdict": "different",
        "verdicts": Depths(pieces="different", again="different", rule="different"),
        "shows_de00": 7.4,
        "one_more_shows_de00": 5.2,
        "between": "dye",
        "rests_on": RestsOn(what="vessel", how="usual", repeats=0),
        "directions": (
            change("lightness", -9, "darker"),
            change("chroma", -5, "duller"),
            change("hue", 0.5, "greener", real=False),
        ),
    }
    return FactorEffect(**(base | changes))


def found(*effects, interactions=(), by_chance=0.0):
    return Compared(
        swatches=9,
        noise=starting_at(USUAL),
        reading_de00=0.3,
        effects=effects,
        interactions=interactions,
        by_chance=by_chance,
    )


def at(dye, de00):
    return EffectAt(
        levels={"dye": dye},
        from_lab=(60, 0, 0),
        to_lab=(50, 0, 0),
        from_hex="#888888",
        to_hex="#666666",
        de00=de00,
        different=True,
    )


BOTH = (at("a", 15.0), at("b", 6.0))
ON_DYE = DependsOn(factor="dye", most_level="a", most_de00=15.0, least_level="b", least_de00=6.0)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({}, "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0)."),
        (
            {"alike": True, "at": BOTH},
            "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0); alike with every dye.",
        ),
        (
            {"alike": False, "at": BOTH, "depends_on": ON_DYE},
            "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0); "
            "everywhere, most with Alder (15.0), least with Bracken (6.0).",
        ),
        (
            {
                "alike": False,
                "at": BOTH,
                "depends_on": ON_DYE,
                "verdicts": Depths(pieces="different", again="different", rule="untold"),
            },
            "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0); "
            "not told everywhere: most with Alder (15.0), least with Bracken (6.0).",
        ),
        (
            {"alike": False, "at": BOTH, "depends_on": ON_DYE, "from_near_white": True},
            "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0); No iron stays near white in both, "
            "Iron 1 % takes Alder (15.0) more than Bracken (6.0).",
        ),
        (
            {"how": "summed"},
            "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0); if what the others do adds up.",
        ),
        ({"verdict": "same"}, "No iron and Iron 1 % are the same colour, within 1 ΔE00."),
        ({"verdict": "untold"}, "No iron and Iron 1 % cannot be told apart: ΔE00 11.0 (9.0 to 13.0)."),
        ({"how": "never"}, "No iron and Iron 1 % never lie beside each other with all else the same."),
        (
            {"how": "together", "together": (Together(factor="mordant", from_levels=("none",), to_levels=("alum",)),)},
            "Iron 1 % (with Alum) is darker and duller than No iron (with No mordant): ΔE00 11.0 (9.0 to 13.0).",
        ),
    ],
)
def test_every_kind_of_effect_has_its_words(changes, words):
    assert effect_words(effect(**changes), NAMES) == words


def test_what_it_rests_on_and_what_one_more_makes_of_it():
    assert rests_words(effect()) == "Usual values; one more pot of each shows 5.2 instead of 7.4."
    learnt = effect(rests_on=RestsOn(what="swatch", how="learnt", repeats=12.2), between=None)
    assert rests_words(learnt) == "From 12 repeats; one more swatch of each shows 5.2 instead of 7.4."
    kept = effect(promised_de00=7.9)
    assert rests_words(kept) == "Usual values; one more pot of each shows 5.2 instead of 7.4. Promised: 7.9."
    assert rests_words(effect(rests_on=RestsOn(what="reading", how="known", repeats=0))) == ""


def test_many_pairs_that_say_the_same_are_one_sentence():
    def pair(first, second, de00, verdict="different"):
        return effect(factor="dye", from_level=first, to_level=second, de00=de00, verdict=verdict)

    every = found(*(pair(a, b, 10.0 + k) for k, (a, b) in enumerate(("ab", "ac", "ad", "bc", "bd", "cd"))))
    (one,) = statements(every, NAMES)
    assert one.words.startswith("All 4 levels of dye differ from one another: ΔE00 10.0 (Alder and Bracken) to 15.0")
    assert len(one.effects) == 6
    some = found(
        pair("a", "c", 20.0),
        pair("a", "d", 21.0),
        pair("b", "c", 22.0),
        pair("b", "d", 23.0),
        pair("a", "b", 1.0, "untold"),
        pair("c", "d", 2.0, "untold"),
    )
    words = [one.words for one in statements(some, NAMES)]
    assert [one.rests for one in statements(some, NAMES)] == [rests_words(effect()), ""]
    assert words == [
        "Alder and Bracken differ from c and d: ΔE00 20.0 (Alder and c) to 23.0 (Bracken and d).",
        "Alder and Bracken; c and d: these pieces differ, dyed again this grid shows differences from 7.4 on.",
    ]


def test_the_surest_come_first_and_what_cannot_be_told_is_one_line():
    said = statements(
        found(
            effect(factor="ph", verdict="untold", de00=2.0),
            effect(factor="dye", verdict="same", from_level="a", to_level="b", de00=0.2),
            effect(),
            effect(factor="mordant", how="never", verdict="untold", from_level="none", to_level="alum"),
        ),
        NAMES,
    )
    assert [one.verdict for one in said] == ["different", "same", "untold", "untold"]
    assert said[1].words == "Alder and Bracken: the same colour, within 1 ΔE00."
    assert "never beside each other" in " ".join(one.words for one in said)


def test_what_depends_on_what_and_what_comes_by_chance():
    acting = PairEffect(factors=("iron", "dye"), verdict="different", p=0.01, largest_de00=6.0)
    untold = PairEffect(factors=("iron", "ph"), verdict="untold")
    words = in_words(found(effect(), interactions=(acting, untold), by_chance=1.2), NAMES)
    assert words[1:] == [
        "What the iron does depends on the dye: by up to 6.0 ΔE00.",
        "If nothing differed, 1 of 1 comparisons would look different all the same, by chance.",
    ]
    assert chance_words(found(effect(), by_chance=0.3)) == []


def test_small_directions_are_not_named():
    large, small = change("lightness", -9, "darker"), change("chroma", -1, "duller")
    assert change_words([large, small]) == "darker"
    assert change_words([change("hue", 3, "redder"), large]) == "darker"
    assert change_words([change("hue", 3, "redder", real=False)]) == "of another colour"


def told(how="alike", shows=7.4, **more):
    pair = PairTold(from_level="a", to_level="b", how=how, shows_de00=shows, one_more_shows_de00=5.2, **more)
    return Effect(
        factor="dye",
        name="Dye",
        between="dye",
        levels=tuple(LevelCount(level=k, label=k, swatches=1, vessels=1) for k in "ab"),
        can_be_told=shows is not None,
        pairs=(pair,),
        smallest_difference_de00=shows,
        one_more_shows_de00=None if shows is None else 5.2,
    )


@pytest.mark.parametrize(
    ("effect", "words"),
    [
        (told(), "Dye: shows differences from 7.4 ΔE00 on, 8 times in 10; with one more pot of each from 5.2."),
        (
            told(how="never", shows=None),
            "Dye: cannot be told. Alder and Bracken never lie beside each other with all else the same.",
        ),
        (
            told(how="summed"),
            "Dye: shows differences from 7.4 ΔE00 on, 8 times in 10; with one more pot of each from 5.2. "
            "Taken from what all factors do, if that adds up.",
        ),
        (
            told(how="together", together=(Together(factor="mordant", from_levels=("none",), to_levels=("alum",)),)),
            "Dye: shows differences from 7.4 ΔE00 on, 8 times in 10; with one more pot of each from 5.2. "
            "Alder always goes with No mordant, Bracken with Alum: told as one.",
        ),
    ],
)
def test_what_tell_says(effect, words):
    assert told_words(effect, NAMES) == words
