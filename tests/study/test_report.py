"""What of an entry the report shows, and with how many decimals."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest

from theoros.answer.digits import BY_RULE, Digits, using
from theoros.answer.wording import p_equals, p_value, statistic
from theoros.study.edits import SetDigits, ShowParts, edit_from_json
from theoros.study.entries import EntryBlock, Study, StudyError
from theoros.study.file import open_study, save_study
from theoros.study.report_html import report_html
from theoros.study.report_parts import REPORT_PARTS, offered, shown, suited
from theoros.verbs.core.answering import answer


@pytest.fixture
def found(demo: Study):
    return answer(demo.entry("e1").statement, demo.by_name)


class TestParts:
    def test_a_test_makes_one_argument(self, demo: Study, found) -> None:
        assert suited(found) == ("picture", "figures", "five steps")
        page = report_html(demo)
        assert page.count("Reject H<sub>0</sub>") == 1
        assert page.count("is the median moisture loss of all slow trays") == 1
        assert "Shuffled labels" not in page

    def test_a_description_has_no_steps_and_shows_its_reading(self, demo: Study) -> None:
        described = answer(demo.entry("e3").statement, demo.by_name)
        assert "reading" in suited(described)
        assert "five steps" not in offered(described)

    @pytest.mark.parametrize(
        ("part", "mark"),
        [
            ("picture", "<svg"),
            ("hypotheses", 'class="symbols"'),
            ("figures", '<th class="n">SD</th>'),
            ("other ways", "Shuffled labels"),
            ("reading", 'class="headline"'),
            ("conditions", "<h3>Conditions</h3>"),
            ("working", "<h3>p-value</h3>"),
            ("five steps", "<h3>5. Conclusion</h3>"),
        ],
    )
    def test_each_part_is_shown_alone(self, demo: Study, found, part: str, mark: str) -> None:
        block = EntryBlock("r9", "e1", (part,))
        page = report_html(demo.with_(report=(block,)))
        assert mark in page
        others = tuple(p for p in REPORT_PARTS if p != part)
        page = report_html(demo.with_(report=(replace(block, parts=others),)))
        assert mark not in page

    def test_parts_are_kept_undone_and_written_down(self, demo: Study, tmp_path: Path) -> None:
        block = next(b for b in demo.report if isinstance(b, EntryBlock))
        edit = ShowParts(block.id, ("picture",))
        again = edit_from_json(json.loads(json.dumps(edit.to_json(None))), None)  # type: ignore[arg-type]
        changed = again.apply(demo)
        path = tmp_path / "s.theoros"
        save_study(changed, path)
        back = next(b for b in open_study(path).report if b.id == block.id)
        assert back == EntryBlock(block.id, block.entry, ("picture",))

    def test_a_part_that_an_answer_lacks_is_left_out(self, found) -> None:
        assert shown(found, ("picture", "sections of old", "cautions")) == ("picture",)


class TestDigits:
    def test_they_are_used_where_they_are_in_force(self) -> None:
        with using(Digits(3, 3)):
            assert (p_value(0.04567), statistic(2.34567)) == ("0.046", "2.346")
            assert p_value(0.0004) == "< 0.001"
        assert (p_value(0.04567), statistic(2.34567)) == ("0.0457", "2.35")

    def test_p_and_alpha_are_never_written_alike(self) -> None:
        with using(Digits(2)):
            assert p_equals(0.0484, apart_from=0.05).replace("\u00a0", " ") == "p = 0.048"
            assert p_equals(0.049996, apart_from=0.05).replace("\u00a0", " ") == "p = 0.049996"
            assert p_value(0.05, apart_from=0.05) == "0.05"

    def test_a_whole_answer_follows(self, demo: Study) -> None:
        with using(Digits(2, 1)):
            found = answer(demo.entry("e1").statement, demo.by_name)
        assert found.reading.headline.replace("\u00a0", " ").startswith("p < 0.01, which is below α = 0.01")
        methods = {row.cells[0].text: row.cells for row in found.figures[0].rows}
        assert methods["Welch t"][2].text == "t = 2.5, df 12.3"
        assert methods["Welch t"][3].text == "0.02"

    def test_the_study_keeps_them(self, demo: Study, tmp_path: Path) -> None:
        changed = SetDigits(3, 3).apply(demo)
        path = tmp_path / "s.theoros"
        save_study(changed, path)
        assert open_study(path).digits == Digits(3, 3)
        assert "p\u00a0&lt;\u00a00.001, which is below" in report_html(changed)
        assert demo.digits == BY_RULE

    @pytest.mark.parametrize("held", [{"p": 99}, {"p": "4"}, {"q": 1}, [1], None, {"p": 4.5}])
    def test_what_cannot_be_is_by_rule(self, demo: Study, held: object) -> None:
        from theoros.study.package import read_parts, write_parts

        parts = dict(write_parts(demo))
        about = json.loads(parts["study.json"])
        about["decimals"] = held
        parts["study.json"] = json.dumps(about).encode()
        assert read_parts(parts).digits == BY_RULE

    def test_other_numbers_are_refused(self, demo: Study) -> None:
        with pytest.raises(StudyError, match="so many decimals"):
            SetDigits(9, 2).apply(demo)
