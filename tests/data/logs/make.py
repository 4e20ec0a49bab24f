#!/usr/bin/env python3
"""Writes the small logs beside it: made-up readings in every dialect of docs/file-formats.md, and malformed ones.

Every good log holds the same eleven readings, one every 10 s: 5.00 V falling by 10 mV, 2 A; tests know them. Run it after a
change and commit what it writes.
"""
from pathlib import Path

here = Path(__file__).parent
rows = [(10 * k, 5.0 - 0.01 * k, 2.0) for k in range(11)]


def clock(s, start=0):
    s += start
    return f"{s // 3600}:{s // 60 % 60:02d}:{s % 60:02d}"


def text(header, line, end="\n", sep="\n"):
    return header + sep.join(line(t, v, i) for t, v, i in rows) + end


def comma(x):
    return x.replace(".", ",")


good = {
    "plain.csv": text("time_s,volts_v,amps_a\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}"),
    "milli_units.csv": text("Time(ms),Voltage [mV],Current(mA)\n", lambda t, v, i: f"{t * 1000},{v * 1000:.0f},{i * 1000:.0f}"),
    "semicolon_comma.csv": text("Zeit;Spannung;Strom\n", lambda t, v, i: comma(f"{t};{v:.3f};{i:.3f}")),
    "tab_decimal_comma.txt": text("Elapsed\tU(V)\tI(A)\n", lambda t, v, i: comma(f"{t}\t{v:.3f}\t{i:.3f}")),
    "spaces.txt": text("Time  Voltage  Current\n", lambda t, v, i: f"{t:6d}  {v:7.3f}  {i:7.3f}"),
    "spaces_wide_header.txt": text("Time (s)   Bus voltage (V)   Current (A)\n", lambda t, v, i: f"{t:6d}  {v:7.3f}  {i:7.3f}"),
    "bom.csv": "\ufeff" + text("Time,VBUS,IBUS\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}"),
    "crlf.csv": text("time_s,volts,amps\r\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}", "\r\n", "\r\n"),
    "no_final_newline.csv": text("time_s,volts,amps\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}", ""),
    "preamble.csv": "Meter: bench, made up\nStarted in the hut\n\n" + text("Elapsed [s],Voltage [V],Current [A]\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}"),
    "units_row.csv": text("Time;Voltage;Current\ns;mV;mA\n", lambda t, v, i: f"{t};{v * 1000:.0f};{i * 1000:.0f}"),
    "bracketed_units_row.csv": text("Time,Voltage,Current\n[s],[V],[mA]\n", lambda t, v, i: f"{t},{v:.3f},{i * 1000:.0f}"),
    "clock.csv": text("Time (h:m:s),Voltage/V,Current/A\n", lambda t, v, i: f"{clock(t)},{v:.3f},{i:.3f}"),
    "minute_clock.csv": text("Time,Voltage/V,Current/A\n", lambda t, v, i: f"{t // 60:02d}:{t % 60:02d},{v:.3f},{i:.3f}"),
    "past_midnight.csv": text("Time,Voltage/V,Current/A\n", lambda t, v, i: f"{clock((t + 86340) % 86400)},{v:.3f},{i:.3f}"),
    "iso.csv": text("Timestamp,Voltage(V),Current(A)\n", lambda t, v, i: f"2026-04-02T{clock(t, 36000)}.000,{v:.3f},{i:.3f}"),
    "iso_zone.csv": text("Timestamp,Voltage(V),Current(A)\n", lambda t, v, i: f"2026-04-02T{clock(t, 36000)}+02:00,{v:.3f},{i:.3f}"),
    "iso_space.csv": text("Datum Zeit;Spannung (V);Strom (A)\n", lambda t, v, i: comma(f"2026-04-02 {clock(t, 36000)};{v:.3f};{i:.3f}")),
    "dotted_date.csv": text("Zeitstempel;U[V];I[mA]\n", lambda t, v, i: f"02.04.2026 {clock(t, 36000)};" + comma(f"{v:.3f};{i * 1000:.0f}")),
    "date_and_time.csv": text("Date,Time,Voltage (V),Current (A)\n", lambda t, v, i: f"2026-04-02,{clock(t, 36000)},{v:.3f},{i:.3f}"),
    "epoch_s.csv": text("Timestamp,Voltage (V),Current (A)\n", lambda t, v, i: f"{1775124000 + t},{v:.3f},{i:.3f}"),
    "epoch_ms.csv": text("Timestamp,Voltage (V),Current (A)\n", lambda t, v, i: f"{(1775124000 + t) * 1000},{v:.3f},{i:.3f}"),
    "serial_days.csv": text("Time,Voltage (V),Current (A)\n", lambda t, v, i: f"{46114.5 + t / 86400:.9f},{v:.3f},{i:.3f}"),
    "quoted.csv": text('"time_s","Voltage [V]","Current [A]","Note"\n', lambda t, v, i: f'"{t}","{v:.3f}","{i:.3f}","a, ""b"""'),
    "quoted_decimal_comma.csv": text("time_s,Voltage [V],Current [A]\n", lambda t, v, i: f'{t},"{comma(f"{v:.3f}")}","{comma(f"{i:.3f}")}"'),
    "blank_and_repeated.csv": "time_s,volts,amps\n" + "\n".join(f"{t},{v:.3f},{i:.3f}\n{t},{v:.3f},{i:.3f}\n" for t, v, i in rows) + "\ntime_s,volts,amps\n\n",
    "nan_and_ol.csv": text("time_s,volts,amps\n", lambda t, v, i: f"{t},{v:.3f},{i:.3f}") + "110,NaN,2.0\n120,4.9,OL\n130,---,\n",
    "negative.csv": text("time_s,volts,amps\n", lambda t, v, i: f"{t},{v:.3f},{-i:.3f}"),
    "power_only.csv": text("Time (s),Power/W\n", lambda t, v, i: f"{t},{v * i:.4f}"),
    "volts_and_power.csv": text("Elapsed,VBUS (V),Power (W)\n", lambda t, v, i: f"{t},{v:.3f},{v * i:.4f}"),
    "many_columns.csv": text(
        "No.,Time(s),Voltage(V),Current(A),Power(W),D+(V),D-(V),Capacity(mAh),Energy(mWh),Temperature(F),Battery %\n",
        lambda t, v, i: f"{t // 10 + 1},{t},{v:.3f},{i:.3f},{v * i:.4f},2.7,2.7,{i * t / 3.6:.2f},{5 * i * t / 3.6:.2f},77.0,{100 - t // 2}",
    ),
    "bars.txt": text("Time|Voltage|Current\n", lambda t, v, i: f"{t}|{v:.3f}|{i:.3f}"),
    "minutes.csv": text("Time (min),Voltage (V),Current (A)\n", lambda t, v, i: f"{t / 60:.9f},{v:.3f},{i:.3f}"),
}
for name, content in good.items():
    (here / name).write_bytes(content.encode("utf-8"))
