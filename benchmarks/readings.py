"""How the readings are written, by verb: how long, how hard, how much of it stands under every answer.

python -m benchmarks.readings            a line for each verb
python -m benchmarks.readings sentences [VERB]   every sentence of the examples, with how often it stands
"""

from __future__ import annotations

import re
import sys
from collections import Counter, defaultdict
from collections.abc import Iterator
from statistics import mean

from theoros.answer.parts import Answer
from theoros.answer.wording import to_plain
from theoros.study.file import demo_study
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import verbs


def told(found: Answer) -> list[str]:
    """The sentences of a reading but for its conditions, one each."""
    reading = found.reading
    return [
        one
        for text in (reading.headline, *reading.paragraphs, *reading.cautions)
        if text
        for one in re.split(r"(?<=[.?!…]) (?=[A-Z“])", to_plain(text))
    ]


def conditions(found: Answer) -> list[str]:
    return [to_plain(one.text) for one in found.reading.assumptions]


def shape(sentence: str) -> str:
    """A sentence without its numbers: what two answers have in common."""
    return re.sub(r"\d[\d\u202f.,]*", "#", sentence)


def example_answers() -> Iterator[tuple[str, str, Answer]]:
    """The verb, the sentence and the answer of every example and of every entry of the demo study."""
    demo = demo_study()
    statements = [one for verb in verbs().values() for one in verb.examples]
    for statement in (*statements, *(entry.statement for entry in demo.entries)):
        yield statement.verb, to_plain(statement.text(demo.by_name)), answer(statement, demo.by_name)


def uncommon(words: Counter[str], least: float = 3.4) -> list[str]:
    """Words rarer than one in about 400 000 (Zipf’s scale, the wordfreq package), and not in the glossary."""
    from wordfreq import zipf_frequency

    from theoros.answer.glossary import terms

    known = {word for term in terms().values() for form in term.forms for word in re.findall(r"[a-z]+", form.lower())}
    return sorted(word for word in words if zipf_frequency(word, "en") < least and word not in known)


def main() -> None:
    sentences: dict[str, Counter[str]] = defaultdict(Counter)
    held: dict[str, Counter[str]] = defaultdict(Counter)
    lengths: dict[str, list[int]] = defaultdict(list)
    for verb, _, found in example_answers():
        if found.problem:
            continue
        said = told(found)
        lengths[verb].append(sum(len(one.split()) for one in said))
        sentences[verb].update(said + conditions(found))
        held[verb].update({one for one in said + conditions(found) if not re.search(r"\d", one)})
    if "sentences" in sys.argv:
        for verb in sys.argv[2:] or sentences:
            seen: dict[str, list[str]] = defaultdict(list)
            for one, times in sentences[verb].items():
                seen[shape(one)] += [one] * times
            for texts in sorted(seen.values(), key=len, reverse=True):
                print(f"{verb} {len(texts):4}  {texts[0]}")
        return
    print(f"{'verb':12} answers  words of a reading: mean, most  longest sentence  uncommon words  under most answers")
    for verb, counts in sentences.items():
        n = len(lengths[verb])
        words = Counter(word for one in counts for word in re.findall(r"[a-z]{3,}", one.lower()))
        longest = max(len(one.split()) for one in counts)
        often = [one for one, times in held[verb].items() if times > n / 2]
        print(
            f"{verb:12} {n:7}  {mean(lengths[verb]):26.0f}, {max(lengths[verb]):4}  {longest:16}  "
            f"{len(uncommon(words)):14}  {len(often):18}"
        )


if __name__ == "__main__":
    main()
