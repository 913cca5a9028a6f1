"""How the swatches of one dye fade together."""

from collections.abc import Mapping

import numpy as np

from zesty_grid.core.fade.curve_point import CurvePoint, curve_doses
from zesty_grid.core.fade.fading_curve import DRAWS, HIGH, LOW, Paths
from zesty_grid.core.fade.trial_paths import last_dose_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex

# Of larger groups fewer draws are looked at: their mean is the surer for it.
ALL_DRAWS_UP_TO = 24
LEAST_DRAWS = 100


class GroupFading(Frozen):
    """The mean change of all swatches that share their dye, with its 90 % limits."""

    group: str
    swatches: tuple[str, ...]
    curve: tuple[CurvePoint, ...]


def groups_fading(paths: Mapping[str, Paths], groups: Mapping[str, str]) -> list[GroupFading]:
    """A curve for each group of two or more swatches."""
    doses = curve_doses(last_dose_of(paths))
    found = []
    for group in dict.fromkeys(groups.get(code, "") for code in paths):
        own = {code: path for code, path in paths.items() if groups.get(code, "") == group}
        if len(own) < 2 or not group:
            continue
        rng = np.random.default_rng(len(own))
        draws = DRAWS if len(own) <= ALL_DRAWS_UP_TO else LEAST_DRAWS
        # Swatches err apart from each other: their draws are matched by chance.
        changes, labs = [], []
        for path in own.values():
            seen = path.labs(doses)
            labs.append(seen.mean(axis=0))
            some = seen[rng.permutation(DRAWS)[:draws]]
            dark = np.broadcast_to(path.followed.dark_lab, some.shape)
            changes.append(np.asarray(delta_e_2000(dark, some)))
        mean = np.mean(changes, axis=0)
        low, middle, high = np.percentile(mean, [LOW, 50, HIGH], axis=0)
        reach = max(path.followed.last_dose for path in own.values())
        found.append(
            GroupFading(
                group=group,
                swatches=tuple(own),
                curve=tuple(
                    CurvePoint(
                        dose=float(d),
                        hex=lab_to_hex(np.mean(labs, axis=0)[i]),
                        de00=float(middle[i]),
                        low_de00=float(low[i]),
                        high_de00=float(high[i]),
                        beyond=bool(d > reach),
                    )
                    for i, d in enumerate(doses)
                ),
            )
        )
    return found
