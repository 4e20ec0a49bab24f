#!/usr/bin/env python3
"""Times and weighs `otterstone-cli analyse` against pandas + numpy on the same 2-million-row log, turn by turn.

Usage: side_by_side.py OTTERSTONE_CLI [ROWS] [TURNS]
Logs of 3, 4, 8 and 16 columns: time, volts and amps alone, with a temperature, what a meter's program typically writes, and all that it can. All run as whole processes, free and on one core; pandas is also shown without its start and imports. Memory is the greatest resident size. `wc -l` tells what reading the file alone takes.
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


def measured(command, cores=None):
    """Wall seconds, greatest resident MB and standard output of one run, on these cores alone if they are named."""
    reader, writer = os.pipe()
    began = time.perf_counter()
    pid = os.fork()
    if pid == 0:
        os.dup2(writer, 1)
        if cores:
            os.sched_setaffinity(0, cores)
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
    for columns in (3, 4, 8, 16):
        compare(cli, rows, turns, columns)


NAMES = ["time_s", "volts", "amps", "temperature_c", "watts", "mah", "wh", "d_plus",
         "d_minus", "cc1", "cc2", "ohms", "group", "record", "power_factor", "ripple_mv"]


def line(k, columns, rng):
    t, v, i = k * 0.1, 5.05 + rng.uniform(-0.01, 0.01), 2 + rng.uniform(-0.02, 0.02)
    return (f"{t:.1f},{v:.4f},{i:.4f},{25 + k % 50 / 10:.1f},{v * i:.4f},{t / 1.8:.1f},{t / 360:.3f},2.700,"
            f"{2.7 - k % 7 / 1000:.3f},0.412,1.678,{v / i:.3f},1,{k},0.98,{12 + k % 9}").split(",", columns)[:columns]


def compare(cli, rows, turns, columns):
    rng = random.Random(5)
    with tempfile.NamedTemporaryFile("w", suffix=".csv") as log:
        log.write(",".join(NAMES[:columns]) + "\n")
        for k in range(rows):
            log.write(",".join(line(k, columns, rng)) + "\n")
        log.flush()
        commands = {"otterstone-cli analyse": [cli, "analyse", log.name, "--kind", "drain", "--json"],
                    "pandas + numpy": ["/usr/bin/python3", "-c", PANDAS, log.name],
                    "wc -l": ["wc", "-l", log.name]}
        print(f"{rows} rows of {columns} columns, {os.path.getsize(log.name) / 1e6:.0f} MB, median of {turns} turns")
        for where, cores in (("", None), (", one core", {0})):
            runs = {name: [] for name in commands}
            for _ in range(turns):
                for name, command in commands.items():
                    runs[name].append(measured(command, cores))
            seconds = {name: statistics.median(r[0] for r in all_of) for name, all_of in runs.items()}
            memory = {name: max(r[1] for r in all_of) for name, all_of in runs.items()}
            ours, theirs, _ = (all_of[-1][2] for all_of in runs.values())
            assert abs(json.loads(ours)["energy_wh"] / float(theirs.split()[0]) - 1) < 1e-9
            alone = statistics.median(float(r[2].split()[1]) for r in runs["pandas + numpy"])
            for name in commands:
                more = f"  (without its start and imports {alone * 1000:.0f} ms)" if name == "pandas + numpy" else ""
                print(f"  {name + where:34}{seconds[name] * 1000:6.0f} ms  {memory[name]:4.0f} MB{more}")
            mine, other = "otterstone-cli analyse", "pandas + numpy"
            print(f"  {seconds[other] / seconds[mine]:.1f} times as fast in {memory[mine] / memory[other]:.2f} of the memory")


main()
