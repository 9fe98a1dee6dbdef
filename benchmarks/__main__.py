"""Measures every figure in one run: `./run bench [--json FILE]`."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from benchmarks import (
    answering,
    claims,
    forecasting,
    looking,
    modelling,
    resampling,
    shuffling,
    simulating,
    startup,
    tables,
)
from benchmarks.measure import HEAD

parser = argparse.ArgumentParser(prog="./run bench")
parser.add_argument("--json", type=Path, metavar="FILE", help="write the figures there too")
options = parser.parse_args()
print(HEAD)
found = []
for room in (startup, shuffling, answering, claims, resampling, simulating, modelling, forecasting, tables, looking):
    for figure in room.figures():
        print(figure.line(), flush=True)
        found.append(figure)
if options.json:
    rows = [
        {
            "name": f.name,
            "value": f.value,
            "slowness": f.slowness,
            "corrected": f.corrected,
            "limit": f.limit if f.limit < 1e9 else None,
            "ok": f.ok,
        }
        for f in found
    ]
    options.json.write_text(json.dumps(rows, indent=1) + "\n")
sys.exit(0)
