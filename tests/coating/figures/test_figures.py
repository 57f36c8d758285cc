import re
import unittest

from coating.colour.mixing import Part
from coating.figures.band import band_curve
from coating.figures.ribbon import WIDTH, ribbon_figure, x_of
from coating.flow.ribbon import WORDS, ribbon_position
from coating.flow.trade_number import flow_from_number
from coating.flow.windows import WINDOWS, window
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient

MELTED = [Event(1, "added", 0, (Part(demo_ingredient("bright"), 250.0),)), Event(2, "warmed", 0, to_c=42)]


def hung(number: float) -> tuple:
    return tuple(flow_from_number(n) for n in (number, number * 0.8, number * 1.2))


class Ribbon(unittest.TestCase):
    def test_pins_hang_where_the_flow_is(self) -> None:
        figure = ribbon_figure(now=hung(60), after=hung(42), now_fill="#aabbcc", window=window("dip"))
        now, after = figure.pins
        self.assertAlmostEqual(now.x, x_of(ribbon_position(flow_from_number(60))))
        self.assertTrue(after.low < after.x < after.high and after.x < now.x)
        self.assertTrue(figure.arc.startswith("M"))
        assert figure.tag is not None
        self.assertTrue(figure.tag.x < after.x < figure.tag.x + figure.tag.width, "42 is in the window of a dip")

    def test_labels_of_close_pins_lean_apart(self) -> None:
        close = ribbon_figure(now=hung(46), after=hung(42)).pins
        self.assertEqual([(p.label, p.anchor) for p in close], [("now", "start"), ("after", "end")])
        far = ribbon_figure(now=hung(110), after=hung(20)).pins
        self.assertEqual([p.anchor for p in far], ["middle", "middle"])
        self.assertEqual(ribbon_figure(now=(None, None, None), after=None).pins[0].anchor, "end")

    def test_each_word_has_a_sixth(self) -> None:
        figure = ribbon_figure(now=None, after=None)
        self.assertEqual([w for w, _ in figure.words], list(WORDS))
        self.assertEqual((figure.pins, figure.arc, figure.tag), ((), "", None))
        for number in (10, 25, 40, 60, 100, 390):
            flow = flow_from_number(number)
            share = x_of(ribbon_position(flow)) / 100
            self.assertEqual(WORDS[int(share * 6)], WORDS[int(ribbon_position(flow))])

    def test_what_does_not_flow_hangs_at_the_stiff_end(self) -> None:
        pin = ribbon_figure(now=(None, None, None), after=None).pins[0]
        self.assertEqual(pin.x, x_of(6))
        self.assertLess(pin.x, 100)

    def test_the_outline_stays_on_the_drawing(self) -> None:
        figure = ribbon_figure(now=None, after=None)
        points = [tuple(map(float, p)) for p in re.findall(r"(-?[\d.]+) (-?[\d.]+)", figure.outline)]
        self.assertGreater(len(points), 200)
        self.assertTrue(all(0 <= x <= WIDTH and 0 <= y <= figure.height for x, y in points))

    def test_every_window_has_a_tag_with_room(self) -> None:
        for w in WINDOWS:
            tag = ribbon_figure(now=None, after=None, window=w).tag
            assert tag is not None
            self.assertGreater(tag.width, 1)
            self.assertLessEqual(tag.x + tag.width, 100)


class Band(unittest.TestCase):
    def test_the_curve_is_what_folding_later_gives(self) -> None:
        context = BowlContext(room_c=21)
        curve = band_curve(fold(MELTED, context, at_s=60))
        self.assertEqual(len(curve.temperatures_c), 241)
        for step in (0, 40, 240):
            later = fold(MELTED, context, at_s=60 + step * curve.step_s)
            self.assertAlmostEqual(curve.temperatures_c[step], later.temperature_c, delta=0.06)

    def test_words_get_thicker_in_order(self) -> None:
        curve = band_curve(fold(MELTED, BowlContext(room_c=18), at_s=60))
        places = [WORDS.index(word) for _, word in curve.words]
        self.assertEqual(places, sorted(places))
        self.assertGreater(len(places), 2)
        self.assertEqual(curve.words[0][0], 0)

    def test_a_set_bowl_stays_stiff(self) -> None:
        self.assertEqual(band_curve(fold(MELTED, BowlContext(), at_s=86400)).words, ((0, "stiff"),))
