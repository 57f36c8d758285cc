import json
import subprocess
import sys
import unittest
from typing import Any

from coating.facade import answer, entries, schema


def run(*arguments: str, text: str = "") -> tuple[int, str, str]:
    done = subprocess.run(
        [sys.executable, "-m", "coating", *arguments], input=text, capture_output=True, text=True, check=False
    )
    return done.returncode, done.stdout, done.stderr


class CommandLine(unittest.TestCase):
    def test_answers_one_object(self) -> None:
        code, out, err = run("flow.from_number", text='{"number": 37, "k_per_s": null}')
        self.assertEqual((code, err), (0, ""))
        self.assertAlmostEqual(json.loads(out)["yield_stress_pa"], 11.937, places=2)

    def test_lists_and_describes(self) -> None:
        code, out, _ = run("--list")
        self.assertEqual((code, len(out.splitlines())), (0, len(entries())))
        described = json.loads(run("flow.thin", "--schema")[1])
        self.assertEqual(described["properties"]["mass_g"]["unit"], "g")
        self.assertIn("mass_g", described["required"])

    def test_refusals_are_objects_never_tracebacks(self) -> None:
        bad = [
            (("nope",), "{}"),
            (("flow.pipe",), "{"),
            (("flow.pipe",), "[1]"),
            (("flow.pipe",), '"x"'),
            ((), ""),
            (("colour.mix",), '{"parts": [{"ingredient": "ivory", "mass_g": NaN}]}'),
            (("colour.mix",), '{"parts": [{"ingredient": "ivory", "mass_g": 1e999}]}'),
            (("flow.pipe", "/no/such/file.json"), ""),
            (("--what",), ""),
            (("flow.state",), "[" * 100000),
        ]
        for arguments, text in bad:
            code, out, err = run(*arguments, text=text)
            self.assertEqual((code, err), (2, ""), (arguments, text[:40], out, err[-300:]))
            self.assertTrue({"code", "message"} <= set(json.loads(out)["error"]))


