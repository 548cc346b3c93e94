"""The calendar of somebody who is invited, kept by Debian's python3-icalendar and python3-dateutil after RFC 5545 and
RFC 5546: it knows nothing of Marmot.

Standard input: a JSON list of lives, each {"letters": [text, …], "files": [text, …]}: what came by mail, in order, and
the files that the guest's pages give in the end. Standard output: for each {"letters": entries, "files": entries}, an
entry being {"uid", "start", "end", "title"} with instants in milliseconds.
"""

import json
import sys
from datetime import datetime, timedelta, timezone

import pytz
from dateutil.rrule import rrulestr
from icalendar import Calendar

HORIZON = datetime(2027, 12, 31)


def instant(at):
    return int(at.astimezone(timezone.utc).timestamp() * 1000)


def moment(event, name):
    found = event.get(name)
    return None if found is None else instant(found.dt)


def many(event, name):
    found = event.get(name, [])
    return found if isinstance(found, list) else [found]


def starts(event):
    """When something happens, in milliseconds: once, or by its rule without its exceptions."""
    begin = event["DTSTART"]
    rule = event.get("RRULE")
    if rule is None:
        return [instant(begin.dt)]
    clock = pytz.timezone(begin.params["TZID"])
    until = rule.get("UNTIL", [None])[0]
    text = ";".join(
        part for part in rule.to_ical().decode().split(";") if not part.startswith("UNTIL=")
    )
    walls = rrulestr(text, dtstart=begin.dt.replace(tzinfo=None))
    without = {instant(one.dt) for dates in many(event, "EXDATE") for one in dates.dts}
    found = []
    for wall in walls:
        if wall > HORIZON:
            break
        at = clock.localize(wall)
        if until is not None and at > until:
            break
        if instant(at) not in without:
            found.append(instant(at))
    return found


class Store:
    """What an attendee's calendar holds, by UID."""

    def __init__(self):
        self.kept = {}

    def receive(self, text):
        calendar = Calendar.from_ical(text)
        method = str(calendar.get("METHOD"))
        events = list(calendar.walk("VEVENT"))
        uid = str(events[0]["UID"])
        revision = (
            max(int(one.get("SEQUENCE", 0)) for one in events),
            instant(events[0]["DTSTAMP"].dt),
        )
        known = self.kept.get(uid)
        # RFC 5546 section 2.1.5: the higher SEQUENCE counts, and of the same the later DTSTAMP.
        if known is not None and revision < known["revision"]:
            return
        whole = [one for one in events if one.get("RECURRENCE-ID") is None]
        if method == "CANCEL" and whole:
            self.kept.pop(uid, None)
            return
        kept = known or {"whole": None, "alone": {}}
        kept["revision"] = revision
        if whole:
            kept["whole"] = whole[0]
            kept["alone"] = {}
        for one in events:
            if one.get("RECURRENCE-ID") is not None:
                kept["alone"][moment(one, "RECURRENCE-ID")] = None if method == "CANCEL" else one
        self.kept[uid] = kept

    def entries(self):
        found = []
        for uid, kept in self.kept.items():
            def entry(event, start):
                length = moment(event, "DTEND") - moment(event, "DTSTART")
                title = str(event.get("SUMMARY", ""))
                return {"uid": uid, "start": start, "end": start + length, "title": title}

            if kept["whole"] is not None:
                found += [
                    entry(kept["whole"], start)
                    for start in starts(kept["whole"])
                    if start not in kept["alone"]
                ]
            found += [
                entry(one, moment(one, "DTSTART")) for one in kept["alone"].values() if one is not None
            ]
        return sorted(found, key=lambda one: (one["start"], one["uid"]))


def after(letters):
    store = Store()
    for text in letters:
        store.receive(text)
    return store.entries()


lives = json.load(sys.stdin)
print(
    json.dumps(
        [
            {
                "letters": after(one["letters"]),
                "files": after(one["files"]),
            }
            for one in lives
        ]
    )
)
