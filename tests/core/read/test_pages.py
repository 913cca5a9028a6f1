"""Which pieces go on which new page: what lies on one stays there."""

from zesty_grid.core.read.readings import assigned_page, next_pages
from zesty_grid.core.read.sheet_layout import lay_out_sheet


def test_new_swatches_get_new_pages_and_old_pages_are_left_alone():
    first = next_pages(["AAAA", "CCCC", "EEEE"], ("whole",), [], None, 2)
    assert first == [(1, [("AAAA", "whole"), ("CCCC", "whole")]), (2, [("EEEE", "whole")])]
    laid = [assigned_page(lay_out_sheet(f"page{n}", 2), n, None, page) for n, page in first]
    assert [a.cell for a in laid[0].assignments] == ["A1", "A2"]
    assert next_pages(["AAAA", "CCCC", "EEEE"], ("whole",), laid, None, 2) == []
    assert next_pages(["AAAA", "FFFF"], ("whole",), laid, None, 2) == [(3, [("FFFF", "whole")])]
    again = next_pages(["EEEE", "AAAA"], ("whole",), laid, None, 2, anew=True)
    assert again == [(3, [("EEEE", "whole"), ("AAAA", "whole")])]


def test_a_trial_has_pages_of_its_own_with_the_pieces_of_a_swatch_side_by_side():
    whole = assigned_page(lay_out_sheet("page1", 4), 1, None, [("AAAA", "whole")])
    pages = next_pages(["AAAA", "CCCC", "EEEE"], ("dark", "light"), [whole], 7, 4)
    assert pages[0] == (1, [("AAAA", "dark"), ("AAAA", "light"), ("CCCC", "dark"), ("CCCC", "light")])
