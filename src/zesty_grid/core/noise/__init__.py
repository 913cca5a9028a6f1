"""How much colours differ when the same is done again, and what can be told against it."""
