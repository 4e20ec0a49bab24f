#!/usr/bin/env python3
"""Holds Otterstone's sums against independent libraries: numpy and scipy (integrals, Student's t), uncertainties (propagation).

Usage: check_against_python.py OTTERSTONE_CLI REFERENCE_PROBE [--sabotage]
All libraries come from Debian's packages. --sabotage changes one of our figures by a millionth; the checks must then fail.
"""
import csv
import json
import math
import pathlib
import random
import subprocess
import sys
import tempfile

import numpy as np
from scipy import integrate, stats
from uncertainties import correlated_values, ufloat

cli, probe = sys.argv[1:3]
sabotage = "--sabotage" in sys.argv
failures = 0
checks = 0


def compare(what, ours, theirs, relative):
    global failures, checks
    checks += 1
    if not math.isclose(ours, theirs, rel_tol=relative, abs_tol=1e-300):
        failures += 1
        if failures <= 10:
            print(f"{what}: ours {ours!r}, theirs {theirs!r}")


def demo_logs():
    """Every trace of the demo book: numpy and scipy integrate the same samples."""
    with tempfile.TemporaryDirectory() as folder:
        folder = pathlib.Path(folder)
        subprocess.run([cli, "demo", folder / "demo.otterstone"], check=True, stdout=subprocess.DEVNULL)
        subprocess.run([cli, "export", folder / "demo.otterstone", folder / "bundle"], check=True)
        traces = sorted((folder / "bundle" / "traces").glob("*.csv"))
        assert len(traces) >= 15
        for trace in traces:
            run = subprocess.run([cli, "analyse", trace, "--kind", "drain", "--json"], check=True, capture_output=True)
            ours = json.loads(run.stdout)
            with open(trace, newline="") as f:
                rows = list(csv.DictReader(f))
            t, v, i = (np.array([float(r[c]) for r in rows]) for c in ("time_s", "volts_v", "amps_a"))
            energy = ours["energy_wh"] * (1 + 1e-6 if sabotage else 1)
            compare(f"{trace.name} energy, numpy", energy, np.trapz(v * i, t) / 3600, 1e-9)
            compare(f"{trace.name} energy, scipy", energy, integrate.trapezoid(v * i, t) / 3600, 1e-9)
            compare(f"{trace.name} charge, numpy", ours["charge_mah"], np.trapz(i, t) / 3.6, 1e-9)
            compare(f"{trace.name} length", ours["duration_s"], t[-1] - t[0], 1e-12)


def ask(cases):
    run = subprocess.run([probe], input=json.dumps(cases), check=True, capture_output=True, text=True)
    return json.loads(run.stdout)


def propagation():
    """Random products, quotients and sums of correlated values, by uncertainties.correlated_values."""
    rng = random.Random(20261123)
    cases = []
    for _ in range(200):
        values = [rng.uniform(0.1, 100), rng.uniform(0.1, 100)]
        u = [abs(x) * 10 ** rng.uniform(-5, -1) for x in values]
        cases.append({"kind": "pair", "values": values, "u": u, "r": rng.uniform(-0.99, 0.99)})
    for case, ours in zip(cases, ask(cases)):
        (a, b), r = case["u"], case["r"]
        x, y = correlated_values(case["values"], [[a * a, r * a * b], [r * a * b, b * b]])
        for name, theirs in (("product", x * y), ("quotient", x / y), ("sum", x + y)):
            compare(name, ours[name]["value"], theirs.nominal_value, 1e-12)
            compare(name + " u", ours[name]["u"], theirs.std_dev, 1e-6)


def integrals():
    """Integrals whose samples share gain, offset and clock errors: each sample is written out with the same ufloats."""
    rng = random.Random(7)
    cases = []
    for _ in range(40):
        n = rng.randint(5, 60)
        time = np.cumsum([rng.uniform(0.5, 20) for _ in range(n)]).tolist()
        cases.append({
            "kind": "integral", "time": time,
            "volts": [rng.uniform(4, 20) for _ in range(n)], "amps": [rng.uniform(0.5, 5) for _ in range(n)],
            "volts_gain": rng.uniform(0, 0.01), "volts_offset": rng.uniform(0, 0.02),
            "amps_gain": rng.uniform(0, 0.01), "amps_offset": rng.uniform(0, 0.02),
            "clock": rng.uniform(0, 0.001), "ohms": rng.uniform(0.01, 0.3), "ohms_u": rng.uniform(0.001, 0.02),
        })
    for case, ours in zip(cases, ask(cases)):
        def limits(key):
            return ufloat(0, case[key] / math.sqrt(3))
        gain_v, offset_v, gain_i, offset_i = (limits(k) for k in ("volts_gain", "volts_offset", "amps_gain", "amps_offset"))
        clock = 1 + limits("clock")
        ohms = ufloat(case["ohms"], case["ohms_u"])
        v = [x * (1 + gain_v) + offset_v for x in case["volts"]]
        i = [x * (1 + gain_i) + offset_i for x in case["amps"]]
        t = [x * clock for x in case["time"]]
        steps = range(len(t) - 1)
        energy = sum((v[k] * i[k] + v[k + 1] * i[k + 1]) * (t[k + 1] - t[k]) / 7200 for k in steps)
        charge = sum((i[k] + i[k + 1]) * (t[k + 1] - t[k]) / 7200 for k in steps)
        square = sum((i[k] ** 2 + i[k + 1] ** 2) * (t[k + 1] - t[k]) / 7200 for k in steps)
        port = energy + ohms * square
        for name, theirs in (("energy", energy), ("charge", charge), ("mean_volts", energy / charge), ("port", port),
                             ("share_of_itself", port / energy)):
            compare("integral " + name, ours[name]["value"], theirs.nominal_value, 1e-10)
            compare("integral " + name + " u", ours[name]["u"], theirs.std_dev, 1e-6)


def students_t():
    """Expanded uncertainty of few repeats, by scipy's Student's t."""
    cases = [{"kind": "repeats", "mean": 10.0, "u": 0.1, "dof": dof} for dof in range(1, 29)]
    for case, ours in zip(cases, ask(cases)):
        compare(f"t with {case['dof']} degrees", ours["expanded"], 0.1 * stats.t.ppf(0.975, case["dof"]), 1e-9)


demo_logs()
propagation()
integrals()
students_t()
print(f"{checks} checks, {failures} failures")
sys.exit(1 if failures else 0)
