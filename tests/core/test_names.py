"""The code bears the field's words, each with one meaning: docs/names-in-the-code.md says where what is."""

import io
import pathlib
import re
import tokenize
import unittest

ROOT = pathlib.Path(__file__).parents[2]
PAGE = ROOT / "docs/names-in-the-code.md"
# What files were called once, and what they are about.
FILES_GONE = {
    "chosen": "selection",
    "choosing": "preference_tuning",
    "deeds": "gesture_actions or item_operations",
    "directions": "axes",
    "felt": "noticeable_delay",
    "goes_by": "inferred_weights",
    "here": "screen_check",
    "look": "features",
    "met": "hit_test",
    "news": "change_events",
    "plain": "two_tone, contiguous or dials",
    "printed": "underlay",
    "prints": "underlay",
    "reels": "replay_video",
    "remembered": "response_cache",
    "rub": "dry_media or eraser",
    "rubbing": "eraser",
    "show": "mirror",
    "showing": "stroke_edits",
    "showings": "stroke_edits",
    "stage": "mirror_state",
    "steps": "undo_journal",
    "things": "items",
    "told": "labelled_contacts",
    "turns": "admission",
    "verb": "tool",
}
# The stage of a delay is called so in the field too.
MEANT = {"core/latency/stage.py"}
NAMES_GONE = {
    "AS_WRITTEN": "UNEDITED",
    "Deed": "GestureAction",
    "near_way": "near_path",
    "useChosen": "useSelection",
    "useDeeds": "useGestureActions",
    "useNews": "useChangeEvents",
    "usePrints": "useUnderlay",
    "useSteps": "useJournal",
    "useVerb": "useTool",
    "way_mm": "path_mm",
}
FIELD = """undo eraser selection highlighter pressure latency mirror gesture underlay journal clipboard hit_test
admission response_cache""".split()


def sources() -> list[pathlib.Path]:
    python = [p for top in ("src", "tests", "tools", "bench") for p in (ROOT / top).rglob("*.py")]
    screens = [p for p in (ROOT / "web/src").rglob("*") if p.suffix in (".ts", ".vue")]
    return sorted(python + screens)


def names_in(path: pathlib.Path) -> set[str]:
    text = path.read_text(encoding="utf-8")
    if path.suffix != ".py":
        return set(re.findall(r"[A-Za-z_]\w*", text))
    return {t.string for t in tokenize.generate_tokens(io.StringIO(text).readline) if t.type == tokenize.NAME}


class Names(unittest.TestCase):
    def test_words_that_went_do_not_come_back(self) -> None:
        for path in sources():
            here = path.relative_to(ROOT).as_posix()
            stem = re.sub(r"^(test_|use-)", "", path.stem).replace("-", "_")
            if not here.endswith(tuple(MEANT)):
                self.assertNotIn(stem, FILES_GONE, f"{here}: call it {FILES_GONE.get(stem)}")
            gone = names_in(path) & NAMES_GONE.keys()
            self.assertEqual(gone, set(), f"{here}: {', '.join(NAMES_GONE[name] for name in gone)}")

    def test_the_fields_words_lead_to_a_file(self) -> None:
        stems = [p.as_posix().lower().replace("-", "_") for p in sources() if "tests" not in p.parts]
        for word in FIELD:
            self.assertTrue([s for s in stems if word in s.rsplit("gray_quill", 1)[-1]], word)

    def test_every_place_the_page_names_is_there(self) -> None:
        named = re.findall(r"`([a-z-]+/[\w/.-]*)`", PAGE.read_text(encoding="utf-8"))
        self.assertGreater(len(named), 40)
        for place in named:
            found = any((ROOT / top / place).exists() for top in ("", "src/gray_quill", "web/src"))
            self.assertTrue(found, place)


if __name__ == "__main__":
    unittest.main()
