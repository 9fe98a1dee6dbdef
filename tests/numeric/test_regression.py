"""Least squares, linear and not, against certified values, another library, and its laws."""

from __future__ import annotations

import re
from collections.abc import Callable
from importlib import resources
from pathlib import Path

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose

from theoros.numeric.regression import diagnostics, smooth
from theoros.numeric.regression.least_squares import Dependent, TooFewCases, extra_f, fit, lack_of_fit, vandermonde
from theoros.numeric.regression.nonlinear import DoesNotSettle, fit_curve
from theoros.verbs.model.curves.curve import curves

# Longley 1967, employment in the USA 1947 to 1962, and the values certified for it by NIST StRD
LONGLEY = np.array(
    [
        [60323, 83, 234289, 2356, 1590, 107608, 1947],
        [61122, 88.5, 259426, 2325, 1456, 108632, 1948],
        [60171, 88.2, 258054, 3682, 1616, 109773, 1949],
        [61187, 89.5, 284599, 3351, 1650, 110929, 1950],
        [63221, 96.2, 328975, 2099, 3099, 112075, 1951],
        [63639, 98.1, 346999, 1932, 3594, 113270, 1952],
        [64989, 99, 365385, 1870, 3547, 115094, 1953],
        [63761, 100, 363112, 3578, 3350, 116219, 1954],
        [66019, 101.2, 397469, 2904, 3048, 117388, 1955],
        [67857, 104.6, 419180, 2822, 2857, 118734, 1956],
        [68169, 108.4, 442769, 2936, 2798, 120445, 1957],
        [66513, 110.8, 444546, 4681, 2637, 121950, 1958],
        [68655, 112.6, 482704, 3813, 2552, 123366, 1959],
        [69564, 114.2, 502601, 3931, 2514, 125368, 1960],
        [69331, 115.7, 518173, 4806, 2572, 127852, 1961],
        [70551, 116.9, 554894, 4007, 2827, 130081, 1962],
    ]
)
LONGLEY_FIT = [
    (-3482258.63459582, 890420.383607373),
    (15.0618722713733, 84.9149257747669),
    (-0.0358191792925910, 0.0334910077722432),
    (-2.02022980381683, 0.488399681651699),
    (-1.03322686717359, 0.214274163161675),
    (-0.0511041056535807, 0.226073200069370),
    (1829.15146461355, 455.478499142212),
]

# Filippelli, a polynomial of degree 10, and the values certified for it by NIST StRD (Filip)
FILIP = np.array([
    (0.8116, -6.860120914), (0.9072, -4.324130045), (0.9052, -4.358625055),
    (0.9039, -4.358426747), (0.8053, -6.955852379), (0.8377, -6.661145254),
    (0.8667, -6.355462942), (0.8809, -6.118102026), (0.7975, -7.115148017),
    (0.8162, -6.815308569), (0.8515, -6.519993057), (0.8766, -6.204119983),
    (0.8885, -5.853871964), (0.8859, -6.109523091), (0.8959, -5.79832982),
    (0.8913, -5.482672118), (0.8959, -5.171791386), (0.8971, -4.851705903),
    (0.9021, -4.517126416), (0.909, -4.143573228), (0.9139, -3.709075441),
    (0.9199, -3.499489089), (0.8692, -6.300769497), (0.8872, -5.953504836), (0.89, -5.642065153),
    (0.891, -5.031376979), (0.8977, -4.680685696), (0.9035, -4.329846955),
    (0.9078, -3.928486195), (0.7675, -8.56735134), (0.7705, -8.363211311),
    (0.7713, -8.107682739), (0.7736, -7.823908741), (0.7775, -7.522878745),
    (0.7841, -7.218819279), (0.7971, -6.920818754), (0.8329, -6.628932138),
    (0.8641, -6.323946875), (0.8804, -5.991399828), (0.7668, -8.781464495),
    (0.7633, -8.663140179), (0.7678, -8.473531488), (0.7697, -8.247337057), (0.77, -7.971428747),
    (0.7749, -7.676129393), (0.7796, -7.352812702), (0.7897, -7.072065318),
    (0.8131, -6.774174009), (0.8498, -6.478861916), (0.8741, -6.159517513),
    (0.8061, -6.835647144), (0.846, -6.53165267), (0.8751, -6.224098421), (0.8856, -5.910094889),
    (0.8919, -5.598599459), (0.8934, -5.290645224), (0.894, -4.974284616), (0.8957, -4.64454848),
    (0.9047, -4.290560426), (0.9129, -3.885055584), (0.9209, -3.408378962),
    (0.9219, -3.13200249), (0.7739, -8.726767166), (0.7681, -8.66695597), (0.7665, -8.511026475),
    (0.7703, -8.165388579), (0.7702, -7.886056648), (0.7761, -7.588043762),
    (0.7809, -7.283412422), (0.7961, -6.995678626), (0.8253, -6.691862621),
    (0.8602, -6.392544977), (0.8809, -6.067374056), (0.8301, -6.684029655),
    (0.8664, -6.378719832), (0.8834, -6.065855188), (0.8898, -5.752272167),
    (0.8964, -5.132414673), (0.8963, -4.811352704), (0.9074, -4.098269308),
    (0.9119, -3.66174277), (0.9228, -3.2644011),
])  # fmt: skip
FILIP_FIT = [
    -1467.48961422980,
    -2772.17959193342,
    -2316.37108160893,
    -1127.97394098372,
    -354.478233703349,
    -75.1242017393757,
    -10.8753180355343,
    -1.06221498588947,
    -0.0670191154593408,
    -0.00246781078275479,
    -0.0000402962525080404,
]

