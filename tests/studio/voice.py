"""How pages speak: labels that stand alone, one word for one thing, a lead sentence that is read once."""

from __future__ import annotations

import re
from collections import Counter
from html.parser import HTMLParser

PREPOSITIONS = {"and", "as", "at", "by", "for", "from", "in", "of", "on", "or", "over", "to", "under", "with"}
LONGEST_LEAD = 25
# What is said otherwise now; each stood on a page once.
BANNED = (
    *("pairs of hands", "fridge places", "not after all", "put it back as it was", "wants warming", "come out nearly"),
    *("left out: ", "by its share", "we would take", "comes to hand", "stays usable", "no place in the", "nearest"),
    *("off by", "is wanted from", "goes round", "comes nearer", "begin its bowl"),
)
MAY_REPEAT = {"Password"}


class Labels(HTMLParser):
    """What names the fields of a page, form by form: labels that hold no field of their own, and legends."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.forms: list[list[str]] = [[]]
        self._text: list[str] | None = None
        self._holds = False
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in ("form", "fieldset"):
            self.forms.append([])
        elif tag in ("label", "legend"):
            self._text, self._holds = [], False
        elif tag == "input":
            self._holds = True

    def handle_data(self, data: str) -> None:
        if self._text is not None:
            self._text.append(data)

    def handle_endtag(self, tag: str) -> None:
        if tag in ("label", "legend") and self._text is not None:
            words = " ".join("".join(self._text).split())
            if words and not self._holds:
                self.forms[-1].append(words)
            self._text = None


def faults(main: str) -> list[str]:
    """What of a page a maker would have to read twice."""
    rows = []
    for labels in Labels(main).forms:
        for label in labels:
            if label[0].islower():
                rows.append(f"begins small: {label}")
            if label.split()[0].lower() in PREPOSITIONS or label.startswith("It "):
                rows.append(f"is half a sentence: {label}")
            if len(label) == 1:
                rows.append(f"is one letter: {label}")
        rows += [f"twice in one form: {a}" for a, n in Counter(labels).items() if n > 1 and a not in MAY_REPEAT]
    text = " ".join(re.sub(r"<(svg|title|script|option).*?</\1>|<[^>]+>", " ", main, flags=re.DOTALL).split())
    rows += [f"we do not say: {words}" for words in BANNED if words in text.lower()]
    lead = re.search(r'class="answer"[^>]*>\s*(?:<p>)?(.*?)</(?:p|h1)>', main, re.DOTALL)
    if lead:
        first = re.split(r"(?<=[.?:])\s", " ".join(re.sub(r"<[^>]+>", "", lead[1]).split()))[0]
        if len(first.split()) > LONGEST_LEAD:
            rows.append(f"a long lead: {first}")
    return rows
