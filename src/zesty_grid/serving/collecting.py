"""How often unused objects are looked for."""

import gc


def collect_seldom() -> None:
    """What is loaded by now stays: walking through it took 150 ms in the middle of an answer. What
    is kept for the next answers is walked through seldom, for the same reason."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)