# ten pairs, with what statsmodels 0.15 (OLS, its influence and its predictions) says of them
X = np.array([1.0, 2.5, 3.0, 4.2, 5.5, 6.1, 7.7, 8.0, 9.4, 12.0])
Y = np.array([2.1, 4.4, 5.2, 7.9, 9.1, 13.0, 12.2, 14.9, 15.8, 21.5])
LEVERAGE = [
    0.33428055758227404,
    0.21360546829998817,
    0.18298068430551803,
    0.1290657040820244,
    0.101858607580354,
    0.10024576629161704,
    0.1297377212856649,
    0.14073960293383508,
    0.21493030221573664,
    0.45255558542298663,
]
INNER = [
    0.06763862693326082,
    -0.2632519769552978,
    -0.3294105266681442,
    0.31568763555000073,
    -0.7544475459062572,
    2.131969041813377,
    -1.500716257950441,
    0.7407241742973427,
    -0.8760263354682783,
    0.49150734508798904,
]
OUTER = [
    0.06328824102952499,
    -0.24732324971811878,
    -0.3102465950232649,
    0.2971554262245748,
    -0.7322510850424512,
    3.0347592295716472,
    -1.6561316904359804,
    0.7179409193479712,
    -0.8618260626286638,
    0.46686613674094923,
]
COOK = [
    0.0011486281277109354,
    0.009412070433637188,
    0.012151163777382278,
    0.007384321745299452,
    0.032276105596497004,
    0.2532059655918955,
    0.1678739407769042,
    0.044933946823690105,
    0.10504944531424835,
    0.099853186630054,
]


