"""Several photos of one sheet read as one: each colour from all of them, and how far they agree.

Photos of one camera in one light are averaged. Where there are two lights or more, a correction on
the channels of all of them is fitted, and used where it predicts patches that it has not seen
better than the best single photo does.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex, lab_to_xyz
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.difference_uncertainty import same_response
from zesty_grid.core.read.joint_correction import MOST_LIGHTS, JointCorrection, fit_joint_correction
from zesty_grid.core.read.measurement import CellMeasurement, JoinedPhoto, Lab, Measurement, Residual, ZoneMeasurement
from zesty_grid.core.read.uncertainty import UncertaintyParts, calibration_uncertainty, extrapolation
from zesty_grid.core.refusal import Refusal

Part = CellMeasurement | ZoneMeasurement
# A joint fit must do so much better on unseen patches than the best single one.
WORTHWHILE_SHARE = 0.85
# Cloth is less of a surprise in two lights; paint still is no cloth. Measured by simulation.
MATERIAL_JOINED_DE00 = 0.25


class _Light(NamedTuple):
    """Photos that saw the chart alike, by number, and their chart's light, (24, 3)."""

    photos: list[int]
    patch_light: Floats


def join(measurements: Sequence[Measurement], names: Sequence[str] = ()) -> Measurement:
    """One measurement from several of the same sheet, the first of which gives outlines and words.

    Raises Refusal for photos of different sheets, and for measurements of an older kind.
    """
    first = measurements[0]
    if any(one.sheet_id != first.sheet_id for one in measurements):
        raise Refusal("other-sheet", "The photos show different sheets.", "Join photos of one sheet only.")
    if any(not one.calibration.patch_light for one in measurements):
        raise Refusal("measured-before", "One of the photos was read by an older version.", "Read it again first.")
    groups = _lights(measurements)
    lights = groups[:MOST_LIGHTS]
    fitted = _fit(measurements, lights)
    cells = tuple(_joined_cell([one.cells[i] for one in measurements], lights, fitted) for i in range(len(first.cells)))
    warnings = dict.fromkeys(said for one in measurements for said in one.calibration.warnings)
    calibration = first.calibration.model_copy(update={"warnings": tuple(warnings)})
    if fitted:
        unseen = fitted.unseen_de00
        calibration = calibration.model_copy(
            update={
                "model": f"{len(lights)} lights joined, {3 * len(lights)} channels",
                "residual_de00": Residual(
                    mean=round(float(unseen.mean()), 3),
                    p95=round(float(np.percentile(unseen, 95)), 3),
                    max=round(float(unseen.max()), 3),
                ),
            }
        )
    return first.model_copy(
        update={
            "cells": cells,
            "calibration": calibration,
            "photos": tuple(
                JoinedPhoto(
                    name=names[i] if i < len(names) else f"photo {i + 1}",
                    model=one.calibration.model,
                    camera=one.calibration.camera,
                    light=next(n for n, light in enumerate(groups, 1) if i in light.photos),
                )
                for i, one in enumerate(measurements)
            ),
        }
    )


def _lights(measurements: Sequence[Measurement]) -> list[_Light]:
    groups: list[list[int]] = []
    for i, one in enumerate(measurements):
        for group in groups:
            if same_response(one.calibration.response, measurements[group[0]].calibration.response):
                group.append(i)
                break
        else:
            groups.append([i])
    groups.sort(key=lambda group: (-len(group), group[0]))
    return [
        _Light(group, np.mean([np.array(measurements[i].calibration.patch_light) for i in group], axis=0))
        for group in groups
    ]


def _fit(measurements: Sequence[Measurement], lights: list[_Light]) -> JointCorrection | None:
    """The joint correction, where it is worth more than the best photo alone."""
    if len(lights) < 2:
        return None
    reference = _reference_xyz(measurements[0])
    joint = fit_joint_correction([light.patch_light for light in lights], reference)
    best = min(one.calibration.residual_de00.mean for one in measurements)
    return joint if float(joint.unseen_de00.mean()) < WORTHWHILE_SHARE * best else None


def _reference_xyz(measurement: Measurement) -> Floats:
    return lab_to_xyz(np.array([patch.reference_lab for patch in measurement.patches]))


