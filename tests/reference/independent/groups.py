"""The groups of the coverage check: each makes one log (or two) and yields what Otterstone says of it beside what is true.

A case is (name, said, expanded, true); u is expanded / 2.
"""
import numpy as np

import bank as b
from meter import Meter


def amps_for(rng):
    return rng.choice([0.5, 1.0, 1.5, 2.0, 2.4, 3.0]) * rng.uniform(0.97, 1.03)


def some_load(rng):
    if rng.random() < 0.5:
        return b.steady(amps_for(rng))
    levels = [amps_for(rng) for _ in range(3)]
    return b.stepped(rng, levels, rng.uniform(200, 900))


def drain_case(run, rng, load, step, meter=None, jitter=0.0, extra=(), mangle=None, **drain):
    signal = b.drain(rng, load, **drain)
    meter = meter or Meter(rng, noise=(rng.choice([0, 0.001]), rng.choice([0, 0.002])))
    t, v, i = meter.sample(signal, step, jitter)
    first, last = t[0], t[-1]
    if mangle:
        t, v, i = mangle(t, v, i)
    said = run(meter, t, v, i, 'drain', *extra)
    return said, signal, first, last


def energy(said, signal, first, last, name='energy'):
    return (name, said['energy_wh'], said['energy_u_wh'], signal.between(first, last)[0])


def quick(run, rng):
    said, *rest = drain_case(run, rng, some_load(rng), rng.uniform(0.5, 2.0), jitter=rng.choice([0, 0.1]))
    yield energy(said, *rest)


def slow(run, rng):
    said, *rest = drain_case(run, rng, some_load(rng), rng.uniform(10, 60), jitter=rng.choice([0, 0.1]))
    yield energy(said, *rest)


def pulses(ratio):
    def group(run, rng):
        step = rng.uniform(1, 10)
        load = b.pulsed(rng, amps_for(rng), rng.choice([0.0, 0.1, 0.4]), step / ratio, rng.choice(['exponential', 'even']))
        said, *rest = drain_case(run, rng, load, step, hours_at_most=step * rng.uniform(200, 1000) / 3600)
        yield energy(said, *rest)
    return group


def coarse(run, rng):
    """A standing reading with 10 mA and 10 mV digits; half of the meters have a last digit in their accuracy."""
    noise = rng.choice([0.0, 0.0, 0.002, 0.006])
    meter = Meter(rng, volts=(0.0005, 0.0), amps=(0.0005, 0.0), digits=(0.01, 0.01), noise=(noise, noise), plus_digits=int(rng.integers(0, 2)))
    said, *rest = drain_case(run, rng, b.steady(rng.uniform(0.3, 2.5)), rng.uniform(1, 5), meter)
    yield energy(said, *rest)


def charge(run, rng, steps=(0.5, 60)):
    signal = b.recharge(rng)
    meter = Meter(rng, digits=tuple(rng.choice([[1e-4, 1e-4], [1e-3, 1e-3], [1e-2, 1e-2]])), noise=(0.0, rng.choice([0, 0.002])))
    t, v, i = meter.sample(signal, np.exp(rng.uniform(*np.log(steps))))
    said = run(meter, t, v, i, 'recharge')
    yield energy(said, signal, t[0], t[-1], 'charge energy')
    full = signal.until(signal.full)[0]
    begin = signal.until(signal.start)[0]
    for share in ('50', '80', '100'):
        moment = signal.full if share == '100' else signal.moment_of(begin + int(share) / 100 * (full - begin))
        yield (f'time to {share} %', said['time_to_s'][share], said['time_to_u_s'][share], moment - signal.start)


