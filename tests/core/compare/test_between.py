"""Foretold colours on simulated Kubelka–Munk dyes, on which the truth is known."""

import numpy as np
import pytest
from tests.cloth_spectra import NM
from tests.compared_studies import true_lab

from zesty_grid.core.compare.between import foreteller, how_well
from zesty_grid.core.compare.broad_channels import colour_of, depth_of
from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.compare.misfits import misfits
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import spectra_to_xyz

pytestmark = pytest.mark.slow

NOISE_DE00 = 0.3
STRENGTHS = (12.5, 25, 50, 100, 200)
VALUES = {("strength", f"s{one:g}"): one for one in STRENGTHS} | {("iron", f"i{one:g}"): one for one in (0, 0.5, 1)}


def dyed(rng, strengths=STRENGTHS, noise=NOISE_DE00):
    found = []
    for fibre in ("wool", "cotton"):
        for strength in strengths:
            for iron in (0, 0.5, 1):
                lab = true_lab(fibre, strength, iron)
                lab = lab + np.linalg.inv(unit_2000(lab)) @ rng.normal(0, noise, 3)
                levels = {"fibre": fibre, "strength": f"s{strength:g}", "iron": f"i{iron:g}"}
                found.append(ComparedSwatch(code=f"{fibre}{strength}{iron}", levels=levels, lab=tuple(lab)))
    return found


FACTORS = ("fibre", "strength", "iron")


def test_depth_is_kubelka_and_munks_and_back():
    labs = np.array([[80, 5, 40], [40, 30, 10], [25, -5, -20.0]])
    assert colour_of(depth_of(labs)) == pytest.approx(labs, abs=1e-6)
    # A grey of reflectance 0.2: K/S = 0.8² / 0.4 = 1.6 (Kubelka and Munk, 1931).
    grey = np.array([116 * np.cbrt(0.2) - 16, 0, 0])
    assert np.exp(depth_of(grey)) == pytest.approx([1.6, 1.6, 1.6], rel=0.01)


def test_broad_channels_follow_a_spectrum_of_a_dye_in_several_depths():
    # The whole spectrum by Kubelka and Munk, against three channels taken from its colour alone.
    base = absorption_over_scattering(0.75 + 0.0 * NM)
    dye = 3.0 * np.exp(-(((NM - 430) / 60.0) ** 2))
    depths = [0.25, 0.5, 1.0, 2.0]
    found = [xyz_to_lab(spectra_to_xyz(reflectance_of(base + d * dye)[None])[0]) for d in depths]
    swatches = [
        ComparedSwatch(code=str(d), levels={"strength": str(d), "fibre": f}, lab=tuple(lab))
        for d, lab in zip(depths, found, strict=True)
        for f in ("a", "b")
    ]
    values = {("strength", str(d)): 100 * d for d in depths}
    made = foreteller(swatches, ("strength", "fibre"), values)
    between = xyz_to_lab(spectra_to_xyz(reflectance_of(base + 0.75 * dye)[None])[0])
    (seen,) = made.foretell([({"fibre": "a", "strength": "0.5"}, {"strength": 75.0})])
    assert float(delta_e_2000(np.array(seen.lab), between)) < 1.5


def test_what_is_left_out_is_foretold_within_the_noise():
    rng = np.random.default_rng(3)
    swatches = dyed(rng)
    made = foreteller(swatches, FACTORS, VALUES)
    assert made.numeric == {"strength", "iron"}
    seen = how_well(made, np.array([one.lab for one in swatches]))
    # Noise of 0.3 in each direction lies 0.48 from the truth in the mean.
    assert seen.mean_de00 < 1.0
    assert 0.85 <= seen.inside_95 <= 1.0
    assert "left out in turn" in seen.words


