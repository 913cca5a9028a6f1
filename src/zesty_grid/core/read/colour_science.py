"""The colour library, imported once, without its notice about plotting extras."""

import warnings

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour

__all__ = ["colour"]