def _joined_cell(seen: list[CellMeasurement], lights: list[_Light], fitted: JointCorrection | None) -> CellMeasurement:
    """A cell from all photos in which something was measured there."""
    lead = next((one for one in seen if one.status == "measured"), seen[0])
    if lead.lab is None:
        return lead
    flags = tuple(dict.fromkeys(flag for one in seen if one.lab for flag in one.flags))
    counts = {len(one.zones) for one in seen if one.lab}
    zones = lead.zones
    if len(counts) == 1:
        zones = tuple(
            _joined_zone(zone, [_match(zone, one.zones) if one.lab else None for one in seen], lights, fitted)
            for zone in lead.zones
        )
    changes = _joined(list(seen), lights, fitted)
    return lead.model_copy(update={**changes, "flags": flags, "zones": zones})


def _joined_zone(
    lead: ZoneMeasurement, seen: Sequence[ZoneMeasurement | None], lights: list[_Light], fitted: JointCorrection | None
) -> ZoneMeasurement:
    changes = _joined(list(seen), lights, fitted)
    return lead.model_copy(update={k: v for k, v in changes.items() if k != "agreement_de00"})


def _match(zone: ZoneMeasurement, others: Sequence[ZoneMeasurement]) -> ZoneMeasurement:
    """The zone of another photo that has the same colour."""
    own = np.array(zone.lab)
    return min(others, key=lambda other: float(delta_e_2000(own, np.array(other.lab))))


def _joined(seen: list[Part | None], lights: list[_Light], fitted: JointCorrection | None) -> dict[str, object]:
    """Colour, words, uncertainty and agreement of one thing seen in several photos."""
    there = {i: one for i, one in enumerate(seen) if one is not None and one.lab is not None}
    labs = np.array([one.lab for one in there.values()])
    own = np.array([one.uncertainty_de00 or 1.0 for one in there.values()])
    # Until a joint fit is worth more: the mean, those that are surer counting more.
    lab = np.average(labs, axis=0, weights=own**-2.0)
    agreement = float(np.sqrt(np.mean(delta_e_2000(labs, np.broadcast_to(lab, labs.shape)) ** 2)))
    parts = [one.parts for one in there.values() if one.parts]
    chart = float(np.average([part.chart_de00 for part in parts], weights=own**-2.0))
    material = float(np.mean([part.material_de00 for part in parts]))
    means = [_mean_light(light, there) for light in lights]
    if fitted and all(mean is not None for mean in means):
        light = [mean[None] for mean in means if mean is not None]
        lab = fitted.lab(light)[0]
        chart = calibration_uncertainty(lab, fitted.reference_lab, fitted.unseen_de00)
        chart *= extrapolation(fitted.leverage(light))
        material = MATERIAL_JOINED_DE00
    count = len(there)
    joined = UncertaintyParts(
        chart_de00=round(chart, 4),
        light_de00=_shrunk([part.light_de00 for part in parts], count),
        evenness_de00=round(float(np.mean([part.evenness_de00 for part in parts])), 4),
        material_de00=round(material, 4),
        rendering_de00=_shrunk([part.rendering_de00 for part in parts], count),
        backing_de00=round(float(np.mean([part.backing_de00 for part in parts])), 4),
    )
    rounded: Lab = (round(float(lab[0]), 3), round(float(lab[1]), 3), round(float(lab[2]), 3))
    return {
        "lab": rounded,
        "hex": lab_to_hex(lab),
        "colour_words": colour_words(lab),
        "parts": joined,
        "uncertainty_de00": round(joined.combined_de00, 3),
        "agreement_de00": round(agreement, 3),
    }


def _mean_light(light: _Light, there: dict[int, Part]) -> Floats | None:
    own = [there[i].light for i in light.photos if i in there]
    found = [one for one in own if one is not None]
    return np.mean([np.array(one) for one in found], axis=0) if found else None


def _shrunk(values: list[float], count: int) -> float:
    """Of independent errors of the same size, the mean of so many has less."""
    return round(float(np.sqrt(np.mean(np.square(values)) / count)), 4)