class TestLinear:
    def test_norris_of_nist(self) -> None:
        base = resources.files("scipy.stats") / "tests/data/nist_linregress/Norris.dat"
        rows = base.read_text().splitlines()[60:96]
        y, x = np.array([[float(v) for v in row.split()] for row in rows]).T
        found = fit(vandermonde(x, 1), y)
        assert_allclose(found.coefficients, [-0.262323073774029, 1.00211681802045], rtol=1e-12)
        assert_allclose(found.standard_errors, [0.232818234301152, 0.429796848199937e-3], rtol=1e-12)
        assert_allclose(found.sigma, 0.884796396144373, rtol=1e-12)

    def test_longley_of_nist_whose_columns_nearly_depend_on_each_other(self) -> None:
        design = np.column_stack([np.ones(16), LONGLEY[:, 1:]])
        found = fit(design, LONGLEY[:, 0])
        assert_allclose(found.coefficients, [b for b, _ in LONGLEY_FIT], rtol=1e-10)
        assert_allclose(found.standard_errors, [se for _, se in LONGLEY_FIT], rtol=1e-10)
        assert_allclose(found.sigma, 304.854073561965, rtol=1e-12)
        y = LONGLEY[:, 0]
        total = float(((y - y.mean()) ** 2).sum())
        f, df1, df2 = extra_f(total, 15, found.rss, found.df)
        assert (df1, df2) == (6, 9)
        assert_allclose(f, 330.285339234588, rtol=1e-10)

    @pytest.mark.parametrize(("coefficients", "rtol"), [((1.0,) * 6, 1e-9), ((1, 0.1, 0.01, 1e-3, 1e-4, 1e-5), 1e-9)])
    def test_wampler_of_nist_a_perfect_fifth_degree(self, coefficients, rtol) -> None:
        # Wampler1 and Wampler2 are made by these very coefficients, over x = 0 … 20
        x = np.arange(21.0)
        y = sum(c * x**k for k, c in enumerate(coefficients))
        found = fit(vandermonde(x, 5), np.asarray(y))
        assert_allclose(found.coefficients, coefficients, rtol=rtol)

    @pytest.mark.parametrize(
        ("scale", "sd"), [(1, 2360.14502379268), (100, 236014.502379268), (10000, 23601450.2379268)]
    )
    def test_wampler_of_nist_with_large_deviations(self, scale, sd) -> None:
        # Wampler3, 4 and 5: the deviations are orthogonal to the fifth degree, times 1, 100, 10 000
        off = np.array([759, -2048, 2048, -2048, 2523, -2048, 2048, -2048, 1838, -2048, 2048,
                        -2048, 1838, -2048, 2048, -2048, 2523, -2048, 2048, -2048, 759.0])  # fmt: skip
        x = np.arange(21.0)
        y = sum(x**k for k in range(6)) + scale * off
        found = fit(vandermonde(x, 5), np.asarray(y))
        assert_allclose(found.coefficients, np.ones(6), rtol=1e-5)
        assert_allclose(found.sigma, sd, rtol=1e-12)

    def test_filip_of_nist_to_the_digits_that_doubles_allow(self) -> None:
        y, x = FILIP.T
        found = fit(vandermonde(x, 10), y)
        assert_allclose(found.coefficients, FILIP_FIT, rtol=1e-7)
        assert_allclose(found.sigma, 0.334801051324544e-02, rtol=1e-7)
        assert_allclose(1 - found.rss / ((y - y.mean()) ** 2).sum(), 0.996727416185620, rtol=1e-9)
        line = curves()["polynomial"].fit(x, y)  # of degree 4, the usual one
        assert line.terms == 5

    def test_no_intercept_of_nist(self) -> None:
        # NoInt1: x = 60 … 70, y = 130 … 140; certified 2.07438016528926 ± 0.0165289256198347
        x, y = np.arange(60.0, 71), np.arange(130.0, 141)
        found = fit(x[:, None], y)
        assert_allclose(found.coefficients, [2.07438016528926], rtol=1e-13)
        assert_allclose(found.standard_errors, [0.165289256198347e-01], rtol=1e-12)

    def test_bands_and_diagnostics_of_another_library(self) -> None:
        found = fit(vandermonde(X, 1), Y)
        assert_allclose(found.coefficients, [0.30800853, 1.734342], rtol=1e-7)
        assert_allclose(found.leverage, LEVERAGE, rtol=1e-9)
        at = (found.residuals, found.leverage)
        assert_allclose(diagnostics.standardized(*at, found.sigma), INNER, rtol=1e-9)
        outer = diagnostics.left_out_residuals(*at, found.df, found.sigma)
        assert_allclose(outer, OUTER, rtol=1e-9)
        cook = diagnostics.cooks_distance(*at, found.sigma, 2)
        assert_allclose(cook, COOK, rtol=1e-9)
        assert_allclose(diagnostics.durbin_watson(found.residuals), 3.5569195, rtol=1e-7)
        line = curves()["line"].fit(X, Y)
        places = np.array([5.0, 14.0])
        mean, single = (line.band(places, 0.9, single=one) for one in (False, True))
        assert mean is not None
        assert single is not None
        assert_allclose(line.predict(places), [8.979718520794133, 24.58879651319073], rtol=1e-9)
        assert_allclose(mean[0], [8.33992069648935, 22.936334047223642], rtol=1e-9)
        assert_allclose(mean[1], [9.619516345098916, 26.241258979157816], rtol=1e-9)
        assert_allclose(single[0], [6.934560656816383, 22.038509934385335], rtol=1e-9)
        assert_allclose(single[1], [11.024876384771883, 27.139083091996124], rtol=1e-9)

    def test_lack_of_fit_by_hand(self) -> None:
        # pairs at 1, 2 and 3 twice each: pure error 3 × 0.5 with 3 degrees of freedom, the means
        # 1.5, 3.5, 1.5 are off the level line at 13/6 by 4·2 + …: SS lack = 16/3 on 1 degree
        x = np.array([1.0, 1, 2, 2, 3, 3])
        y = np.array([1.0, 2, 3, 4, 1, 2])
        found = fit(vandermonde(x, 1), y)
        assert lack_of_fit(x, found.residuals, 2) == pytest.approx(((16 / 3) / 0.5, 1, 3))
        assert lack_of_fit(X, Y, 2) is None

    def test_bad_designs(self) -> None:
        with pytest.raises(TooFewCases):
            fit(np.ones((2, 2)), np.ones(2))
        with pytest.raises(Dependent) as told:
            fit(np.column_stack([np.ones(10), X, 2 * X - 1]), Y)
        assert told.value.which == (2,)

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 10_000), st.integers(1, 4), st.floats(-1e4, 1e4))
    def test_residuals_are_orthogonal_and_a_shift_moves_the_constant(self, seed, p, shift) -> None:
        random = np.random.default_rng(seed)
        design = np.column_stack([np.ones(30), random.normal(size=(30, p))])
        y = random.normal(size=30)
        found, moved = fit(design, y), fit(design, y + shift)
        assert_allclose(design.T @ found.residuals, 0, atol=1e-9)
        assert_allclose(moved.coefficients[1:], found.coefficients[1:], rtol=1e-6, atol=1e-8)
        assert_allclose(moved.coefficients[0] - found.coefficients[0], shift, atol=1e-8)
        assert found.leverage.sum() == pytest.approx(p + 1)

    @settings(max_examples=30, deadline=None)
    @given(st.integers(0, 10_000))
    def test_what_is_left_out_is_as_if_it_were_not_there(self, seed) -> None:
        random = np.random.default_rng(seed)
        x = random.normal(size=12)
        y = x + random.normal(size=12)
        found = fit(vandermonde(x, 1), y)
        rest = fit(vandermonde(x[1:], 1), y[1:])
        off = y[0] - (rest.coefficients[0] + rest.coefficients[1] * x[0])
        spread = float(rest.spread(vandermonde(x[:1], 1))[0])
        told = diagnostics.left_out_residuals(found.residuals, found.leverage, found.df, found.sigma)
        assert told[0] == pytest.approx(off / (rest.sigma * np.sqrt(1 + spread**2)), rel=1e-8)


