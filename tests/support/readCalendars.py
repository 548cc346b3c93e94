"""Reads iCalendar texts with Debian's python3-icalendar, which knows nothing of Marmot.

Standard input: a JSON list of texts. Standard output: a JSON list, for each text what it says,
or {"error": …} where it cannot be read.
"""

import json
import sys
from datetime import date, datetime, timezone

from icalendar import Calendar


def instant(value, zones):
    """ISO 8601 in UTC; of a date the date itself."""
    if value is None:
        return None
    at = value.dt
    if not isinstance(at, datetime):
        return at.isoformat()
    name = value.params.get("TZID")
    if name is not None and name in zones:
        # The calendar's own explanation of the zone counts, not the one this machine has.
        at = zones[name].localize(at.replace(tzinfo=None))
    if at.tzinfo is None:
        return "floating " + at.isoformat()
    return at.astimezone(timezone.utc).strftime("%Y-%m-%dT%H:%M:%SZ")


def text(component, name):
    value = component.get(name)
    return None if value is None else str(value)


def people(component):
    found = component.get("ATTENDEE", [])
    found = found if isinstance(found, list) else [found]
    return [
        {"uri": str(one), **{key: str(one.params[key]) for key in one.params}} for one in found
    ]


def excluded(component, zones):
    found = component.get("EXDATE", [])
    found = found if isinstance(found, list) else [found]
    return [instant(at, zones) for one in found for at in with_zone(one)]


def with_zone(dates):
    for one in dates.dts:
        one.params.update(dates.params)
        yield one


def reading(source):
    try:
        calendar = Calendar.from_ical(source)
        zones = {}
        for one in calendar.walk("VTIMEZONE"):
            zones[str(one["TZID"])] = one.to_tz()
        broken = [str(error) for part in calendar.walk() for error in part.errors]
        if broken:
            return {"error": "; ".join(broken)}
        events = []
        for event in calendar.walk("VEVENT"):
            rule = event.get("RRULE")
            events.append(
                {
                    "uid": text(event, "UID"),
                    "sequence": int(event.get("SEQUENCE", 0)),
                    "stamp": instant(event.get("DTSTAMP"), zones),
                    "start": instant(event.get("DTSTART"), zones),
                    "end": instant(event.get("DTEND"), zones),
                    "occurrence": instant(event.get("RECURRENCE-ID"), zones),
                    "rule": None if rule is None else rule.to_ical().decode(),
                    "except": excluded(event, zones),
                    "summary": text(event, "SUMMARY"),
                    "location": text(event, "LOCATION"),
                    "description": text(event, "DESCRIPTION"),
                    "status": text(event, "STATUS"),
                    "transp": text(event, "TRANSP"),
                    "class": text(event, "CLASS"),
                    "organizer": text(event, "ORGANIZER"),
                    "attendees": people(event),
                }
            )
        return {"method": text(calendar, "METHOD"), "events": events, "zones": sorted(zones)}
    except Exception as error:  # Whatever it is, the test is to see it.
        return {"error": f"{type(error).__name__}: {error}"}


json.dump([reading(source) for source in json.load(sys.stdin)], sys.stdout)
