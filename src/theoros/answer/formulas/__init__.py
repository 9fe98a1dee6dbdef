"""Formulas as values: written down once, then drawn, or said in MathML, LaTeX, text and words."""
