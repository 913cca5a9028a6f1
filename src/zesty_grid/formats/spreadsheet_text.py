"""Text in a table that goes to a spreadsheet."""


def plain_text(words: str) -> str:
    """What a spreadsheet would take for a formula is made text."""
    return f"'{words}" if words[:1] in ("=", "+", "-", "@", "\t") else words
