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
            ("", 25.4),
            ('viewBox="0 0 200 200"', 25.4),
            ('width="96px" viewBox="0 0 96 96"', 25.4),
            ('width="96mm" height="96mm" viewBox="0 0 96 96"', 96.0),
            ('width="10cm" viewBox="0 0 200 200"', 48.0),
            ('width="100%" height="100%" viewBox="0 0 96 96"', 25.4),
            ('width="2in" viewBox="0 0 96 96"', 50.8),
        ):
            areas = drawn('<rect width="96" height="96"/>', size)
            self.assertAlmostEqual(areas.size_mm[0], wide, places=6, msg=size)

    def test_the_page_as_wide_as_the_maker_says(self) -> None:
        self.assertAlmostEqual(drawn(SQUARE, width_mm=50).area_mm2, 100)
        self.assertAlmostEqual(drawn(SQUARE).sized(5).area_mm2, 25)

    def test_shapes_have_their_area(self) -> None:
        """Plane geometry."""
        for data, area, edge in (
            (SQUARE, 400, 80),
            ('<rect x="1" width="10" height="20"/>', 200, 60),
            ('<circle cx="50" cy="50" r="10"/>', 100 * math.pi, 20 * math.pi),
            ('<path d="M40 50 A10 10 0 1 1 60 50 A10 10 0 1 1 40 50 Z"/>', 100 * math.pi, 20 * math.pi),
            ('<ellipse cx="50" cy="50" rx="20" ry="5"/>', 100 * math.pi, None),
            ('<rect width="10" height="10" rx="2"/>', 100 - 4 * (4 - math.pi), None),
            ('<polygon points="0,0 10,0 0,10"/>', 50, 20 + 10 * math.sqrt(2)),
            ('<path d="M0 0 Q 10 20 20 0 Z"/>', 2 / 3 * 20 * 10, None),  # a parabola: two thirds of its box
        ):
            areas = drawn(data)
            self.assertAlmostEqual(areas.area_mm2 / area, 1, delta=1e-3, msg=data)
            if edge:
                self.assertAlmostEqual(areas.outline_mm / edge, 1, delta=1e-3, msg=data)

    def test_groups_move_and_turn_what_is_in_them(self) -> None:
        square = '<g transform="rotate(45)"><rect width="10" height="10"/></g>'
        areas = drawn(f'<g transform="translate(50 50) scale(2)">{square}</g>')
        self.assertAlmostEqual(areas.area_mm2, 400)
        half = 10 * math.sqrt(2)
        for side, wanted in zip(areas.box_mm, (50 - half, 50, 50 + half, 50 + 2 * half), strict=True):
            self.assertAlmostEqual(side, wanted, places=6)


class Rules(TestCase):
    def test_even_odd_and_nonzero(self) -> None:
        ring = "M0 0h30v30h-30z M10 10h10v10h-10z"  # both the same way round
        self.assertAlmostEqual(drawn(f'<path d="{ring}"/>').area_mm2, 900)
        self.assertAlmostEqual(drawn(f'<path fill-rule="evenodd" d="{ring}"/>').area_mm2, 800)
        self.assertAlmostEqual(drawn('<path d="M0 0h30v30h-30z M10 10v10h10v-10z"/>').area_mm2, 800)

    def test_a_star_drawn_in_one_go(self) -> None:
        """The pentagram: its middle counts by nonzero and not by even-odd."""
        turns = [k * 0.8 * math.pi for k in range(5)]
        points = " ".join(f"{50 + 40 * math.sin(t):.6f},{50 - 40 * math.cos(t):.6f}" for t in turns)
        both = drawn(f'<polygon points="{points}"/>').area_mm2
        rays = drawn(f'<polygon style="fill-rule: evenodd" points="{points}"/>').area_mm2
        inner = 40 * math.sin(math.pi / 10) / math.sin(7 * math.pi / 10)
        self.assertAlmostEqual(both - rays, 2.5 * inner**2 * math.sin(0.4 * math.pi), delta=0.1)

    def test_self_crossing_open_and_zero(self) -> None:
        bow = drawn('<path d="M0 0 L20 20 L20 0 L0 20 Z"/>')
        self.assertAlmostEqual(bow.area_mm2, 200)
        self.assertEqual((len(bow.parts), bow.left_out), (2, ()))
        line = drawn('<path fill="none" d="M0 0 h30"/>')
        self.assertEqual((line.area_mm2, line.outline_mm, len(line.lines)), (0, 30, 1))
        flat = drawn(SQUARE + '<path d="M0 0 L10 0 Z"/>')
        self.assertEqual(flat.left_out, ("a shape without an area",))

    def test_what_lies_over_each_other_is_one_area(self) -> None:
        both = '<rect width="10" height="10"/><rect x="5" width="10" height="10"/>'
        self.assertAlmostEqual(drawn(both).area_mm2, 150)


class Refused(TestCase):
    def test_documents_that_reach_out_or_blow_up(self) -> None:
        """Check value 28, and an entity bomb, an external entity."""
        bomb = "".join(f'<!ENTITY a{i + 1} "{f"&a{i};" * 10}">' for i in range(9))
        for data in (
            f'<!DOCTYPE svg [<!ENTITY a0 "ha">{bomb}]>{HEAD}><text>&a9;</text></svg>',
            f'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/hostname">]>{HEAD}><text>&x;</text></svg>',
            f'<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/x.dtd">{HEAD}>{SQUARE}</svg>',
        ):
            with self.assertRaises(Unreadable):
                read_svg(data)

    def test_what_is_no_shape_is_named_and_left_out(self) -> None:
        odd = '<script>alert(1)</script><image href="http://nowhere.invalid/x.png"/><use href="#a"/><text>Hi</text>'
        more = "<foreignObject><p>hi</p></foreignObject><style>*{}</style>"
        areas = drawn(f'{odd}{more}<g onload="x()">{SQUARE}</g>')
        self.assertEqual(set(areas.left_out), {"script", "image", "onload", "foreignObject", "use", "text", "style"})
        self.assertAlmostEqual(areas.area_mm2, 400)

    def test_too_much_of_anything(self) -> None:
        for data, words in (
            ("<path d='" + "M0 0h1v1z" * 20000 + "'/>", "separate lines"),
            ("<g/>" * 6000, "elements"),
            ("<g>" * 60 + SQUARE + "</g>" * 60, "deep"),
            ("<path d='M0 0" + " l1 1" * 80000 + "'/>", "points"),
            (f"<desc>{'x' * 10_000_000}</desc>{SQUARE}", "MB"),
            ('<rect width="1e6" height="9"/>', "across"),
        ):
            with self.assertRaises(OutOfBounds) as refusal:
                drawn(data)
            self.assertIn(words, refusal.exception.message)

    def test_what_says_nothing(self) -> None:
        for data in ("", "hello", "<svg", "<html></html>", "\x00", "<svg></svg>", f"{HEAD}></svg>"):
            with self.assertRaises((Unreadable, EmptyDrawing)):
                read_svg(data)
        for inside in (
            '<path d="M0 0 L"/>',
            '<path d="nonsense"/>',
            '<path d="M0 0 L1e999 3 z"/>',
            f'<g transform="rotate(">{SQUARE}</g>',
            f'<g transform="matrix(1 2)">{SQUARE}</g>',
            f'<g transform="scale(1e999)">{SQUARE}</g>',
            f'<g transform="scale(0)">{SQUARE}</g>',
            '<rect width="-4" height="3"/>',
            '<polyline points="3"/>',
            '<circle r="nan"/>',
        ):
            with self.assertRaises(CoatingError, msg=inside):
                drawn(inside)