Model = Callable[[np.ndarray, np.ndarray], np.ndarray]
MODELS: dict[str, Model] = {
    "Misra1a": lambda x, b: b[0] * (1 - np.exp(-b[1] * x)),
    "Misra1d": lambda x, b: b[0] * b[1] * x / (1 + b[1] * x),
    "Chwirut1": lambda x, b: np.exp(-b[0] * x) / (b[1] + b[2] * x),
    "Chwirut2": lambda x, b: np.exp(-b[0] * x) / (b[1] + b[2] * x),
    "MGH09": lambda x, b: b[0] * (x**2 + x * b[1]) / (x**2 + x * b[2] + b[3]),
    "Rat42": lambda x, b: b[0] / (1 + np.exp(b[1] - b[2] * x)),
    "DanWood": lambda x, b: b[0] * x ** b[1],
    "Hahn1": lambda x, b: (b[0] + b[1] * x + b[2] * x**2 + b[3] * x**3) / (1 + b[4] * x + b[5] * x**2 + b[6] * x**3),
    "Thurber": lambda x, b: (b[0] + b[1] * x + b[2] * x**2 + b[3] * x**3) / (1 + b[4] * x + b[5] * x**2 + b[6] * x**3),
}


def strd(name: str) -> tuple[np.ndarray, np.ndarray, np.ndarray, float]:
    """Of a set of NIST StRD: starts 1 and 2, values and errors of parameters; x; y; the RSS."""
    text = (Path(__file__).parent / "nist_strd" / f"{name}.dat").read_text()
    lines = text.splitlines()
    head = "\n".join(lines[:12])
    (first, last), (top, end) = (
        map(int, found)
        for found in (
            re.search(rf"{what}\s+\(lines\s+(\d+)\s+to\s+(\d+)\)", head).groups()  # type: ignore
            for what in ("Starting Values", "Data")
        )
    )
    known = [[float(v) for v in line.split("=")[1].split()] for line in lines[first - 1 : last]]
    y, x = np.array([[float(v) for v in line.split()] for line in lines[top - 1 : end]]).T
    rss = re.search(r"Residual Sum of Squares:\s+(\S+)", text)
    assert rss is not None
    return np.array(known), x, y, float(rss[1])


