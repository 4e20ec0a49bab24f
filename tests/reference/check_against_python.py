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
from scipy import integrate, optimize, stats
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


def lines():
    """B1: weighted lines, by numpy.polyfit with the covariance left as the weights say."""
    rng = random.Random(3)
    cases = []
    for _ in range(60):
        n = rng.randint(3, 12)
        x = sorted(rng.uniform(0, 5) for _ in range(n))
        u = [10 ** rng.uniform(-4, -2) for _ in range(n)]
        cases.append({"kind": "line", "x": x, "u": u, "y": [0.004 + 0.09 * a + rng.gauss(0, s) for a, s in zip(x, u)]})
    for case, ours in zip(cases, ask(cases)):
        (slope, intercept), c = np.polyfit(case["x"], case["y"], 1, w=1 / np.array(case["u"]), cov="unscaled")
        for name, theirs in (("slope", slope), ("intercept", intercept), ("u_slope", c[0][0] ** 0.5), ("u_intercept", c[1][1] ** 0.5), ("covariance", c[0][1])):
            compare("line " + name, ours[name], theirs, 1e-7)


def heats():
    """D15: the first-order rise, by scipy.optimize.curve_fit."""
    rng = np.random.default_rng(15)
    cases = []
    for _ in range(40):
        rise, tau = rng.uniform(8, 35), rng.uniform(600, 2400)
        t = np.arange(0, 3.5 * tau, 60)[:390]
        noise = rng.normal(0, 0.15, len(t))
        cases.append({"kind": "heat", "ambient": 18.0, "time": t.tolist(), "celsius": (18 + rise * (1 - np.exp(-t / tau)) + noise).tolist()})
    for case, ours in zip(cases, ask(cases)):
        t, y = np.array(case["time"]), np.array(case["celsius"]) - 18.0
        p, c = optimize.curve_fit(lambda x, a, b: a * (1 - np.exp(-x / b)), t, y, p0=[y[-1], t[-1] / 3])
        for name, theirs, tolerance in (("rise", p[0], 1e-6), ("tau", p[1], 1e-6), ("u_rise", c[0][0] ** 0.5, 1e-4), ("u_tau", c[1][1] ** 0.5, 1e-4)):
            compare("heat " + name, ours[name], theirs, tolerance)


def usable_curves():
    """D8: usable energy against load with what is known as prior, by scipy.optimize.least_squares on the readings and the priors' own residuals; the band from
    its Jacobian. The shape, the priors and the allowance for it (0.5 %) are those that findings/usable.h states."""
    rng = np.random.default_rng(8)
    cases = []
    for k in range(60):
        e0, p0, r = rng.uniform(15, 150), rng.uniform(0.05, 0.4), rng.uniform(0.0005, 0.004)
        watts = np.sort(rng.choice([1.0, 2.0, 4.0, 8.0, 15.0, 25.0], size=1 + k % 4, replace=False))
        exact = e0 * watts / (watts + p0 + r * watts ** 2)
        u = 0.003 * exact
        case = {"kind": "usable", "watts": watts.tolist(), "wh": (exact + 0.5 * u * rng.standard_normal(len(watts))).tolist(), "u": u.tolist(), "asked": 11.0, "top": 30.0}
        case["put_in" if k % 2 else "rated"] = float(e0 * rng.uniform(1.05, 1.3))
        if k % 3 == 0:
            case["idle"] = float(p0 * rng.uniform(0.8, 1.2))
        cases.append(case)
    for case, ours in zip(cases, ask(cases)):
        x, y, u = (np.array(case[k]) for k in ("watts", "wh", "u"))
        u = np.hypot(u, 0.005 * y)
        low, high = y.max(), max(case["put_in"] if "put_in" in case else 1.05 * case["rated"], 1.02 * y.max())
        means = np.array([0.0, np.log(case.get("idle", 0.1)), np.log(0.04 / 30.0)])
        spreads = np.array([1.5, np.log(1.5 if "idle" in case else 5.0) / 2, np.log(6.0) / 2])
        def energy(w, p):
            return (low + (high - low) / (1 + np.exp(-p[0]))) * w / (w + np.exp(p[1]) + np.exp(p[2]) * w * w)
        fit = optimize.least_squares(lambda p: np.concatenate([(energy(x, p) - y) / u, (p - means) / spreads]), means, xtol=1e-14, ftol=1e-14, gtol=1e-14)
        compare("usable e0", ours["e0"], low + (high - low) / (1 + np.exp(-fit.x[0])), 2e-5)
        compare("usable p0", ours["p0"], np.exp(fit.x[1]), 2e-4)
        compare("usable r", ours["r"], np.exp(fit.x[2]), 2e-4)
        compare("usable at", ours["at"], energy(11.0, fit.x), 2e-5)
        scale = max(1.0, 2 * fit.cost / len(x))  # the Birge ratio: more scatter than the doubts explain
        cov = np.linalg.inv(fit.jac.T @ fit.jac) * scale
        h = 1e-6
        g = np.array([(energy(11.0, fit.x + h * e) - energy(11.0, fit.x - h * e)) / (2 * h) for e in np.eye(3)])
        compare("usable band", ours["u_at"], float(np.hypot(np.sqrt(g @ cov @ g), 0.005 * energy(11.0, fit.x))), 1e-3)


def repeats_and_drift():
    """D18: mean and its interval by scipy.stats.t.interval, the drift by scipy.stats.linregress."""
    rng = random.Random(18)
    cases = [{"kind": "mean", "values": [rng.gauss(50, 0.6) + k * rng.choice([0, 0.4]) for k in range(rng.randint(3, 9))]} for _ in range(60)]
    for case, ours in zip(cases, ask(cases)):
        v = np.array(case["values"])
        low, high = stats.t.interval(0.95, len(v) - 1, loc=v.mean(), scale=stats.sem(v))
        line = stats.linregress(range(len(v)), v)
        compare("mean", ours["mean"], float(v.mean()), 1e-12)
        compare("interval", ours["half"], float(high - low) / 2, 1e-9)
        compare("drift", ours["slope"], line.slope, 1e-9)
        compare("chance of the drift", ours["chance"], line.pvalue, 1e-8)


