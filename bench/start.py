#!/usr/bin/env python3
"""How long after its start the window with a book can be used, beside an empty Qt window; and its memory.

    cmake --build --preset release --target otterstone_start otterstone_empty_window
    bench/start.py build/release/bench BOOK [TIMES, 15]

Both are started by turns; medians. With QT_QPA_PLATFORM=offscreen, or in a window.
"""
import statistics
import subprocess
import sys
import time


def start(command):
    out = subprocess.run([command[0], str(time.monotonic() * 1e3), *command[1:]], check=True, capture_output=True, text=True).stdout
    return [float(figure) for figure in out.split()]


def main():
    folder, book = sys.argv[1:3]
    times = int(sys.argv[3]) if len(sys.argv) > 3 else 15
    ours, empty = [], []
    for _ in range(times + 1):
        empty.append(start([f"{folder}/otterstone_empty_window"]))
        ours.append(start([f"{folder}/otterstone_start", book]))
    of = lambda rows, k: statistics.median(row[k] for row in rows[1:])  # the first warms the disk's cache
    print(f"empty window   {of(empty, 0):6.0f} ms  {of(empty, 1):6.1f} MB")
    print(f"with the book  {of(ours, 0):6.0f} ms  {of(ours, 1):6.1f} MB   {of(ours, 0) / of(empty, 0):.2f} times as long")


main()
