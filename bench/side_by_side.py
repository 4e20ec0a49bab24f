#!/usr/bin/env python3
"""Times and weighs `otterstone-cli analyse` against pandas + numpy on the same 2-million-row log, turn by turn.

Usage: side_by_side.py OTTERSTONE_CLI [ROWS] [TURNS]
Two logs: time, volts and amps alone, and the eight columns a meter's program typically writes. Both run as whole processes; pandas is also shown without its import, and its work alone. Memory is the greatest resident size.
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
    compare(cli, rows, turns, "time_s,volts,amps", lambda t, v, i: f"{t:.1f},{v:.4f},{i:.4f}")
    compare(cli, rows, turns, "time_s,volts,amps,watts,mah,wh,d_plus,temperature_c",
            lambda t, v, i: f"{t:.1f},{v:.4f},{i:.4f},{v * i:.4f},{t / 1.8:.1f},{t / 360:.3f},2.700,25.0")


def compare(cli, rows, turns, header, line):
    rng = random.Random(5)
    with tempfile.NamedTemporaryFile("w", suffix=".csv") as log:
        log.write(header + "\n")
        for k in range(rows):
            log.write(line(k * 0.1, 5.05 + rng.uniform(-0.01, 0.01), 2 + rng.uniform(-0.02, 0.02)) + "\n")
        log.flush()
        ours, theirs, work = [], [], []
        for _ in range(turns):
            ours.append(measured([cli, "analyse", log.name, "--kind", "drain", "--json"]))
            theirs.append(measured(["/usr/bin/python3", "-c", PANDAS, log.name]))
            work.append(float(theirs[-1][2].split()[1]))
        energy = json.loads(ours[-1][2])["energy_wh"]
        assert abs(energy / float(theirs[-1][2].split()[0]) - 1) < 1e-9
        a, b, w = (statistics.median(x) for x in ([x[0] for x in ours], [x[0] for x in theirs], work))
        m, n = (max(x[1] for x in runs) for runs in (ours, theirs))
        print(f"{rows} rows of {header.count(',') + 1} columns, {os.path.getsize(log.name) / 1e6:.0f} MB, median of {turns} turns")
        print(f"  otterstone-cli analyse  {a * 1000:6.0f} ms  {m:4.0f} MB")
        print(f"  pandas + numpy          {b * 1000:6.0f} ms  {n:4.0f} MB  (without its start and imports {w * 1000:.0f} ms)")
        print(f"  {b / a:.1f} times as fast in {m / n:.2f} of the memory")


main()
