"""No plan that could be made before the bench knew more ways of working comes to another answer."""

import json

import pytest
from tests.core.plan.earlier_plans import DIGESTS, digests_of, earlier_plans

PLANS = earlier_plans()
BEFORE = json.loads(DIGESTS.read_text())


@pytest.mark.parametrize("name", PLANS)
def test_an_earlier_plan_comes_to_the_same_vessels_weights_and_steps(name):
    assert digests_of(*PLANS[name]) == BEFORE[name]
