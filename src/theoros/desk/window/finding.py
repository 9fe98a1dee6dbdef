"""All that the find box finds, as things are now."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from theoros.answer.glossary import terms
from theoros.answer.wording import to_plain
from theoros.desk.window.find_box import Found
from theoros.desk.window.glossary_dialog import show_glossary
from theoros.desk.window.help_topics import topics
from theoros.verbs.arrange.arrangement import arrangements
from theoros.verbs.core.registry import verbs

if TYPE_CHECKING:
    from theoros.desk.window.window import Window


OTHER_WORDS = {"delete": ("remove", "erase"), "name": ("rename",), "open": ("import", "load")}
"""Words for what the desk itself can do, by a word in the name of its action."""


def other_words(label: str) -> tuple[str, ...]:
    """What an action of the desk is called elsewhere."""
    own = label.casefold()
    return tuple(
        own.replace(word, other) for word, others in OTHER_WORDS.items() if word in own.split() for other in others
    )


def everything(window: Window) -> list[Found]:
    """Verbs, tables, columns, entries, methods, actions, help and the glossary."""
    study, found = window.session.study, []
    for name, verb in verbs().items():
        found.append(Found(verb.label, "verb", verb.help, lambda n=name: window.asking.ask(n), other=verb.other_names))
    for name, one in arrangements().items():
        found.append(
            Found(one.label, "arrange", one.help, lambda n=name: window.asking.arrange(n), other=one.other_names)
        )
    for table in study.tables:
        found.append(Found(table.name, "table", "", lambda t=table: window.show_target(("table", t.name))))
        for column in table.columns:
            about = f"{column.kind} in {table.name}"
            found.append(
                Found(
                    column.label,
                    about,
                    column.meaning,
                    lambda t=table.name, c=column.name: window.show_column(t, c),
                    (table.name, column.name),
                )
            )
    for entry in study.entries:
        found.append(Found(entry.name(study.by_name), "entry", "", lambda e=entry: window.show_target(("entry", e.id))))
    for name, verb in verbs().items():
        for method in verb.methods():
            found.append(
                Found(
                    method.label,
                    f"{verb.label.lower()} method",
                    method.help,
                    lambda n=name, m=method: window.asking.ask_with(n, m.slot, m.value),
                    other=method.other_names,
                )
            )
    for action in window.actions_by_name.values():
        if action.isEnabled() and action.text():
            label = action.text().replace("&", "").rstrip("…")
            found.append(Found(label, "action", action.toolTip(), action.trigger, other=other_words(label)))
    for topic, text in topics().items():
        found.append(Found(topic, "help", text, lambda t=topic: window.show_help(t)))
    for term in terms().values():
        name = to_plain(term.name)
        show = partial(show_glossary, window, term.name)
        found.append(Found(name, "glossary", term.meaning, show, other=tuple(map(to_plain, term.forms[1:]))))
    return found