def test_a_strength_that_was_never_dyed_is_foretold():
    rng = np.random.default_rng(4)
    swatches = dyed(rng, strengths=(12.5, 25, 100, 200))
    made = foreteller(swatches, FACTORS, VALUES)
    wanted = [({"fibre": f, "strength": "s25", "iron": "i0"}, {"strength": 50.0}) for f in ("wool", "cotton")]
    for one, fibre in zip(made.foretell(wanted), ("wool", "cotton"), strict=True):
        apart = float(delta_e_2000(np.array(one.lab), true_lab(fibre, 50, 0)))
        assert apart < 1.5
        assert apart < 2.5 * one.uncertainty_de00
        assert not one.beyond


def test_beyond_what_was_dyed_it_is_less_sure_and_says_so():
    made = foreteller(dyed(np.random.default_rng(5)), FACTORS, VALUES)
    recipe = {"fibre": "wool", "strength": "s50", "iron": "i0"}
    inside, outside = made.foretell([(recipe, {"strength": 60.0}), (recipe, {"strength": 900.0})])
    assert outside.beyond
    assert outside.uncertainty_de00 > inside.uncertainty_de00


def test_a_cell_without_its_like_is_foretold_from_the_others():
    rng = np.random.default_rng(6)
    swatches = [one for one in dyed(rng) if one.code != "cotton501"]
    made = foreteller(swatches, FACTORS, VALUES)
    (one,) = made.foretell([({"fibre": "cotton", "strength": "s50", "iron": "i1"}, {})])
    assert float(delta_e_2000(np.array(one.lab), true_lab("cotton", 50, 1))) < 2.0


def test_too_few_swatches_foretell_nothing():
    assert foreteller(dyed(np.random.default_rng(1))[:5], FACTORS, VALUES) is None
    same = [one.model_copy(update={"levels": {}}) for one in dyed(np.random.default_rng(1))]
    assert foreteller(same, FACTORS, VALUES) is None


def test_two_that_were_swapped_are_found_and_named():
    swatches = dyed(np.random.default_rng(7))
    i, j = 4, 25
    swapped = list(swatches)
    swapped[i] = swatches[i].model_copy(update={"lab": swatches[j].lab})
    swapped[j] = swatches[j].model_copy(update={"lab": swatches[i].lab})
    made = foreteller(swapped, FACTORS, VALUES)
    found = {one.code: one for one in misfits(made, swapped)}
    assert found[swatches[i].code].swapped_with == swatches[j].code
    assert "swapped" in found[swatches[i].code].words


def test_where_all_is_well_hardly_any_is_called_odd():
    odd = 0
    for seed in range(12):
        swatches = dyed(np.random.default_rng(seed))
        odd += len(misfits(foreteller(swatches, FACTORS, VALUES), swatches))
    assert odd <= 3


def test_of_very_many_all_levels_teach_and_every_swatch_is_looked_at():
    # In the order of the grid the last 400 would all be of one fibre.
    rounds = [dyed(np.random.default_rng(seed)) for seed in range(20)]
    swatches = [
        one.model_copy(update={"code": f"{one.code}-{n}"})
        for fibre in ("wool", "cotton")
        for n, own in enumerate(rounds)
        for one in own
        if one.levels["fibre"] == fibre
    ]
    made = foreteller(swatches, FACTORS, VALUES)
    assert len(made.taught) == 400
    assert "fibre" in made.factors
    seen = how_well(made, np.array([one.lab for one in swatches]))
    assert seen.swatches == 400
    assert f"of {len(swatches)}" in seen.words
    left = sorted(set(range(len(swatches))) - set(made.taught))
    i = left[0]
    j = next(
        k
        for k in left
        if swatches[k].levels["iron"] != swatches[i].levels["iron"]
        and swatches[k].levels["fibre"] != swatches[i].levels["fibre"]
    )
    swapped = list(swatches)
    swapped[i] = swatches[i].model_copy(update={"lab": swatches[j].lab})
    swapped[j] = swatches[j].model_copy(update={"lab": swatches[i].lab})
    found = {one.code: one for one in misfits(foreteller(swapped, FACTORS, VALUES), swapped)}
    assert found[swatches[i].code].swapped_with == swatches[j].code
    assert len(found) <= 4
