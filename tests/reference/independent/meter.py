"""A meter of its own making: gains, offsets, noise, digits, clock and sampling; errors uniform within the limits that its maker prints."""
import csv
import numpy as np


class Meter:
    def __init__(self, rng, volts=(0.0005, 0.002), amps=(0.001, 0.003), digits=(1e-4, 1e-4), noise=(0.0, 0.0), ppm=50.0, plus_digits=0):
        u = lambda limit: rng.uniform(-limit, limit)
        self.rng, self.volts_limits, self.amps_limits, self.digits, self.noise, self.ppm, self.plus_digits = rng, volts, amps, digits, noise, ppm, plus_digits
        # Half of the variance of a gain or offset stays wherever the meter is used, half belongs to the point on its scales.
        self.common = [u(volts[0]), u(volts[1] + plus_digits * digits[0]), u(amps[0]), u(amps[1] + plus_digits * digits[1])]
        self.limits = [volts[0], volts[1] + plus_digits * digits[0], amps[0], amps[1] + plus_digits * digits[1]]
        self.clock = 1 + u(ppm * 1e-6)
        self.errors = self.common

    def elsewhere(self):
        """The same meter at another point of its scales."""
        own = [self.rng.uniform(-l, l) for l in self.limits]
        self.errors = [(c + o) / np.sqrt(2) for c, o in zip(self.common, own)]

    def sample(self, signal, step, jitter=0.0, from_s=0.0, to_s=None):
        to_s = signal.end if to_s is None else to_s
        t = np.arange(from_s + self.rng.uniform(0, step), to_s, step)
        if jitter:
            t = np.sort(np.clip(t + self.rng.uniform(-jitter, jitter, len(t)) * step, from_s, to_s - 1e-6))
        return t, *self.read(signal, t)

    def read(self, signal, t):
        v, i = signal.read(t)
        gv, ov, gi, oi = self.errors
        v = v * (1 + gv) + ov + self.rng.normal(0, self.noise[0], len(t)) if self.noise[0] else v * (1 + gv) + ov
        i = i * (1 + gi) + oi + (self.rng.normal(0, self.noise[1], len(t)) if self.noise[1] else 0.0)
        return np.round(v / self.digits[0]) * self.digits[0], np.round(i / self.digits[1]) * self.digits[1]

    def option(self):
        d = f"+{self.plus_digits} digits" if self.plus_digits else ''
        return (f"volts {self.volts_limits[0] * 100:g}%+{self.volts_limits[1] * 1000:g}mV{d}, "
                f"amps {self.amps_limits[0] * 100:g}%+{self.amps_limits[1] * 1000:g}mA{d}, clock {self.ppm:g}ppm")

    def write(self, path, t, v, i):
        # The log's clock runs fast or slow; times count from its first row. Decimals are the meter's own.
        dv, di = (max(0, int(round(-np.log10(d)))) for d in self.digits)
        logged = (t - t[0]) * self.clock
        with open(path, 'w', newline='') as f:
            f.write('time_s,volts_v,amps_a\n')
            f.writelines(f"{a:.3f},{b:.{dv}f},{c:.{di}f}\n" for a, b, c in zip(logged, v, i))
