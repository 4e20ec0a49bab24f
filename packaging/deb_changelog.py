#!/usr/bin/env python3
"""Prints CHANGELOG.md as Debian's changelog. Sections are "## VERSION, YYYY-MM-DD" with a list of lines that begin with "- "."""
import datetime
import email.utils
import re
import sys
import textwrap

MAINTAINER = "Otterstone Founders <founders@otterstone.invalid>"

section = None
lines = open(sys.argv[1], encoding="utf-8").read().splitlines()
# Of several on one day, the newest stands first: each is an hour later than the one below it.
days = [m.group(1) for m in (re.fullmatch(r"## \S+, (\d{4}-\d\d-\d\d)", line) for line in lines) if m]
for line in lines + ["## end, 1970-01-01"]:
    head = re.fullmatch(r"## (\S+), (\d{4}-\d\d-\d\d)", line)
    if head:
        if section:
            version, day, items = section
            print(f"otterstone ({version}) unstable; urgency=medium\n")
            for item in items:
                print(textwrap.fill(item, 78, initial_indent="  * ", subsequent_indent="    "))
            days.pop(0)
            moment = datetime.datetime.fromisoformat(day + "T12:00:00+00:00") + datetime.timedelta(hours=days.count(day))
            print(f"\n -- {MAINTAINER}  {email.utils.format_datetime(moment)}\n")
        section = (head.group(1), head.group(2), [])
    elif section and line.startswith("- "):
        section[2].append(line[2:])
    elif section and line.startswith("  ") and section[2]:
        section[2][-1] += " " + line.strip()