(here / "latin1.csv").write_bytes(
    text("Zeit [s];Spannung [V];Strom [A];Temperatur [°C]\n", lambda t, v, i: comma(f"{t};{v:.3f};{i:.3f};25.0")).encode("latin-1")
)
utf16 = text("time_s\tvolts\tamps\r\n", lambda t, v, i: f"{t}\t{v:.3f}\t{i:.3f}", "\r\n", "\r\n")
(here / "utf16le_bom.txt").write_bytes(b"\xff\xfe" + utf16.encode("utf-16-le"))
(here / "utf16be_bom.txt").write_bytes(b"\xfe\xff" + utf16.encode("utf-16-be"))
(here / "utf16le_bare.txt").write_bytes(utf16.encode("utf-16-le"))
(here / "old_line_ends.csv").write_bytes(text("time_s,volts,amps\r", lambda t, v, i: f"{t},{v:.3f},{i:.3f}", "\r", "\r").encode())

bad = here / "malformed"
bad.mkdir(exist_ok=True)
malformed = {
    "empty.csv": "",
    "blank.csv": "\n\n  \n",
    "prose.txt": "Dear diary,\ntoday the bank was warm.\nIt ran for a while.\n",
    "header_only.csv": "time_s,volts,amps\n",
    "one_row.csv": "time_s,volts,amps\n0,5,2\n",
    "no_header.csv": text("", lambda t, v, i: f"{t},{v:.3f},{i:.3f}"),
    "no_time.csv": text("Voltage,Current\n", lambda t, v, i: f"{v:.3f},{i:.3f}"),
    "no_volts.csv": text("time_s,amps,temp\n", lambda t, v, i: f"{t},{i:.3f},25"),
    "no_amps.csv": text("time_s,volts,temp\n", lambda t, v, i: f"{t},{v:.3f},25"),
    "slash_dates.csv": text("Timestamp,volts,amps\n", lambda t, v, i: f"03/04/2026 {clock(t, 36000)},{v:.3f},{i:.3f}"),
    "time_is_words.csv": "time,volts,amps,n\n" + "".join(f"soon,5.0,2.0,{k}\n" for k in range(12)),
    "all_nan.csv": text("time_s,volts,amps\n", lambda t, v, i: f"{t},NaN,{i:.3f}"),
    "stands_still.csv": "time_s,volts,amps\n" + "".join(f"7,5.0{k},2.0\n" for k in range(10)),
    "shuffled.csv": "time_s,volts,amps\n" + "".join(f"{(k * 37) % 100},5.0,2.0\n" for k in range(100)),
    "back_too_soon.csv": "time_s,volts,amps\n0,5,2\n10,5,2\n5,5,2\n15,5,2\n",
    "only_data_lines.csv": text("time_s,D+ volts,D- volts\n", lambda t, v, i: f"{t},2.7,2.7"),
}
for name, content in malformed.items():
    (bad / name).write_bytes(content.encode("utf-8"))
(bad / "picture.csv").write_bytes(b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 4)
(bad / "half_utf16.csv").write_bytes(b"\xff\xfe" + b"t\x00\x00\xd8i\x00")
