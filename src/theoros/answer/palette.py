"""Colours by role, light and dark. Text roles have a contrast of 4.5 or more on the page."""

from __future__ import annotations

CATEGORY_NAMES = ("teal", "ochre", "violet", "blue", "crimson", "olive", "brown", "slate")
"""What the colours of categories are called, in order."""

LIGHT: dict[str, str] = {
    "paper": "#F5F1E8",
    "page": "#FFFDF8",
    "ink": "#22302F",
    "mute": "#616C67",
    "rule": "#DDD6C7",
    "data": "#1F6F6B",
    "chance": "#9B9488",
    "seen": "#BF4F2C",
    "tail": "#E0A42E",
    "range": "#6C4A7E",
    "wash": "#E5EEE9",
    "good": "#2E7040",
    "bad": "#B04424",
    "warn": "#8A6108",
    # categories: darkened from a set made for colour-vision deficiencies until text in them reads
    "category-0": "#1F6F6B",
    "category-1": "#A05900",
    "category-2": "#5A4A96",
    "category-3": "#2B6BA3",
    "category-4": "#A8326A",
    "category-5": "#5F6B14",
    "category-6": "#7A4B32",
    "category-7": "#4A4F57",
}

DARK: dict[str, str] = {
    "paper": "#1B2221",
    "page": "#222A29",
    "ink": "#ECE7DB",
    "mute": "#A9B3AD",
    "rule": "#3C4644",
    "data": "#5CB8B1",
    "chance": "#8E897F",
    "seen": "#EE8A63",
    "tail": "#E9B54D",
    "range": "#BD9AD2",
    "wash": "#2C3B39",
    "good": "#7CC48C",
    "bad": "#F09A78",
    "warn": "#E3B45A",
    "category-0": "#5CB8B1",
    "category-1": "#EDA247",
    "category-2": "#A99BE8",
    "category-3": "#74B3E8",
    "category-4": "#EB86B4",
    "category-5": "#B9C656",
    "category-6": "#D29B7C",
    "category-7": "#B5BAC2",
}


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two #RRGGBB colours, 1 to 21 (WCAG 2.1, relative luminance)."""

    def luminance(colour: str) -> float:
        total = 0.0
        for weight, at in ((0.2126, 1), (0.7152, 3), (0.0722, 5)):
            share = int(colour[at : at + 2], 16) / 255
            linear = share / 12.92 if share <= 0.04045 else ((share + 0.055) / 1.055) ** 2.4
            total += weight * linear
        return total

    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)
