"""Curves of powers of x: quadratic, cubic, and of a degree that is chosen."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.regression.least_squares import vandermonde
from theoros.verbs.model.curves.curve import Fitted, LinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import rounded_place, x_text, y_text


def polynomial(degree: int) -> LinearCurve:
    """The polynomial of a degree, from 1 to 10."""
    form = "{0} + {1} x" + "".join(f" + {{{k}}} x^{{{{{k}}}}}" for k in range(2, degree + 1))
    plain = "{0} + {1}*x" + "".join(f" + {{{k}}}*x^{k}" for k in range(2, degree + 1))
    return LinearCurve(
        "polynomial",
        f"polynomial of degree {degree}",
        "Powers of x up to a degree that you choose.",
        degree + 1,
        60,
        form,
        plain,
        ("intercept", *(f"x^{{{k}}}" if k > 1 else "x" for k in range(1, degree + 1))),
        suggests=False,
        short="polynomial",
        of_degree=polynomial,
        degree=degree,
        basis=lambda x: vandermonde(x, degree),
        live=("{x}", *(f"{{x}}^{k}" for k in range(2, degree + 1))),
    )


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """Where it turns, if it does so among the data, and how high it is there."""
    _, slope, bend = (float(c) for c in f.coefficients)
    turn = -slope / (2 * bend) if bend != 0 else math.inf
    if not float(f.x.min()) < turn < float(f.x.max()):
        return ""
    side = "lowest" if bend > 0 else "highest"
    at, height = x_text(pairs, rounded_place(f.x, turn)), y_text(pairs, float(f.predict(np.array([turn]))[0]))
    return f"The curve is {side} at about {at}, where {pairs.response.name} is about {height}."


CURVES = (
    LinearCurve(
        "quadratic", "quadratic curve", "One bend: a parabola.", 3, 30,
        "{0} + {1} x + {2} x^{{2}}", "{0} + {1}*x + {2}*x^2", ("intercept", "x", "x^{2}"),
        basis=lambda x: vandermonde(x, 2), degree=2, says=_says, live=("{x}", "{x}^2"),
    ),
    LinearCurve(
        "cubic", "cubic curve", "Up to two bends.", 4, 40,
        "{0} + {1} x + {2} x^{{2}} + {3} x^{{3}}", "{0} + {1}*x + {2}*x^2 + {3}*x^3",
        ("intercept", "x", "x^{2}", "x^{3}"), basis=lambda x: vandermonde(x, 3), degree=3,
        live=("{x}", "{x}^2", "{x}^3"),
    ),
    polynomial(4),
)  # fmt: skip