class Answers(unittest.TestCase):
    def refused(self, name: str, payload: Any) -> tuple[str, str]:
        from coating.errors import CoatingError

        with self.assertRaises(CoatingError) as caught:
            answer(name, payload)
        return caught.exception.code, caught.exception.fields.get("field", "")

    def test_every_entry_has_a_schema(self) -> None:
        for entry in entries():
            self.assertEqual(schema(entry.name)["type"], "object")
            self.assertEqual(self.refused(entry.name, {"what": 1})[0], "unknown_field")

    def test_bad_fields_are_named(self) -> None:
        mix = {"ingredient": "ivory", "mass_g": 100}
        self.assertEqual(self.refused("colour.mix", {}), ("missing_field", "parts"))
        self.assertEqual(
            self.refused("colour.mix", {"parts": [{**mix, "mass_g": -1}]}), ("out_of_bounds", "parts[0].mass_g")
        )
        self.assertEqual(
            self.refused("colour.mix", {"parts": [{**mix, "mass_g": True}]}), ("not_a_number", "parts[0].mass_g")
        )
        self.assertEqual(
            self.refused("colour.mix", {"parts": [{**mix, "ingredient": "mud"}]}),
            ("unknown_name", "parts[0].ingredient"),
        )
        self.assertEqual(self.refused("colour.mix", {"parts": [{"ingredient": "ivory", "drops": 2}]})[0], "wrong_shape")
        self.assertEqual(self.refused("colour.lab", {"reflectance": [0.5] * 30})[0], "wrong_shape")
        self.assertEqual(self.refused("colour.mix", {"parts": []})[0], "empty_bowl")
        piece = {"id": "a", "core": "round_biscuit", "count": 1, "size_mm": [60]}
        self.assertEqual(self.refused("job.reckon", {"pieces": [piece]}), ("wrong_shape", "size_mm"))

    def test_illuminant_a(self) -> None:
        white = answer("colour.lab", {"reflectance": [1] * 31, "illuminant": "A"})
        self.assertTrue(white["in_gamut"])
        self.assertAlmostEqual(white["lab"][0], 100)

    def test_film_and_windows(self) -> None:
        film = {"k_per_mm": 0.1, "s_per_mm": 5, "thickness_mm": 0.2, "ground": 0.5}
        self.assertAlmostEqual(answer("colour.film", film)["reflectance"], 0.64999049, places=7)
        self.assertEqual(len(answer("flow.windows", {})["windows"]), 18)
        self.assertEqual(answer("flow.windows", {"technique": "dip"})["windows"][0]["number"], [30, 50])

    def test_recipes_and_what_is_out_of_reach(self) -> None:
        query = {
            "target_lab": [68, -8, -17],
            "bases": ["bright", "ivory"],
            "colourants": ["blue", "red", "pink"],
            "base_mass_g": 250,
            "max_colourants": 3,
            "mixed_fats": "limit",
        }
        result = answer("colour.recipe", query)
        self.assertTrue(result["reachable"] and result["load"] <= 1)
        self.assertTrue(all("drops" in p for p in result["parts"] if p["ingredient"] in ("blue", "red", "pink")))
        mixed = answer("colour.mix", {"parts": result["parts"]})
        again = answer("colour.difference", {"lab1": mixed["lab"], "lab2": query["target_lab"]})
        self.assertAlmostEqual(again["de00"], result["de00"], places=9)
        red = {"target_lab": [32, 48, 24], "bases": ["bright"], "colourants": ["red", "brown", "pink", "black"]}
        deep = answer("colour.recipe", {**query, **red})
        self.assertEqual((deep["reachable"], deep["reason"]), (False, "load"))
        self.assertEqual(deep["ready_coloured"][0]["base"], "red_coating")
        self.assertEqual(self.refused("colour.recipe", {**query, "bases": []})[0], "empty_bowl")
        self.assertEqual(self.refused("colour.recipe", {**query, "bases": ["blue"]}), ("wrong_shape", "bases[0]"))
        self.assertEqual(self.refused("colour.recipe", {**query, "max_colourants": 2.5})[0], "wrong_shape")

    def test_corrections_grades_and_coats(self) -> None:
        bowl = [{"ingredient": "bright", "mass_g": 200}, {"ingredient": "blue", "drops": 8}]
        paler = answer("colour.mix", {"parts": [{"ingredient": "bright", "mass_g": 420}, bowl[1]]})["lab"]
        query = {"bowl": bowl, "target_lab": paler, "bases": ["bright"], "colourants": ["yellow"]}
        result = answer("colour.correct", query)
        self.assertTrue(result["reachable"] and result["de00"] <= 2.02)
        self.assertLessEqual(result["added_g"], 401)
        small = answer("colour.correct", {**query, "max_total_g": 210})
        self.assertLessEqual(small["added_g"], 10)
        shades = {"base": [{"ingredient": "bright", "mass_g": 200}], "colourant": "blue", "steps": 5, "max_drops": 40}
        graded = answer("colour.grade", shades)
        self.assertEqual((graded["drops"], len(graded["step_de00"])), ([1, 3, 7, 17, 40], 4))
        self.assertEqual(self.refused("colour.grade", {**shades, "max_drops": 4})[0], "too_few_drops")
        coats = answer("colour.coats", {"coating": shades["base"], "ground_lab": [91.4, -3, 66.8]})
        self.assertIn(coats["coats"], (8, 9))
        self.assertEqual(
            self.refused("colour.coats", {"coating": shades["base"], "ground_lab": [30, 0, -120]})[0], "no_such_colour"
        )

    def test_quantities_add_up(self) -> None:
        """24 and 2 pieces of 5 g and 1000 mm of a 2 mm line each: 120, 10 and 66.4 g by hand, one bag."""
        line = {"technique": "lace", "colour": "white", "length_mm": 1000}
        layers = [{"technique": "dip", "colour": "blue", "goes_on_g": 5}, line]
        query = {"pieces": [{"count": 24, "spares": 2, "layers": layers}], "bowl_loss_g": 12, "bag_loss_g": 8}
        blue, white = answer("plan.quantities", query)["colours"]
        self.assertEqual((blue["goes_on_g"], blue["spare_g"], blue["lost_g"], blue["melt_g"]), (120, 10, 12, 142))
        self.assertAlmostEqual(white["goes_on_g"], 24 * 2.199 * 1.259, places=1)
        self.assertAlmostEqual(white["melt_g"], white["goes_on_g"] + white["lost_g"] + white["spare_g"])
        self.assertEqual(white["lost_g"], 12 + 8)
        nothing = {"technique": "dip", "colour": "blue"}
        bad = {"pieces": [{"count": 1, "layers": [nothing]}]}
        self.assertEqual(self.refused("plan.quantities", bad), ("missing_field", "pieces[0].layers[0].area_mm2"))
        self.assertEqual(self.refused("plan.quantities", {"pieces": [{"count": 0, "layers": []}]})[0], "out_of_bounds")
        self.assertEqual(answer("plan.quantities", {"pieces": []}), {"colours": []})

    def test_what_will_not_flow_is_an_answer(self) -> None:
        self.assertIsNone(answer("flow.state", {"number": 60, "kind": "coating", "temperature_c": 0})["number"])
        wet = answer("flow.state", {"number": 40, "water_g_per_100g": 3})
        self.assertEqual(wet["word"], "stiff")

    def test_bowl(self) -> None:
        events = [
            {"seq": 1, "kind": "added", "at_s": 0, "ingredient": "ivory", "mass_g": 250},
            {"seq": 2, "kind": "warmed", "at_s": 10, "to_c": 40},
            {"seq": 3, "kind": "added", "at_s": 20, "ingredient": "blue", "drops": 5},
            {"seq": 4, "kind": "added", "at_s": 30, "ingredient": "red", "drops": 9},
            {"seq": 5, "kind": "struck", "at_s": 40, "target_seq": 4},
        ]
        context = {"fat_fraction": 0.32, "number": 37, "room_c": 21}
        state = answer("bowl.state", {"context": context, "events": events, "at_s": 60})
        self.assertEqual(state["parts"][1], {"ingredient": "blue", "drops": 5.0})
        self.assertTrue(state["low_number"] < state["number"] < state["high_number"])
        self.assertEqual(
            self.refused(
                "bowl.state", {"context": context, "events": [{"seq": 1, "kind": "warmed", "at_s": 0}], "at_s": 1}
            ),
            ("missing_field", "events[0].to_c"),
        )
        self.assertEqual(
            self.refused("bowl.state", {"context": context, "events": [events[0]] * 2, "at_s": 1})[0], "wrong_shape"
        )