def slopes(model: Model) -> Model:
    """Exact derivatives of a model by its parameters, by a step along the imaginary axis."""

    def gradient(x: np.ndarray, b: np.ndarray) -> np.ndarray:
        made = []
        for at in range(b.size):
            step = b.astype(complex)
            step[at] += 1e-40j
            made.append(model(x, step).imag / 1e-40)
        return np.column_stack(made)

    return gradient


class TestNonlinear:
    @pytest.mark.parametrize("name", MODELS)
    @pytest.mark.parametrize("start", [0, 1])
    def test_certified_values_of_nist_from_the_published_starts(self, name, start) -> None:
        known, x, y, rss = strd(name)
        model = MODELS[name]
        found = fit_curve(model, slopes(model), x, y, [known[:, start]])
        assert_allclose(found.coefficients, known[:, 2], rtol=2e-8)
        assert_allclose(found.standard_errors, known[:, 3], rtol=2e-8)
        assert_allclose(found.rss, rss, rtol=1e-9)

    @pytest.mark.parametrize(
        ("name", "curve", "turned"),
        [
            ("Misra1d", "saturation", lambda b: [b[0], 1 / b[1]]),
            ("Rat42", "logistic growth", lambda b: b),
            ("DanWood", "power", lambda b: b),
        ],
    )
    def test_certified_values_of_nist_from_starts_of_our_own(self, name, curve, turned) -> None:
        known, x, y, rss = strd(name)
        found = curves()[curve].fit(x, y)
        assert_allclose(found.coefficients, turned(known[:, 2]), rtol=2e-8)
        assert_allclose(found.rss, rss, rtol=1e-9)

    def test_a_curve_that_is_not_there_does_not_settle(self) -> None:
        model = MODELS["Rat42"]
        x = np.arange(12.0)
        with pytest.raises(DoesNotSettle):
            fit_curve(model, slopes(model), x, np.zeros(12), [[0.0, 1.0, 1.0]])

    @settings(max_examples=40, deadline=None)
    @given(st.floats(0.5, 20), st.floats(0.5, 20))
    def test_a_curve_without_errors_is_found(self, level, half) -> None:
        x = np.linspace(0.5, 40, 25)
        found = curves()["saturation"].fit(x, level * x / (half + x))
        assert_allclose(found.coefficients, [level, half], rtol=1e-6)


class TestCurves:
    @pytest.mark.parametrize(
        ("name", "y"),
        [
            ("line", lambda x: 2 + 3 * x),
            ("origin", lambda x: 3 * x),
            ("quadratic", lambda x: 1 - x + 0.5 * x**2),
            ("cubic", lambda x: 1 - x + 0.5 * x**2 - 0.01 * x**3),
            ("logarithmic", lambda x: 2 + 3 * np.log(x)),
            ("square root", lambda x: 2 + 3 * np.sqrt(x)),
            ("reciprocal", lambda x: 2 + 3 / x),
            ("exponential", lambda x: 2 * np.exp(0.1 * x)),
            ("exponential by logs", lambda x: 2 * np.exp(-0.1 * x)),
            ("power", lambda x: 2 * x**1.7),
            ("power by logs", lambda x: 2 * x**-1.7),
            ("logistic growth", lambda x: 9 / (1 + np.exp(3 - 0.4 * x))),
            ("two pieces", lambda x: 1 + x + 2 * np.maximum(x - 7.0, 0)),
            ("robust", lambda x: 2 + 3 * x),
        ],
    )
    def test_each_finds_itself(self, name, y) -> None:
        x = np.linspace(1, 20, 39)
        found = curves()[name].fit(x, y(x))
        assert_allclose(found.predict(x), y(x), rtol=2e-6)
        assert found.r_squared == pytest.approx(1, abs=1e-9)

    def test_the_joint_of_two_pieces_is_the_best_of_all(self) -> None:
        random = np.random.default_rng(3)
        x = np.sort(random.uniform(0, 10, 60))
        y = np.maximum(x - 4, 0) * 2 + random.normal(size=60)
        found = curves()["two pieces"].fit(x, y)
        tried = [
            fit(np.column_stack([np.ones(60), x, np.maximum(x - at, 0)]), y).rss
            for at in np.linspace(x[1], x[-2], 4001)
        ]
        assert found.rss <= min(tried) * (1 + 1e-6)

    def test_theil_sen_of_another_library(self) -> None:
        from scipy.stats import theilslopes

        found = curves()["robust"].fit(X, Y)
        known = theilslopes(Y, X, method="joint")
        assert_allclose(found.coefficients[::-1], [known.slope, known.intercept], rtol=1e-12)
        assert_allclose(smooth.theil_sen(X, Y)[0], known.slope, rtol=1e-12)

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 10_000), st.integers(5, 60))
    def test_no_curve_breaks_on_any_pairs(self, seed, n) -> None:
        random = np.random.default_rng(seed)
        x = random.choice([random.normal(size=n), random.integers(-2, 4, n) * 1.0])
        y = random.choice([random.normal(size=n), np.full(n, 2.0), random.uniform(0, 1, n)])
        assume(np.ptp(x) > 0)
        from theoros.verbs.model.curves.curve import CannotFit

        for curve in curves().values():
            try:
                found = curve.fit(x, y)
            except CannotFit as why:
                assert str(why)
                continue
            assert found.rss >= 0
            assert np.isfinite(found.rss)
            ends = found.band(x, 0.95, single=True)
            if ends is not None and found.sigma > 1e-9:
                good = np.isfinite(ends[0]) & np.isfinite(ends[1])
                assert (ends[0][good] <= ends[1][good]).all()


