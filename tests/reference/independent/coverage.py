"""Does the truth lie within what Otterstone says? Logs from a bank and a meter that share nothing with it, read by `otterstone-cli analyse --json`.

Usage: coverage.py OTTERSTONE_CLI [--runs N] [--seed S] [--only WORDS] [--check]
--check ends with 1 when a group's truth lies within k = 2 too seldom, or its intervals are too wide.
"""
import argparse
import json
import subprocess
import sys
import tempfile
import zlib
from collections import defaultdict
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parent))
import groups  # noqa: E402
import trips  # noqa: E402


class Run:
    """Writes a log, has it analysed, gives what was said."""

    def __init__(self, cli, folder):
        self.cli, self.folder = cli, Path(folder)

    def ask(self, *arguments):
        done = subprocess.run([self.cli, *map(str, arguments)], capture_output=True, text=True)
        if done.returncode != 0:
            raise RuntimeError(' '.join(map(str, arguments)) + ': ' + done.stderr)
        return json.loads(done.stdout)

    def __call__(self, meter, t, v, i, kind, *extra):
        log = self.folder / 'log.csv'
        meter.write(log, t, v, i)
        return self.ask('analyse', log, '--kind', kind, '--meter', meter.option(), '--json', *extra)

    def two(self, near, far, t, v, i, vf, fi):
        log, other = self.folder / 'log.csv', self.folder / 'far.csv'
        near.write(log, t, v, i)
        far.write(other, t, vf, fi)
        said = self.ask('analyse', log, '--kind', 'drain', '--point', 'bank out', '--meter', near.option(), '--also', f'meter={other}', '--also-meter', far.option(), '--json')
        for link in said['links']:
            if link['ohms'] is not None:
                return link['ohms'], link['ohms_u']
        return None


def verdict(name, z, reduced):
    """The bounds of the full form; the reduced form's are as wide as its few runs ask for."""
    n = len(z)
    within = np.mean(np.abs(z) <= 2)
    rms = np.sqrt(np.mean(np.square(z)))
    slack = 3 * np.sqrt(0.04 * 0.96 / n) if reduced else 0.0
    wide = 3 / np.sqrt(2 * n) if reduced else 0.0
    if name.startswith('gap'):
        least_rms = 0.3 if 'steady' in name else 0.0
        return within >= 0.92 - slack and rms >= least_rms * (1 - wide), within, rms
    return 0.92 - slack <= within <= (1.0 if reduced else 0.992) and 0.8 * (1 - wide) <= rms <= 1.25 * (1 + wide), within, rms


def tell(cases, reduced):
    """Prints the cases, forgets them, and says how many are out of bounds."""
    bad = 0
    for name, z in cases.items():
        good, within, rms = verdict(name, np.array(z), reduced)
        bad += not good
        print(f"{name:34} {len(z):5d} {100 * within:7.1f}% {rms:7.2f}{'' if good else '   out of bounds'}", flush=True)
    cases.clear()
    return bad


def main():
    ask = argparse.ArgumentParser()
    ask.add_argument('cli')
    ask.add_argument('--runs', type=int, default=300)
    ask.add_argument('--seed', type=int, default=20261127)
    ask.add_argument('--only', default='')
    ask.add_argument('--check', action='store_true')
    o = ask.parse_args()
    cases = defaultdict(list)
    bad = 0
    with tempfile.TemporaryDirectory() as folder:
        run = Run(o.cli, folder)
        print(f"{'group':34} {'runs':>5} {'within':>8} {'rms z':>7}", flush=True)
        for name, group in groups.GROUPS.items():
            if o.only and o.only not in name:
                continue
            rng = np.random.default_rng([o.seed, zlib.crc32(name.encode())])
            for _ in range(o.runs):
                for case, said, expanded, true in group(run, rng):
                    key = name if case == 'energy' else case
                    cases[key].append((said - true) / (expanded / 2) if said is not None and expanded else np.inf)
            bad += tell(cases, o.runs < 200)
        if not o.only or o.only in 'round trip':
            for case, z in trips.round_trips(run, np.random.default_rng([o.seed, 1]), 2 * o.runs):
                cases[case].append(z)
            bad += tell(cases, o.runs < 200)
    return 1 if o.check and bad else 0


if __name__ == '__main__':
    sys.exit(main())