def gnu_units():
    """B1 and D15: copper wire by gauge, and degrees Fahrenheit, by GNU units."""
    def units(have, want):
        return float(subprocess.run(["units", "-t", "-o", "%.12g", have, want], check=True, capture_output=True, text=True).stdout)
    gauges = [{"kind": "wire", "awg": n} for n in (20, 22, 24, 26, 28, 30)]
    for case, ours in zip(gauges, ask(gauges)):
        compare("wire diameter", ours["millimetres"], units(f"wiregauge({case['awg']})", "mm"), 1e-9)
        compare("wire resistance", ours["ohms_per_metre"], units(f"1.7241e-8 ohm m / circlearea(wiregauge({case['awg']})/2)", "ohm/m"), 1e-9)
    degrees = [{"kind": "celsius", "text": f"{f} °F"} for f in (-40, 32, 104, 118.4)]
    for case, ours in zip(degrees, ask(degrees)):
        compare("fahrenheit", ours["celsius"] + 273.15, units(f"tempF({case['text'][:-3]})", "K"), 1e-9)


def verdicts():
    """E1: conformance probabilities by scipy's normal and t distributions, verdicts by the guard band w = U."""
    rng = random.Random(106)
    cases = []
    for _ in range(200):
        value, u = rng.uniform(90, 110), rng.uniform(0.2, 4.0)
        case = {"kind": "verdict", "value": value, "u": u}
        if rng.random() < 0.3:
            case["dof"] = float(rng.randint(2, 20))
        which = rng.choice(("low", "high", "both"))
        if which != "high":
            case["low"] = rng.uniform(92, 100)
        if which != "low":
            case["high"] = rng.uniform(100, 108)
        cases.append(case)
    for case, ours in zip(cases, ask(cases)):
        dist = stats.t(case["dof"], case["value"], case["u"]) if "dof" in case else stats.norm(case["value"], case["u"])
        chance = (dist.cdf(case["high"]) if "high" in case else 1.0) - (dist.cdf(case["low"]) if "low" in case else 0.0)
        compare("conformance probability", 1 + ours["chance"], 1 + chance, 1e-9)
        expanded = (stats.t.ppf(0.975, case["dof"]) if "dof" in case else 2.0) * case["u"]
        low, high = case.get("low", -math.inf), case.get("high", math.inf)
        best, worst = case["value"] + expanded, case["value"] - expanded
        verdict = "meets" if worst >= low and best <= high else "falls short" if best < low or worst > high else "too close to call"
        compare("verdict", float(ours["verdict"] == verdict), 1.0, 1e-12)


def rankings():
    """E2: the chance that each bank is the best, by a Monte Carlo of its own with scipy's normal and Student's t; within 2 percentage points."""
    rng = random.Random(2026)
    draws = 200_000
    cases = []
    for number in range(8):
        scales = [{"figure": f, "worst": w, "best": b, "weight": rng.uniform(0.5, 3)} for f, w, b in
                  (("usable_gentle", 0, 100), ("weight", 600, 100), ("recharge_80", 14400, 3600), ("price_per_wh", 3, 0.5))]
        banks = []
        for k in range(2 + number % 4):
            bank = {"name": f"bank {k}"}
            if number % 2:
                bank["dof"] = rng.choice([1.0, 2.0, 4.7, 12.0])  # its own doubt is known from few repeats
            for s in scales:
                if rng.random() < 0.12:
                    continue  # not known
                middle = s["worst"] + (s["best"] - s["worst"]) * rng.uniform(0.35, 0.65)
                wide = abs(s["best"] - s["worst"])
                bank[s["figure"]] = {"value": middle, "own": wide * rng.uniform(0.01, 0.15), "shared": wide * rng.uniform(0.0, 0.1)}
            banks.append(bank)
        cases.append({"kind": "rank", "scales": scales, "banks": banks})
    generator = np.random.default_rng(11)
    for case, ours in zip(cases, ask(cases)):
        weights = np.array([s["weight"] for s in case["scales"]])
        weights /= weights.sum()
        shared = stats.norm.rvs(size=draws, random_state=generator)
        scores = []
        for bank in case["banks"]:
            # "own" and "shared" name one source each, as our figures name theirs: one draw for all figures of a bank, one for all banks.
            own = (stats.t(bank["dof"]) if "dof" in bank else stats.norm).rvs(size=draws, random_state=generator)
            score = np.zeros(draws)
            for weight, s in zip(weights, case["scales"]):
                f = bank.get(s["figure"])
                if f is None:
                    place = stats.uniform.rvs(size=draws, random_state=generator)
                else:
                    place = np.clip((f["value"] + f["own"] * own + f["shared"] * shared - s["worst"]) / (s["best"] - s["worst"]), 0, 1)
                score += weight * place
            scores.append(score)
        best = np.argmax(np.array(scores), axis=0)
        for k, bank in enumerate(case["banks"]):
            theirs = float(np.mean(best == k))
            compare(f"chance of {bank['name']}", float(abs(ours["chances"][bank["name"]] - theirs) <= 0.02), 1.0, 1e-12)


demo_logs()
verdicts()
rankings()
lines()
heats()
usable_curves()
repeats_and_drift()
gnu_units()
propagation()
integrals()
students_t()
print(f"{checks} checks, {failures} failures")
sys.exit(1 if failures else 0)