class TestPattern:
    def test_a_bend_and_a_growing_spread_are_seen(self) -> None:
        random = np.random.default_rng(5)
        x = np.linspace(0, 10, 120)
        bent = curves()["line"].fit(x, x**2 + random.normal(size=120))
        wide = curves()["line"].fit(x, x + random.normal(size=120) * (0.2 + x))
        seen = diagnostics.pattern(x, bent.fitted, bent.residuals, 2)
        assert seen.bend < 1e-6
        seen = diagnostics.pattern(x, wide.fitted, wide.residuals, 2)
        assert seen.spread < 1e-6
        assert seen.grows

    def test_corrected_aic_by_hand(self) -> None:
        # n = 10, RSS = 5, 2 terms: 10 ln 0.5 + 6 + 24/6
        assert diagnostics.corrected_aic(5.0, 10, 2) == pytest.approx(10 * np.log(0.5) + 6 + 4)


class TestLowess:
    def test_heights_of_another_library(self) -> None:
        # statsmodels 0.15: nonparametric.lowess(y, x, frac=2/3, it=3, delta=0)
        y = np.array([*Y[:-1], 11.5])
        places, heights = smooth.lowess(X, y)
        assert_allclose(places, X)
        assert_allclose(heights, [
            1.9729571854127994, 4.547178459977219, 5.408888427855922, 7.642217709600801,
            10.313314912775846, 11.037621049218167, 13.545604715217443, 13.954204284336281,
            13.777208842159595, 11.961113152049533,
        ], rtol=1e-9)  # fmt: skip

    def test_a_line_stays_a_line_however_many_rows_there_are(self) -> None:
        x = np.linspace(0, 10, 60_000)
        places, heights = smooth.lowess(x, 3 + 2 * x)
        assert places.size <= smooth.MOST_LOCAL
        assert_allclose(heights, 3 + 2 * places, rtol=1e-8)


class TestManyRows:
    @pytest.mark.parametrize("rows", [4999, 5001])
    def test_the_faster_way_gives_the_same(self, rows) -> None:
        random = np.random.default_rng(rows)
        design = np.column_stack([np.ones(rows), random.normal(50, 1, (rows, 3))])
        y = design @ [1.0, 2, -3, 0.5] + random.normal(size=rows)
        found = fit(design, y)
        known, rss, *_ = np.linalg.lstsq(design, y, rcond=None)
        assert_allclose(found.coefficients, known, rtol=1e-10)
        assert_allclose(found.rss, rss[0], rtol=1e-11)
        covariance = np.linalg.inv(design.T @ design)
        assert_allclose(found.standard_errors, found.sigma * np.sqrt(np.diagonal(covariance)), rtol=1e-7)
        assert found.leverage.sum() == pytest.approx(4)