def port(run, rng):
    """Referred along a cable of known doubt."""
    u = rng.uniform(0.005, 0.02)
    true = rng.uniform(0.06, 0.25)
    stated = true + rng.uniform(-u, u) * np.sqrt(3) / 2  # the ± is two standard uncertainties
    signal = b.drain(rng, some_load(rng))
    meter = Meter(rng)
    t, v, i = meter.sample(signal, rng.uniform(0.5, 3))
    at = signal.between(t[0], t[-1])
    # The meter sits behind the cable: what it reads is the port's volts less the drop.
    gv, ov, gi, oi = meter.errors
    vp, ip = signal.read(t)
    v = np.round(((vp - true * ip) * (1 + gv) + ov) / meter.digits[0]) * meter.digits[0]
    said = run(meter, t, v, i, 'drain', '--path-ohms', f'{stated:.6f}+-{u:.6f}')
    yield ('port energy', said['energy_at_port_wh'], said['energy_at_port_u_wh'], at[0])


def two_meters(run, rng, noisy=False):
    """A cable between two meters."""
    ohms = rng.uniform(0.05, 0.3)
    digits = tuple(rng.choice([[1e-3, 1e-3], [1e-2, 1e-2], [1e-4, 1e-4]]))
    noise = (digits[0] * rng.uniform(0.3, 3), 0.001) if noisy else (0.0, 0.0)
    levels = [amps_for(rng) for _ in range(4)]
    load = b.stepped(rng, levels, 300) if rng.random() < 0.6 else b.steady(amps_for(rng))
    signal = b.drain(rng, load, hours_at_most=2)
    near, far = Meter(rng, digits=digits, noise=noise), Meter(rng, digits=digits, noise=noise)
    step = rng.uniform(1, 4)
    t, v, i = near.sample(signal, step)
    vt, it = signal.read(t)
    gv, ov, gi, oi = far.errors
    vf = (vt - ohms * it) * (1 + gv) + ov + rng.normal(0, noise[0], len(t))
    fi = it * (1 + gi) + oi + rng.normal(0, noise[1], len(t))
    said = run.two(near, far, t, v, i, np.round(vf / digits[0]) * digits[0], np.round(fi / digits[1]) * digits[1])
    if said:
        yield ('two-meter resistance' + (', noise' if noisy else ''), said[0], said[1], ohms)


def gaps(where):
    def group(run, rng):
        length = rng.uniform(60, 600)
        if where == 'taper':
            signal = b.recharge(rng)
            kind = 'recharge'
        else:
            level = amps_for(rng)
            if where == 'steady':
                load = b.steady(level)
            elif where == 'pulses':
                load = b.pulsed(rng, level, 0.1, rng.uniform(5, 60), 'exponential')
            else:
                load = b.stepped(rng, [level, 0.4 * level], rng.uniform(1500, 2500))
            signal = b.drain(rng, load, hours_at_most=3)
            kind = 'drain'
        meter = Meter(rng, volts=(0.0001, 0.0005), amps=(0.0001, 0.0005), noise=(0.0005, 0.001))
        t, v, i = meter.sample(signal, rng.uniform(0.5, 2))
        first, last = t[0], t[-1]
        if where == 'change':
            changes = [p[0] for p, q in zip(signal.table[1:], signal.table[:-1]) if abs(p[2] - q[2]) > 0.1 and 700 < p[0] < signal.end - 700]
            if not changes:
                return
            at = rng.choice(changes) - rng.uniform(0, length)
        elif where == 'taper':
            at = rng.uniform(0.55, 0.9) * signal.full
        else:
            at = rng.uniform(100, max(101, signal.end - 800 - length))
        keep = (t < at) | (t > at + length)
        said = run(meter, t[keep], v[keep], i[keep], kind)
        yield energy(said, signal, first, last, 'gap, ' + where)
    return group


GROUPS = {
    'steps to 2 s': quick, 'steps 10 to 60 s': slow,
    'pulses, step 0.05 of a burst': pulses(0.05), 'pulses, 0.2': pulses(0.2), 'pulses, 1': pulses(1.0), 'pulses, 5': pulses(5.0),
    'coarse digits': coarse, 'charge': charge, 'port': port, 'two meters': two_meters, 'two meters, noise': lambda run, rng: two_meters(run, rng, noisy=True),
    'gap in a steady stretch': gaps('steady'), 'gap over a change': gaps('change'), 'gap in a taper': gaps('taper'), 'gap among pulses': gaps('pulses'),
}
