"""`./run soak [MINUTES] [TRIAL …]`: every trial for so long, and a table of what they found."""

from __future__ import annotations

import argparse
import importlib
import sys
import time

TRIALS = (
    "trapped",
    "files",
    "formulas",
    "statements",
    "command_line",
    "undo_walks",
    "full_disk",
    "engine_kills",
    "window_kills",
    "monkey",
    "sockets",
    "mutants",
)


def main() -> int:
    parser = argparse.ArgumentParser(prog="./run soak")
    parser.add_argument("minutes", nargs="?", type=float, default=1.0)
    parser.add_argument("trials", nargs="*", metavar="TRIAL", help=f"of {', '.join(TRIALS)}")
    parser.add_argument("--seed", type=int, default=int(time.time()))
    parser.add_argument("--but", action="append", default=[], metavar="TRIAL", help="a trial to leave out")
    parser.add_argument("--most", type=int, default=10**9, help="tries of each, at most")
    options = parser.parse_args()
    from soak.tally import MOST_SHOWN, Budget

    failed = False
    for name in [one for one in options.trials or TRIALS if one not in options.but]:
        budget = Budget(options.minutes * 60, options.seed, options.most)
        tally = importlib.import_module(f"soak.{name}").run(budget)
        gone = f"{tally.seconds:.0f} s"
        print(f"{name}: {tally.tried} tried in {gone}, {len(tally.failures)} failures")
        print(f"    goal: {tally.goal}. Seed {options.seed}. {'; '.join(tally.notes)}")
        for failure in tally.failures[:MOST_SHOWN]:
            print(f"    ✕ {failure}")
        sys.stdout.flush()
        failed = failed or bool(tally.failures)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
