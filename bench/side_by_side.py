#!/usr/bin/env python3
"""Times and weighs `otterstone-cli analyse` against pandas + numpy on the same 2-million-row log, turn by turn.

Usage: side_by_side.py OTTERSTONE_CLI [ROWS] [TURNS]
Both run as whole processes; pandas is also shown without its import, and its work alone. Memory is the greatest resident size.
"""
import json
import os
import random
import statistics
import subprocess
import sys
import tempfile
import time

PANDAS = """
import sys, time
import pandas as pd, numpy as np
began = time.perf_counter()
d = pd.read_csv(sys.argv[1])
wh = np.trapz((d.volts * d.amps).values, d.time_s.values) / 3600
print(wh, time.perf_counter() - began)
"""


def measured(command):
    """Wall seconds, greatest resident MB and standard output of one run."""
    reader, writer = os.pipe()
    began = time.perf_counter()
    pid = os.fork()
    if pid == 0:
        os.dup2(writer, 1)
        os.execvp(command[0], command)
    os.close(writer)
    with os.fdopen(reader) as out:
        text = out.read()
    _, status, usage = os.wait4(pid, 0)
    assert status == 0, command
    return time.perf_counter() - began, usage.ru_maxrss / 1024, text


def main():
    cli = sys.argv[1]
    rows = int(sys.argv[2]) if len(sys.argv) > 2 else 2_000_000
    turns = int(sys.argv[3]) if len(sys.argv) > 3 else 7
    rng = random.Random(5)
    with tempfile.NamedTemporaryFile("w", suffix=".csv") as log:
        log.write("time_s,volts,amps\n")
        for k in range(rows):
            log.write(f"{k * 0.1:.1f},{5.05 + rng.uniform(-0.01, 0.01):.4f},{2 + rng.uniform(-0.02, 0.02):.4f}\n")
        log.flush()
        ours, theirs, work = [], [], []
        for _ in range(turns):
            ours.append(measured([cli, "analyse", log.name, "--kind", "drain", "--json"]))
            theirs.append(measured(["/usr/bin/python3", "-c", PANDAS, log.name]))
            work.append(float(theirs[-1][2].split()[1]))
        energy = json.loads(ours[-1][2])["energy_wh"]
        assert abs(energy / float(theirs[-1][2].split()[0]) - 1) < 1e-9
        a = statistics.median(x[0] for x in ours)
        b = statistics.median(x[0] for x in theirs)
        w = statistics.median(work)
        print(f"{rows} rows, {os.path.getsize(log.name) / 1e6:.0f} MB, median of {turns} turns")
        print(f"otterstone-cli analyse     {a * 1000:7.0f} ms   {max(x[1] for x in ours):6.0f} MB")
        print(f"pandas + numpy             {b * 1000:7.0f} ms   {max(x[1] for x in theirs):6.0f} MB   (its work alone {w * 1000:.0f} ms)")
        print(f"faster by {b / a:.1f} (than its work alone {w / a:.1f}); memory {max(x[1] for x in ours) / max(x[1] for x in theirs):.2f} of it")


main()
