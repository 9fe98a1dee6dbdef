"""Curves of powers of x: quadratic, cubic, and of a degree that is chosen."""

from __future__ import annotations

from theoros.numeric.regression.least_squares import vandermonde
from theoros.verbs.model.curves.curve import LinearCurve

MOST_DEGREE = 10


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
        basis=lambda x: vandermonde(x, degree),
        live=("{x}", *(f"{{x}}^{k}" for k in range(2, degree + 1))),
    )


CURVES = (
    LinearCurve(
        "quadratic", "quadratic curve", "One bend: a parabola.", 3, 30,
        "{0} + {1} x + {2} x^{{2}}", "{0} + {1}*x + {2}*x^2", ("intercept", "x", "x^{2}"),
        basis=lambda x: vandermonde(x, 2), live=("{x}", "{x}^2"),
    ),
    LinearCurve(
        "cubic", "cubic curve", "Up to two bends.", 4, 40,
        "{0} + {1} x + {2} x^{{2}} + {3} x^{{3}}", "{0} + {1}*x + {2}*x^2 + {3}*x^3",
        ("intercept", "x", "x^{2}", "x^{3}"), basis=lambda x: vandermonde(x, 3),
        live=("{x}", "{x}^2", "{x}^3"),
    ),
    polynomial(4),
)  # fmt: skip
