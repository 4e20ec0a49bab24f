"""A bank and a charger of its own making: nothing here knows how Otterstone's simulated bank works.

A run is a Signal: pieces in which amps are constant, linear or exponential and volts are linear in time and amps, so that the energy between any two moments is
known in closed form. That is the truth that the logs made from it are held against.
"""
import numpy as np


class Signal:
    """Pieces [t0, t1): amps = a + b·x + c·exp(−x/τ), volts = v + w·x − r·amps, x = t − t0. Exact integrals."""

    def __init__(self):
        self.pieces = []
        self.end = 0.0

    def add(self, seconds, amps, volts, slope_amps=0.0, slope_volts=0.0, exp_amps=0.0, tau=1.0, ohms=0.0):
        if seconds <= 0:
            return
        self.pieces.append((self.end, self.end + seconds, amps, slope_amps, exp_amps, tau, volts, slope_volts, ohms))
        self.end += seconds

    def finish(self):
        self.table = np.array(self.pieces)
        t0, t1 = self.table[:, 0], self.table[:, 1]
        self.starts = t0
        whole = np.array([self._piece(p, p[1] - p[0]) for p in self.table])
        self.sums = np.vstack([np.zeros(3), np.cumsum(whole, axis=0)])
        self.t1 = t1
        return self

    @staticmethod
    def _moments(a, b, c, tau, x):
        """∫I, ∫I·x, ∫I² over [0, x] of I = a + b x + c e^(−x/τ)."""
        e = np.exp(-x / tau)
        i = a * x + b * x ** 2 / 2 + c * tau * (1 - e)
        ix = a * x ** 2 / 2 + b * x ** 3 / 3 + c * tau * (tau - (x + tau) * e)
        ii = (a * a * x + a * b * x ** 2 + b * b * x ** 3 / 3 + 2 * a * c * tau * (1 - e) + 2 * b * c * tau * (tau - (x + tau) * e)
              + c * c * tau / 2 * (1 - e * e))
        return i, ix, ii

    def _piece(self, p, x):
        _, _, a, b, c, tau, v, w, r = p
        i, ix, ii = self._moments(a, b, c, tau, x)
        return np.array([v * i + w * ix - r * ii, i, ii])

    def _index(self, t):
        return np.clip(np.searchsorted(self.starts, t, side='right') - 1, 0, len(self.starts) - 1)

    def read(self, t):
        t = np.asarray(t, float)
        p = self.table[self._index(t)]
        x = np.minimum(t, p[:, 1]) - p[:, 0]
        amps = p[:, 2] + p[:, 3] * x + p[:, 4] * np.exp(-x / p[:, 5])
        return p[:, 6] + p[:, 7] * x - p[:, 8] * amps, amps

    def until(self, t):
        """Watt seconds, ampere seconds, ampere² seconds from the beginning to t."""
        k = int(self._index(t))
        return self.sums[k] + self._piece(self.table[k], min(t, self.t1[k]) - self.starts[k])

    def between(self, a, b):
        return (self.until(b) - self.until(a)) / 3600.0

    def moment_of(self, watt_seconds):
        lo, hi = 0.0, self.end
        for _ in range(70):
            mid = (lo + hi) / 2
            if self.until(mid)[0] < watt_seconds:
                lo = mid
            else:
                hi = mid
        return (lo + hi) / 2


class Cells:
    """Open-circuit volts as a sum of a line, a knee at empty and a shoulder at full; made up, and not a table of anybody's."""

    def __init__(self, rng):
        self.amp_hours = rng.uniform(1.5, 5.0)
        self.base = rng.uniform(3.42, 3.55)
        self.ohms = rng.uniform(0.03, 0.12)

    def volts(self, s):
        return self.base + 0.42 * s + 0.18 * s ** 6 - 0.62 * np.exp(-s / 0.035)


def drain(rng, load, tier=5.0, step=60.0, hours_at_most=2.5, idle=True):
    """From full until the cells reach 3.0 V. load(t) gives pieces [(seconds, amps)] from t on. Converter: its own losses."""
    cells = Cells(rng)
    fixed, share, sag = rng.uniform(0.02, 0.15), rng.uniform(0.04, 0.10), rng.uniform(0.01, 0.06)
    s, t = 1.0, 0.0
    signal = Signal()
    if idle:
        signal.add(rng.uniform(8, 40), 0.0, tier + 0.08)
    line = rng.uniform(0.0, 0.02)
    while s > 0 and t < hours_at_most * 3600:
        for seconds, amps in load(t):
            cell = cells.volts(s)
            out = (tier + 0.08 + line * (cell - 3.7) - sag * amps) * amps
            need = fixed + out * (1 + share)
            current = (cell - np.sqrt(max(cell * cell - 4 * cells.ohms * need, 0.0))) / (2 * cells.ohms)
            if cell - current * cells.ohms < 3.0 or s <= 0:
                s = -1.0
                break
            signal.add(seconds, amps, tier + 0.08 + line * (cell - 3.7), ohms=sag)
            s -= current * seconds / 3600.0 / cells.amp_hours
            t += seconds
    signal.stop = signal.end
    signal.add(rng.uniform(60, 200), 0.0, rng.uniform(0.0, 0.4))
    return signal.finish()


def steady(amps, step=60.0):
    return lambda t: [(step, amps)]


def stepped(rng, levels, hold):
    def load(_):
        amps = levels[rng.integers(len(levels))]
        return [(hold / 8, amps)] * 8
    return load


def pulsed(rng, high, low, mean, shape):
    """Bursts and rests of random length, `mean` seconds on the average: exponential, or within half of it."""
    def length():
        return max(0.02, rng.exponential(mean) if shape == 'exponential' else mean * rng.uniform(0.5, 1.5))

    def load(t):
        return [(length(), high), (length(), low)]
    return load


def recharge(rng, tier=9.0):
    """Constant power slowly rising, then a taper to a current at which the charger ends. Returns the signal and its landmarks."""
    signal = Signal()
    before = rng.uniform(70, 120)
    signal.add(before, 0.0, tier + 0.1)
    amps, sag = rng.uniform(0.9, 2.2), rng.uniform(0.02, 0.08)
    bulk = rng.uniform(2500, 7000)
    grow = rng.uniform(0.0, 0.02) * amps / bulk
    pieces = 60
    for k in range(pieces):
        signal.add(bulk / pieces, amps + grow * bulk * k / pieces, tier + 0.1, slope_amps=grow, ohms=sag)
    top = amps + grow * bulk
    tau, floor = rng.uniform(500, 1500), rng.uniform(0.0, 0.008) * amps
    ends_at = rng.uniform(0.06, 0.12) * amps if rng.random() < 0.5 else 0.03 * amps  # switches off there
    long = tau * np.log((top - floor) / (ends_at - floor))
    signal.add(long, floor, tier + 0.1, exp_amps=top - floor, tau=tau, ohms=sag)
    signal.start = before
    off = signal.end
    signal.add(rng.uniform(800, 1500), rng.uniform(0.0, 0.004), tier + 0.1)
    signal.finish()
    # Full is when the power falls below 5 % of the bulk's: on the taper, or where the charger ends.
    level = 0.05 * np.median([v * i for v, i in zip(*signal.read(np.linspace(before, before + bulk, 200, endpoint=False)))])
    lo, hi = before + bulk, off
    for _ in range(60):
        mid = (lo + hi) / 2
        v, i = signal.read([mid])
        lo, hi = (mid, hi) if v[0] * i[0] > level else (lo, mid)
    signal.full = (lo + hi) / 2
    return signal
