"""Short help, found by typing and in the Help menu."""

from __future__ import annotations

from PySide6.QtWidgets import QMessageBox, QWidget

TOPICS: dict[str, str] = {
    "Asking: statements and slots": (
        "Everything you ask is a sentence. Its underlined parts are slots: click one, or go to it "
        "with Tab and press Space, and pick or type. The answer below follows at once. Esc puts "
        "back what was there. With columns selected in the table, a click on a verb gives a "
        "sentence already filled in with them."
    ),
    "Typing and pasting rows": (
        "Type in a cell; Enter goes down, Tab goes right, and rows and columns are made as they "
        "are needed. Names typed into the first row can be made those of the columns with one "
        "click. Paste a block from a spreadsheet with Ctrl+V: a first line of names becomes the "
        "names of columns. An empty cell, NA, n/a, a point or a dash is a missing value."
    ),
    "How numbers are rounded": (
        "Figures of data carry one decimal more than the data, medians and quartiles as many as "
        "they need; p-values four decimals; statistics two or three. A half goes away from zero: "
        "3.25 is 3.3. What differs is never written the same: more decimals are shown instead. "
        "Hover over a figure in a table to see it in full. Differences of percentages are in "
        "percentage points. For a course that asks otherwise, Study › Decimals of p-values and "
        "Decimals of statistics set both for the study."
    ),
    "Keys in a table": (
        "Enter goes down, after a run of Tabs in the column where it began; Shift+Enter goes up. "
        "Ctrl with an arrow goes to the end of a block, Home and End to the ends of the row, with "
        "Ctrl to those of the table; Shift selects on the way. Ctrl+Space selects the column, "
        "Shift+Space the row, Ctrl+A everything. F2 opens a cell, Esc leaves it as it was. Ctrl+X, "
        "C and V, Ctrl+D to fill down, Ctrl+F to find, Ctrl+H to replace, Ctrl+P to print."
    ),
    "Row by row": (
        "F7 shows one row as a card of fields with their units. Enter goes to the next field, and "
        "from the last one to the first of the next row; Page Up and Page Down go to another row; "
        "New begins an empty one. What is typed goes into the table like typing in the sheet."
    ),
    "Moving and copying rows and columns": (
        "Select rows by their numbers or columns by their names, then drag them by the same place, "
        "or press Alt with an arrow key. The Table menu inserts, duplicates, deletes and fills "
        "down. Dragging across headers that are not selected selects them."
    ),
    "Arranging a table": (
        "Arrange puts a table in shape: each arrangement is a sentence with slots, and a preview "
        "below shows what the table would become. Nothing changes until you press “Arrange it” "
        "(Ctrl+Enter), and Ctrl+Z takes it back. Arranged, a table says how it came about, under "
        "Arrange › How it came about."
    ),
    "Formulas": (
        "A new column can be worked out: leaf mass / leaf length. Names stand as they are, spaces "
        "too; 'single quotes' help where a name is unclear, \"double quotes\" stand around text. "
        'if leaf mass > 20 then "big" else "small" chooses. mean, sd, median, total and rank '
        "of a column, lag(x) and row() look beyond the row. The column follows what it uses."
    ),
    "Which rows are in use": (
        "Keep rows leaves only those in use that meet a condition; set aside takes single ones. "
        "The others are greyed, with their numbers in brackets, and come back with one click above "
        "the table. Every entry says how many rows it used and why others were left out."
    ),
    "Tables of counts": (
        "Where each row stands for several cases, click “once” above the table and choose the "
        "column that says how many. Every verb then counts each row as often as it says."
    ),
    "Kinds of columns": (
        "The kind of a column decides which verbs and shapes fit. A number can be averaged; a "
        "category makes groups; an ordered category makes groups in an order; text is kept with "
        "the rows and left out of analyses. Codes such as 1 and 2 for two groups are a category. "
        "Choose the kind in the pane at the right."
    ),
    "Choosing among the ways of a test": (
        "The table under a test shows every way that fits, with its p-value and whether its "
        "conditions hold. Choose a row to answer by that way. A t procedure compares means and "
        "leans on a normal shape; ranks compare medians; shuffled labels show what chance alone "
        "would give."
    ),
    "Which test is it?": (
        "Ask › Which test? asks what the claim is about, how many groups there are, whether they "
        "are matched, and whether you have rows or figures alone. Select columns first and the "
        "answers are set from them. The statement below the questions changes with each answer."
    ),
    "Tests from typed figures": (
        "Without rows, choose typed figures as the data, at the right: n, mean and SD of each "
        "group, x of n, counts in a list or a grid, or n and r. A name typed behind the last group "
        "or level adds one more. “Carry these figures” under Next fills them in from rows, so that "
        "what is there can be changed and tried. Shares may be claimed as equal, as a ratio such "
        "as 9:3:3:1, or as a distribution such as Poisson(1.1)."
    ),
    "When a condition fails": (
        "The Conditions at the right say what a way leans on: ✓ it holds, ? judge for yourself, ✕ "
        "it fails. Next offers what to do, by one click: another way, the medians instead of the "
        "means, merged levels, a look at the shape, a try without an outlier. The sentence and "
        "the conclusion change their words with it."
    ),
    "What a confidence means": (
        "95 % confidence is a promise of the way, kept over many samples; it says nothing of "
        "single cases, nor that a given interval is right with 95 %. Below an estimate, "
        "“100 samples” draws from a population like the sample and counts the intervals that hold "
        "its value."
    ),
    "Giving an end instead of the confidence": (
        "Type a lower end, an upper end or a margin under Settings, or drag an end in the picture: "
        "the confidence follows, and the sentence says what was given. Type a confidence, as 95 %, "
        "0.95 or 95, to go by that again. A bound is an interval with one end alone."
    ),
    "Which way of an interval": (
        "How often intervals at 95 % held in 2000 samples each. A mean by t: 95 % with 10 "
        "values of a normal shape, 91 % of a skewed one, 83 % of a very skewed one (94 % and 88 "
        "% with 30); bootstrap t came closer (94 % and 90 %), percentile and BCa fell short by "
        "up to 15 points with 10 values and hardly with 100. A median: order statistics at "
        "least as often as they say, percentile and BCa 93 to 95 %, basic about 80 to 88 %. A "
        "standard deviation by chi-square: 77 % with 10 skewed values, and 69 % with 100: it "
        "needs a normal shape. A proportion: Wilson, Agresti–Coull and plus four near 95 %, "
        "Clopper–Pearson above it, normal 84 % with 30 cases of which a tenth succeeds."
    ),
    "Power and sample size": (
        "Type a true value under Settings › Planning. Two curves are drawn, where H₀ holds and "
        "where the true value does; the handle moves it. The text says how often the claim would "
        "be found, and how many cases a wanted power takes."
    ),
    "Which group is first": (
        "The sentence reads as you would say it: the first group is greater than the second. The "
        "line below says whether the sample leans the way you claim. If it leans against the "
        "claim, the groups may be the wrong way round: choose the other level in a slot, and they "
        "change places."
    ),
    "Separate or matched samples": (
        "Samples are matched when each value of one belongs to one value of the other: the same "
        "taster before and after, or two trays from the same bush. Equal sizes do not make "
        "samples matched. Matched values stand side by side in two columns of one row."
    ),
    "Selecting rows": (
        "Sweep over marks in a picture and their rows are selected in the table and in every other "
        "picture; Ctrl adds to what is selected. Esc in a picture clears it. F6 raises the rows "
        "behind an entry, so that picture and rows can be seen together."
    ),
    "Two entries side by side": (
        "Ctrl+B puts another entry beside the one that is shown: the one you looked at before it, "
        "or any other by its menu in the list at the left. The Reading speaks of the one that is "
        "marked, which is where you last clicked or typed. Rows that are selected in one picture "
        "are selected in both. Ctrl+B again, or the cross above an entry, leaves one alone."
    ),
    "Pictures in a document": (
        "Ctrl+Shift+C copies the picture of an entry; Ask › Save picture writes it as PNG, SVG or "
        "PDF. Below it stands the statement as a caption, unless View › Caption below pictures is "
        "off. Ask › Copy caption and description gives both as text, the description for readers "
        "who cannot see the picture."
    ),
    "Pictures by keyboard": (
        "Go to a picture with Tab. The arrow keys walk its marks from left to right and say the "
        "row of each; Home and End go to the first and the last, Space selects. [ and ] walk "
        "its round and square handles, and the arrow keys then move the one in focus; Esc leaves "
        "it. A handle is a slot: the number in the sentence follows."
    ),
    "Typing a number": (
        "Wherever a number is typed in a sentence, a small sum may stand as well: 1/6, 85 %, "
        "0.3 + 0.05, sqrt(2), 2^10, 5!, choose(6, 2), permutations(6, 2), factorial(6). It is "
        "worked out and shown as it was typed; 1.30 stays 1.30."
    ),
    "Parts of a probability question": (
        "Each part is typed into the table below the picture, in words or in symbols: exactly 3, "
        "fewer than 10, at least 10, no more than 8, from 9 to 11, outside 40 to 60, P(X < 10), "
        "8 <= X <= 10, X = 3 or X = 5, at least 4 given at least 2. Turned round: bottom 5 %, top "
        "10 %, middle 95 %, both tails 0.05, 90th percentile. Enter goes on to the next part; F2 "
        "or a double-click changes one; an emptied one is gone. Drag the round handles to move "
        "the ends of the event that is drawn."
    ),
    "Questions about events": (
        "Choose a two-way table, two events, a tree of stages or draws as the situation. Parts are "
        "typed as they are said: netted and fine, netted or fine, not coarse, fine given open, "
        "neither netted nor fine, netted but not fine; of draws exactly 1 red, at least 1 red, "
        "red then green, first red; and “netted and fine independent” or “exclusive” asks how two "
        "events stand to each other. On a tree, a click on a chance types over it; F2 begins with "
        "the first, Tab goes to the next. The last branch of a fork takes what the others leave."
    ),
    "Watching chance": (
        "Simulate draws samples of a model of chance. Three levels are shown and never mixed: one "
        "case, one sample with its one number, and the pile of such numbers. Space draws one more, "
        "and held down goes on, faster and faster; F9 draws anew from another seed, and the same "
        "seed always gives the same samples. A click on a dot or a bar opens a sample of it, and "
        "“Next like it” goes on to another. A share of at least 10 % is called not rare, below 5 % "
        "rare, below 1 % very rare. The line at what was seen can be dragged. Of a claim made "
        "true, what was seen counts as one of the shuffles, so that p is never 0."
    ),
    "Models": (
        "Model says what goes with what. A number from another: a line or a curve, all cases "
        "together or a curve for each level of a category. The curves stand in a table below, "
        "compared in the scale of y; a click chooses one. The shaded band is where the curve is "
        "likely to run, the wide one where a single case is likely to lie: they answer different "
        "questions. Drag the line at a value of x, or type several, for predictions; beyond the "
        "data the curve is dashed, and nothing shows that it goes on there. “And from” takes "
        "further columns. If what is modelled is a category, it is the probability of one of its "
        "levels, and the cut-off from which cases are classed can be dragged. “Keep” makes live "
        "columns of fitted values, residuals, leverage and the ends of the band."
    ),
    "What residuals show": (
        "A residual is what is left of a value once the curve is taken away. A bend in them says "
        "that another curve is needed; a spread that grows, that logarithms may help; a row far "
        "off, that it should be looked at, and the answer says what the fit would be without it. "
        "A test of a bend or of uneven spread is told where its p-value is below 0.01."
    ),
    "Forecasts": (
        "Forecast takes a series in time apart, into its trend, its seasons and what is left over, "
        "and says what comes next. When the rows were is found: dates, years, a year beside a "
        "month, texts such as 2017M06, 2017-Q3, Jan 2020, or the order of the rows; days can be "
        "joined into weeks, months or years. The last cycle is held back, forecast from the values "
        "before, and compared with what came: drag the handle to hold back more or less, or all "
        "the way to the right for none. What is to come is forecast from all values. The ways "
        "stand in a table below; a click chooses one. A click on a row of the forecasts, or the "
        "reading line, tells any month. The ends of the axis can be dragged; Show in the settings "
        "says which parts are drawn."
    ),
    "Bands of a forecast": (
        "A band of 95 % should hold 95 of 100 such values if the series goes on as it was. Over "
        "simulated series of 96 months, bands of 95 % held 93 to 97 % of what came. A count, or "
        "what cannot be below 0, has a band that ends there: where it would reach below, it is "
        "worked out from square roots, and by logarithms where seasons multiply, so that it still "
        "holds what it says. Whether a column can be below 0 is asked once and kept with the "
        "column. By simulation, what was left over comes again in any order. A pattern of the "
        "errors is told where its p-value is below 0.01; AICc compares how well ways fit, less "
        "for each thing they take from the data."
    ),
    "Models of chance": (
        "A share: each case succeeds with the same chance. Several outcomes: typed as “1 to 6” or "
        "“red: 3, blue: 2”, with or without replacement. Stages: each row is an outcome of a "
        "stage, with its weight, perhaps only after an outcome of a stage above. A column, or a "
        "shape with a mean and a standard deviation, as the population. Waiting for a success, for "
        "several, for a run, for all kinds. A random walk. What was seen, drawn again "
        "with replacement. A "
        "claim made true: labels dealt out, signs tossed, pairs broken up. A formula takes the "
        "values of a sample as x: (max(x) - min(x)) / sd(x)."
    ),
    "Formulas of a working": (
        "F8 shows how an answer was worked out. “Copy formula” takes the formulas of a step along, "
        "as text or as LaTeX; a right-click on one offers the same. An exported report has them as "
        "MathML."
    ),
    "Saving, and what is never lost": (
        "Every change is written to a journal at once. If Theoros or the machine stops, the next "
        "start offers the work back. Save makes a study file: a zip with each table as CSV, which "
        "other programs can read. Everything can be undone with Ctrl+Z."
    ),
}


def show_topic(window: QWidget, topic: str) -> None:
    """Help on a topic, in a box of its own before the window."""
    box = QMessageBox(window)
    box.setWindowTitle("Help")
    box.setText(f"<b>{topic}</b>")
    box.setInformativeText(TOPICS[topic])
    box.open()
