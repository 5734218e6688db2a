#!/usr/bin/env python3
"""Verifies an export of the history of Brenvic. It needs nothing but Python 3.

    verify-history.py history.jsonl [--head FILE]
    verify-history.py history.csv   [--head FILE]

Each entry has a hash, the SHA-256 of these lines, joined with a line feed:

    the hash of the entry before it ("brenvic" for the first of all)
    the time of the entry
    the number of who did it; empty for none, and for the act "viewed", whose reader the sum below covers
    the act
    the number of the document; empty for none
    the SHA-256 of what the entry says ("detail"); in entries without "detail_sum" what it says itself

So nothing can be changed, taken out or put in without all later hashes being others. What an entry says may be empty though
"detail_sum" is not: the document was destroyed since, or it was forgotten who read it. Of an entry that was withheld only
the hash is there; the chain goes over it.

--head FILE holds a head that was given out on some day ("entry 123", "hash abc…"): the entry has to be there with this hash.
The exit code is 0 when all holds, 1 when something does not, 2 when the file cannot be read.
"""

import csv
import hashlib
import json
import sys


def entries(path):
    with open(path, encoding="utf-8", newline="") as file:
        if path.endswith(".csv"):
            for row in csv.DictReader(file):
                yield {key: (None if value == "" and key in ("user", "document", "detail_sum") else value) for key, value in row.items()}
        else:
            for line in file:
                if line.strip():
                    yield json.loads(line)


def text(value):
    return "" if value is None else str(value)


def expected(before, entry):
    said = entry["detail_sum"] if entry["detail_sum"] else text(entry["detail"])
    user = "" if entry["act"] == "viewed" and entry["detail_sum"] else text(entry["user"])
    lines = [before, entry["at"], user, entry["act"], text(entry["document"]), said]
    return hashlib.sha256("\n".join(lines).encode("utf-8")).hexdigest()


def main(arguments):
    if not arguments or arguments[0] in ("-h", "--help"):
        print(__doc__)
        return 2
    head = {}
    if "--head" in arguments:
        with open(arguments[arguments.index("--head") + 1], encoding="utf-8") as file:
            head = dict(line.split(None, 1) for line in file.read().splitlines() if " " in line)
    before, count, withheld, emptied, met = None, 0, 0, 0, not head
    for entry in entries(arguments[0]):
        count += 1
        number = int(entry["entry"])
        if before is None and number == 1:
            before = "brenvic"
        if str(entry["withheld"]).lower() in ("true", "1"):
            withheld += 1
        elif before is not None:
            if expected(before, entry) != entry["hash"]:
                print(f"Entry {number} does not hold: it, or what was before it, was changed.")
                return 1
            if entry["detail_sum"] and text(entry["detail"]) == "":
                emptied += 1
            elif entry["detail_sum"] and hashlib.sha256(text(entry["detail"]).encode("utf-8")).hexdigest() != entry["detail_sum"]:
                print(f"Entry {number} says something else than it said.")
                return 1
        before = entry["hash"]
        if head and number == int(head["entry"]):
            met = entry["hash"] == head["hash"]
            if not met:
                print(f"Entry {number} has another hash than was given out on {head.get('given', 'that day')}: the past was rewritten.")
                return 1
    if not met:
        print(f"Entry {head['entry']}, which was given out, is not in this export.")
        return 1
    print(f"{count} entries hold; {emptied} say nothing any more, {withheld} were withheld.")
    return 0


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except (OSError, ValueError, KeyError) as fault:
        print(f"The file cannot be read: {fault}")
        sys.exit(2)
