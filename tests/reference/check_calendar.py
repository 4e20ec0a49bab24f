#!/usr/bin/env python3
"""A campaign of the demo book as a calendar, read by a parser that is not ours (python3-icalendar): one event a moment
that wants hands, alarms, and names that stay when the plan is made anew.  Usage: check_calendar.py OTTERSTONE-CLI"""
import json
import pathlib
import subprocess
import sys
import tempfile

from icalendar import Calendar


def run(*arguments):
    return subprocess.run(arguments, check=True, capture_output=True).stdout


def plan(cli, book, begins, ics, more=()):
    out = run(cli, "plan", book, "--from", begins, "--hours", "daily 8-22", "--unattended", "stop", "--seconds", "2",
              "--json", "--ics", str(ics), *more)
    return json.loads(out), Calendar.from_ical(ics.read_bytes())


def main():
    cli = sys.argv[1]
    with tempfile.TemporaryDirectory() as folder:
        folder = pathlib.Path(folder)
        book = str(folder / "demo.otterstone")
        run(cli, "demo", book)
        told, calendar = plan(cli, book, "2026-09-07T09:00:00", folder / "a.ics")
        events = [e for e in calendar.walk("VEVENT")]
        wanted = sorted((h["from"], j["id"]) for j in told["jobs"] for h in j["hands"])
        got = sorted((e.decoded("DTSTART").isoformat(), str(e["SUMMARY"])) for e in events)
        assert wanted and len(wanted) == len(got), (len(wanted), len(got))
        for (moment, job), (start, summary) in zip(wanted, got):
            assert moment[:19] == start[:19] and summary.startswith(job), (moment, job, start, summary)
        assert all(e.walk("VALARM") for e in events)
        names = [str(e["UID"]) for e in events]
        assert len(set(names)) == len(names)
        # A day later, with another search: the jobs that stand in both keep their names.
        later, again = plan(cli, book, "2026-09-08T10:00:00", folder / "b.ics", ("--bank", told["jobs"][0]["bank"]))
        kept = {str(e["UID"]) for e in again.walk("VEVENT")}
        first = {j["id"] for j in later["jobs"] if not j["as_needed"]}
        assert first and kept & set(names), "names stay"
        of_first_bank = {str(e["UID"]) for e in events if str(e["SUMMARY"]).rsplit(": ", 1)[0] in first}
        assert of_first_bank <= kept, of_first_bank - kept
        raw = (folder / "a.ics").read_bytes()
        assert all(len(line) <= 75 for line in raw.split(b"\r\n"))
        print(f"{len(events)} events")


main()
