"""A camera that no fit of the application has seen: bells for sensitivities, a tone curve of its own."""

from zesty_grid.standins.camera import Camera

UNSEEN = Camera(
    "C",
    ((600.0, 32.0, 38.0), (535.0, 40.0, 42.0), (455.0, 26.0, 34.0)),
    contrast=0.25,
    lift=0.002,
    noise=0.005,
    balance_warmth=0.03,
)
