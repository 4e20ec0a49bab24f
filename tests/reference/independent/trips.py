"""Round trips: a recharge and a drain of one bank, by one meter at unlike loads or by two, through a book.

All banks go into one book; then each is asked for. Yields (case, z).
"""
import json

import numpy as np

import bank as b
from meter import Meter


def gear(number, name, meter):
    accuracy = lambda limits: {'gain': limits[0], 'offset': limits[1], 'digits': 0.0}
    return {'id': number, 'kind': 'meter', 'name': name, 'accuracy': meter.option()}


def round_trips(run, rng, runs):
    folder = run.folder / 'bundle'
    (folder / 'traces').mkdir(parents=True)
    book = {'format': 'otterstone-bundle', 'version': 1, 'banks': [], 'gear': [], 'runs': [], 'house': {}, 'choices': {}}
    truths = {}
    for number in range(1, runs + 1):
        two = number % 2 == 0
        meter = Meter(rng, volts=(0.002, 0.002), amps=(0.004, 0.003), digits=(1e-3, 1e-3))
        other = Meter(rng, volts=(0.002, 0.002), amps=(0.004, 0.003), digits=(1e-3, 1e-3)) if two else meter
        book['gear'].append(gear(2 * number, f'Meter {number}', meter))
        if two:
            book['gear'].append(gear(2 * number + 1, f'Other meter {number}', other))
        filled, drained = b.recharge(rng), b.drain(rng, b.steady(rng.choice([0.5, 1.0])))
        name = f'Bank {number}'
        book['banks'].append({'id': number, 'name': name, 'notes': '', 'label': {'energy_wh': 30.0, 'ports': []}})
        meter.elsewhere()
        for k, (kind, signal, by, of) in enumerate((('recharge', filled, meter, 2 * number), ('drain', drained, other, 2 * number + two))):
            if kind == 'drain':
                by.elsewhere()
            t, v, i = by.sample(signal, rng.uniform(2, 4))
            run_id = 2 * number + k
            file = f'traces/{run_id}-meter.csv'
            by.write(folder / file, t, v, i)
            book['runs'].append({'id': run_id, 'bank': number, 'kind': kind, 'title': kind, 'point': 'meter', 'meter': of, 'log_name': '', 'notes': '', 'marks': [], 'also': [],
                                 'started_at': f'2026-05-{1 + k:02d}T08:00:00+00:00', 'settling': False, 'skipped_lines': 0, 'log_warnings': [],
                                 'traces': [{'file': file, 'point': 'meter', 'samples': len(t), 'volts_step': by.digits[0], 'amps_step': by.digits[1]}]})
            if kind == 'recharge':
                into = (signal.until(signal.full)[0] - signal.until(signal.start)[0]) / 3600.0
            else:
                out = signal.between(t[0], t[-1])[0]
        truths[name] = ('round trip, two meters' if two else 'round trip, one meter', out / into)
    (folder / 'book.json').write_text(json.dumps(book))
    import subprocess
    book_file = run.folder / 'trips.otterstone'
    subprocess.run([run.cli, 'import', folder, book_file], check=True, capture_output=True)
    for name, (case, true) in truths.items():
        said = run.ask('bank', book_file, '--bank', name, '--json')
        trip = next(f for f in said['pairs'][0]['figures'] if f['key'] == 'round_trip')
        yield case, (trip['value'] - true) / (trip['u'] / 2 if trip['u'] else np.inf)
