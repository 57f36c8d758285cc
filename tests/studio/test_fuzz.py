"""Whatever is sent to a form, a live endpoint or an address is taken or refused; nothing breaks."""

from __future__ import annotations

import json
from collections import Counter
from typing import Any
from urllib.parse import quote

from django.db import transaction
from hypothesis import given
from hypothesis import strategies as st

from studio.bowls import settled
from studio.cupboard.stock import _stock
from tests.fuzz import TIMES, calm, json_values, typed
from tests.studio.every_form import Forms

FINE = {200, 302, 400, 401, 403, 404, 405, 409, 413, 422, 429}


def _no_nan(word: str) -> Any:
    raise AssertionError(f"{word} in a live answer")


class Sent(Forms):
    def send(self, data: st.DataObject) -> tuple[str, Any]:
        """One request with some fields changed."""
        kind = data.draw(st.sampled_from(["post", "post", "live", "live", "body", "get", "path"]))
        if kind == "post":
            client, to, base = data.draw(st.sampled_from(self.posts))
            return to, client.post(to, self.changed(data, base))
        if kind == "get":
            to, base = data.draw(st.sampled_from(self.addresses))
            return to, self.maker.get(to, self.changed(data, base))
        if kind == "path":
            to = data.draw(st.sampled_from(["/bowls/%s/", "/pieces/%s/edit/", "/cupboard/%s/", "/password/new/%s/x/"]))
            return to, self.maker.get(to % quote(data.draw(typed)[:200], safe=""))
        to, base = data.draw(st.sampled_from(self.lives))
        body = {"request": 1, "fields": self.changed(data, base)} if kind == "live" else data.draw(json_values)
        return to, self.maker.post(to, json.dumps(body), content_type="application/json")

    @staticmethod
    def changed(data: st.DataObject, base: dict[str, str]) -> dict[str, str]:
        names = st.sampled_from([*base, "nobody-asked"])
        return {**base, **data.draw(st.dictionaries(names, typed, min_size=1, max_size=4))}

    def test_anything(self) -> None:
        seen: Counter[int] = Counter()

        @calm
        @given(st.data())
        def once(data: st.DataObject) -> None:
            with transaction.atomic():
                to, response = self.send(data)
                transaction.set_rollback(True)
            _stock.cache_clear()
            settled._kept.clear()
            self.assertIn(response.status_code, FINE, to)
            if response["Content-Type"] == "application/json":
                json.loads(response.content, parse_constant=_no_nan)
            seen[response.status_code] += 1

        once()
        self.assertGreaterEqual(seen.total(), TIMES)
        for code in (200, 302, 422):
            self.assertGreater(seen[code], TIMES // 50, seen)
        if TIMES > 1000:
            print(f"the forms: {dict(seen)}")
