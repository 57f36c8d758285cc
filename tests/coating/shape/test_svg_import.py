"""A maker's own drawing: sizes, rules, and what is refused."""

from __future__ import annotations

import math
from unittest import TestCase

from coating.errors import CoatingError, EmptyDrawing, OutOfBounds, Unreadable
from coating.shape.areas import Areas
from coating.shape.svg_import import read_svg

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" '
SQUARE = '<path d="M10 10 h20 v20 h-20 z"/>'


def drawn(inside: str, size: str = 'width="100mm" height="100mm" viewBox="0 0 100 100"', **options: float) -> Areas:
    return read_svg(f"{HEAD}{size}>{inside}</svg>", **options)


class Sizes(TestCase):
    def test_96_px_are_an_inch(self) -> None:
        """CSS: 96 px = 25.4 mm."""
        for size, wide in (
            ("", 25.4), ('viewBox="0 0 200 200"', 25.4), ('width="96px" viewBox="0 0 96 96"', 25.4),
            ('width="96mm" height="96mm" viewBox="0 0 96 96"', 96.0), ('width="10cm" viewBox="0 0 200 200"', 48.0),
            ('width="100%" height="100%" viewBox="0 0 96 96"', 25.4), ('width="2in" viewBox="0 0 96 96"', 50.8),
        ):  # fmt: skip
            found = drawn('<rect width="96" height="96"/>', size)
            self.assertAlmostEqual(found.size_mm[0], wide, places=6, msg=size)

    def test_the_page_as_wide_as_the_maker_says(self) -> None:
        self.assertAlmostEqual(drawn(SQUARE, width_mm=50).area_mm2, 100)
        self.assertAlmostEqual(drawn(SQUARE).sized(5).area_mm2, 25)

    def test_shapes_have_their_area(self) -> None:
        """Plane geometry."""
        for told, area, edge in (
            (SQUARE, 400, 80), ('<rect x="1" width="10" height="20"/>', 200, 60),
            ('<circle cx="50" cy="50" r="10"/>', 100 * math.pi, 20 * math.pi),
            ('<path d="M40 50 A10 10 0 1 1 60 50 A10 10 0 1 1 40 50 Z"/>', 100 * math.pi, 20 * math.pi),
            ('<ellipse cx="50" cy="50" rx="20" ry="5"/>', 100 * math.pi, None),
            ('<rect width="10" height="10" rx="2"/>', 100 - 4 * (4 - math.pi), None),
            ('<polygon points="0,0 10,0 0,10"/>', 50, 20 + 10 * math.sqrt(2)),
            ('<path d="M0 0 Q 10 20 20 0 Z"/>', 2 / 3 * 20 * 10, None),  # a parabola: two thirds of its box
        ):  # fmt: skip
            found = drawn(told)
            self.assertAlmostEqual(found.area_mm2 / area, 1, delta=1e-3, msg=told)
            if edge:
                self.assertAlmostEqual(found.outline_mm / edge, 1, delta=1e-3, msg=told)

    def test_groups_move_and_turn_what_is_in_them(self) -> None:
        odd = '<script>alert(1)</script><image href="http://nowhere.invalid/x.png"/><use href="#a"/><text>Hi</text>'
        more = "<foreignObject><p>hi</p></foreignObject><style>*{}</style>"
        found = drawn(f'{odd}{more}<g onload="x()">{SQUARE}</g>')
        self.assertEqual(set(found.left_out), {"script", "image", "onload", "foreignObject", "use", "text", "style"})
        self.assertAlmostEqual(found.area_mm2, 400)

    def test_too_much_of_anything(self) -> None:
        for told, words in (
            ("<path d='" + "M0 0h1v1z" * 20000 + "'/>", "separate lines"), ("<g/>" * 6000, "things"),
            ("<g>" * 60 + SQUARE + "</g>" * 60, "deep"), ("<path d='M0 0" + " l1 1" * 80000 + "'/>", "points"),
            (f"<desc>{'x' * 10_000_000}</desc>{SQUARE}", "MB"), ('<rect width="1e6" height="9"/>', "across"),
        ):  # fmt: skip
            with self.assertRaises(OutOfBounds) as refusal:
                drawn(told)
            self.assertIn(words, refusal.exception.message)

    def test_what_says_nothing(self) -> None:
        for told in ("", "hello", "<svg", "<html></html>", "\x00", "<svg></svg>", f"{HEAD}></svg>"):
            with self.assertRaises((Unreadable, EmptyDrawing)):
                read_svg(told)
        for inside in ('<path d="M0 0 L"/>', '<path d="nonsense"/>', '<path d="M0 0 L1e999 3 z"/>',
                       f'<g transform="rotate(">{SQUARE}</g>', f'<g transform="matrix(1 2)">{SQUARE}</g>',
                       f'<g transform="scale(1e999)">{SQUARE}</g>', f'<g transform="scale(0)">{SQUARE}</g>',
                       '<rect width="-4" height="3"/>', '<polyline points="3"/>', '<circle r="nan"/>'):  # fmt: skip
            with self.assertRaises(CoatingError, msg=inside):
                drawn(inside)
