"""The modules of the page by themselves: parts are swapped, questions are asked one at a time."""

from __future__ import annotations

from typing import Any

from tests.browser.browsing import BrowserTest

PLACE = """
const done = arguments[arguments.length - 1];
import("/static/studio/js/place.js").then(({ place }) => {
  document.body.innerHTML = '<div data-live-part="a"><input name="x" value="1"><input name="y" value="before"></div>' +
    '<p data-live-part="b"><b>same</b></p><p data-live-part="c">typed</p>';
  const field = document.querySelector("[name=y]");
  field.focus();
  field.setSelectionRange(2, 4);
  const same = document.querySelector("b");
  place(document, {
    a: '<i>new</i><input name="x" value="1"><input name="y" value="before">',
    b: "<b>same</b>", c: "never", d: "nowhere",
  }, (home) => home.dataset.livePart !== "c");
  const now = document.activeElement;
  done({
    focus: now.name, cursor: [now.selectionStart, now.selectionEnd], swapped: Boolean(document.querySelector("i")),
    kept: same === document.querySelector("b"), c: document.querySelector("[data-live-part=c]").textContent,
  });
});
"""

LIVE = """
const done = arguments[arguments.length - 1];
import("/static/studio/js/live.js").then(async ({ startLive }) => {
  document.body.innerHTML = '<form data-live="/nowhere/"><input type="hidden" name="csrfmiddlewaretoken" value="t">' +
    '<input name="x" value=""></form><p data-live-message></p>';
  const asked = [];
  const answers = [];
  window.fetch = (_, { body }) => {
    asked.push(JSON.parse(body));
    return new Promise((answer) => answers.push(answer));
  };
  const stop = startLive(document);
  const field = document.querySelector("[name=x]");
  const wait = (ms) => new Promise((over) => setTimeout(over, ms));
  for (const typed of ["1", "12", "123", "1234"]) {
    field.value = typed;
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await wait(90);
  }
  const before = asked.length;
  answers[0]({ ok: true, status: 200, json: async () => ({ parts: {} }) });
  await wait(60);
  stop();
  done({ before, after: asked.length, last: asked.at(-1).fields.x, number: asked.at(-1).request });
});
"""


class Modules(BrowserTest):
    def run_in_page(self, script: str) -> Any:
        self.visit("/about/")
        return self.browser.execute_async_script(script)

    def test_parts_are_swapped_where_they_differ_and_the_focus_stays(self) -> None:
        data = self.run_in_page(PLACE)
        self.assertEqual(data, {"focus": "y", "cursor": [2, 4], "swapped": True, "kept": True, "c": "typed"})

    def test_one_question_is_under_way_and_the_last_that_was_typed_is_asked(self) -> None:
        data = self.run_in_page(LIVE)
        self.assertEqual(data, {"before": 1, "after": 2, "last": "1234", "number": 2})
