"""Text in a table that goes to a spreadsheet."""

FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "'")


def plain_text(words: str) -> str:
    """What a spreadsheet would take for a formula is made text, by an apostrophe before it."""
    return f"'{words}" if words.startswith(FORMULA_STARTS) else words


def as_it_was(cell: str) -> str:
    """What `plain_text` was given."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(FORMULA_STARTS) else cell
