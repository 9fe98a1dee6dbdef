"""Problems as textbooks set them, from the find box to the written conclusion, by keyboard.

Each begins with a method found by name; what a student would type or pick is done with keys, and
counted. The expected p-values come from SciPy.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import pytest
from scipy import stats

from tests.desk.hands import Hands
from theoros.desk.window.window import Window

NO_TABLE = ""


@dataclass(frozen=True)
class Problem:
    """`steps` name a slot by its label, and what is typed into it (or picked: "> greater")."""

    name: str
    finds: str
    """What is typed into the find box; the first thing found is taken."""
    steps: tuple[tuple[str, str], ...]
    says: str
    """Part of the conclusion."""
    table: str = NO_TABLE
    """The table that is in front; none where figures are typed."""


PROBLEMS = (
    # 36 chests weigh 15.8 kg on average, SD 1.9 kg. Is the mean above 15 kg?
    Problem("one mean", "one-sample t", (
        ("n of the group", "36"), ("mean of the group", "15.8"), ("SD of the group", "1.9"), ("direction", "> greater"),
        ("value under H₀", "15"),
    ), "There is enough evidence, at the 5 % significance level, that the mean value in the population is "
       "greater than 15"),
    # With σ = 8 known, 25 brews take 102.4 s on average. Is the mean another than 100 s?
    Problem("one mean, σ known", "z one mean", (
        ("n of the group", "25"), ("mean of the group", "102.4"), ("SD of the group", "7"), ("value under H₀", "100"),
        ("σ, if known", "8"),
    ), "There is not enough evidence, at the 5 % significance level, that the mean value in the population is "
       "different from 100"),
    # Did training raise the scores of the tasters?
    Problem("matched pairs", "paired t", (("direction", "> less"),),
            "score before minus score after, is less than 0", "tasters"),
    # 42 of 120 netted bushes and 30 of 125 open ones are spotted. Do the shares differ?
    Problem("two proportions", "fisher exact two proportions", (
        ("number of successes of group 1", "42"), ("n of group 1", "120"),
        ("number of successes of group 2", "30"), ("n of group 2", "125"),
    ), "There is not enough evidence, at the 5 % significance level, that the proportion"),
    # 20 jars have a standard deviation of 2.7 g. Is that of all jars above 2 g?
    Problem("one standard deviation", "chi-square one standard deviation", (
        ("n of the group", "20"), ("mean of the group", "250"), ("SD of the group", "2.7"), ("direction", "> greater"),
        ("value under H₀", "2"),
    ), "There is enough evidence, at the 5 % significance level, that the standard deviation of"),
    # Do slow and quick trays spread alike?
    Problem("two spreads", "brown forsythe", (), "that the standard deviation of moisture loss of",
            "trays"),
    # Three ovens, 12 batches each: means 61.0, 64.5 and 63.0; SD 3.1, 2.8 and 3.3.
    Problem("several means", "analysis of variance several means", (
        ("n of group 1", "12"), ("mean of group 1", "61.0"), ("SD of group 1", "3.1"),
        ("n of group 2", "12"), ("mean of group 2", "64.5"), ("SD of group 2", "2.8"),
        ("n of group 3", "12"), ("mean of group 3", "63.0"), ("SD of group 3", "3.3"),
    ), "that the mean value differs between at least two of “group 1”, “group 2” and “group 3”"),
    # Do leaf lengths differ between cultivars, by ranks?
    Problem("several medians", "kruskal", (("the number to compare", "> leaf length"),),
            "There is enough evidence, at the 5 % significance level, that the median leaf length "
            "differs between at least two of", "bushes"),
    # Does what cultivar does to leaf length depend on netting?
    Problem("two factors", "interaction", (("the number to compare", "> leaf length"),),
            "that the difference in the mean leaf length between levels of cultivar depends on netting", "bushes"),
    # Is the grade of a leaf related to netting?
    Problem("two categories", "g test two categories", (), "are related", "bushes"),
    # 28 gardens: r = 0.42 between rain and yield. Is there a correlation?
    Problem("a correlation", "pearson", (("n", "28"), ("r", "0.42")),
            "There is enough evidence, at the 5 % significance level, that the correlation"),
    # Does leaf length fall with elevation?
    Problem("a slope", "t of the slope", (
        ("the response", "> leaf length"), ("direction", "> less"),
    ), "that the slope of leaf length on elevation is less than 0", "bushes"),
    # 31 tasters changed from no to yes, 14 from yes to no; 60 and 45 did not change.
    Problem("a change", "exact mcnemar", (
        ("count of row 1 and column 1", "60"), ("count of row 1 and column 2", "14"),
        ("count of row 2 and column 1", "31"), ("count of row 2 and column 2", "45"),
    ), "There is enough evidence, at the 5 % significance level, that the share of “row 1” "
       "in"),
    # Of 100 leaves 35, 38, 19 and 8 have 0, 1, 2 and 3 or more spots. Is that Poisson, λ = 1.1?
    Problem("a distribution", "chi-square observed counts against the counts that the claim", (
        ("name of level 1", "0"), ("count of 0", "35"), ("name of level 2", "1"),
        ("count of 1", "38"), ("name of level 3", "2"), ("count of 2", "19"),
        ("name of level 4", "3 or more"), ("count of 3 or more", "8"),
        ("the claimed shares", "Poisson(1.1)"),
    ), "that the outcome does not have the Poisson distribution with λ = 1.1"),
    # Is leaf length normally distributed?
    Problem("normal shape", "shapiro", (("the number", "> leaf length"),),
            "that leaf length departs from a normal distribution", "bushes"),
    # Is the median leaf length another than 62 mm, by the signs alone?
    Problem("one median", "sign test", (
        ("the number", "> leaf length"), ("value under H₀", "62"),
    ), "that the median leaf length of all bushes is different "
            "from 62 mm", "bushes"),
)  # fmt: skip


def expected(demo) -> dict[str, float]:
    """The p-value of each problem, by SciPy."""
    bushes, trays = demo.by_name["bushes"], demo.by_name["trays"]
    length, cultivar = bushes.numbers("leaf length"), bushes.frame["cultivar"].to_numpy()
    loss, pace = trays.numbers("moisture loss"), trays.frame["withering"].to_numpy()
    one, two = (demo.by_name["tasters"].numbers(f"score {when}") for when in ("before", "after"))
    height = bushes.numbers("elevation")
    known = np.isfinite(length)
    there = known & np.isfinite(height)
    first, second = (bushes.frame[n].to_numpy() for n in ("cultivar", "netting"))
    table = stats.contingency.crosstab(first, second).count
    f = 12 * np.var([61.0, 64.5, 63.0], ddof=1) / np.mean(np.square([3.1, 2.8, 3.3]))
    t_of_r = 0.42 * np.sqrt(26 / (1 - 0.42**2))
    chances = [*stats.poisson.pmf(range(3), 1.1), stats.poisson.sf(2, 1.1)]
    above, other = int((length > 62).sum()), int((length[known] != 62).sum())
    return {
        "one mean": stats.t.sf((15.8 - 15) / (1.9 / 6), 35),
        "one mean, σ known": 2 * stats.norm.sf(1.5),
        "matched pairs": stats.ttest_rel(one, two, alternative="less").pvalue,
        "two proportions": stats.fisher_exact([[42, 78], [30, 95]]).pvalue,
        "one standard deviation": stats.chi2.sf(19 * 2.7**2 / 4, 19),
        "two spreads": stats.levene(loss[pace == "slow"], loss[pace == "quick"]).pvalue,
        "several means": stats.f.sf(f, 2, 33),
        "several medians": stats.kruskal(
            *(length[(cultivar == name) & known] for name in ("Amber", "Jade", "Mist"))
        ).pvalue,
        "two categories": stats.chi2_contingency(table, correction=False, lambda_="log-likelihood").pvalue,
        "a correlation": 2 * stats.t.sf(t_of_r, 26),
        "a slope": stats.linregress(height[there], length[there], alternative="less").pvalue,
        "a change": stats.binomtest(14, 45).pvalue,
        "a distribution": stats.chisquare([35, 38, 19, 8], 100 * np.array(chances)).pvalue,
        "normal shape": stats.shapiro(length[known]).pvalue,
        "one median": stats.binomtest(above, other).pvalue,
    }


@pytest.mark.parametrize("problem", PROBLEMS, ids=lambda one: one.name)
def test_a_textbook_problem(empty: Window, settle, qtbot, demo, problem: Problem) -> None:
    window = empty
    if problem.table:
        window.session.open_demo()
        window.show_target(("table", problem.table))
    settle(window)
    hands = Hands(window, settle)
    hands.find(problem.finds)
    for label, text in problem.steps:
        hands.put(label, text)
    answer = window.entry_page.answer
    assert answer.problem is None, answer.problem
    p = answer.numbers[window.entry_page.entry.statement.method]["p"]
    if problem.name in expected(demo):
        assert p == pytest.approx(expected(demo)[problem.name], rel=1e-8)
    assert problem.says in answer.reading.paragraphs[0].replace("\u00a0", " ")
    assert hands.entered == len(problem.steps) <= 9
    assert answer.writeup[-1].title == "5. Conclusion"
