"""Composes invitations with Debian's python3-icalendar, which knows nothing of Marmot.

Standard output: a JSON list of {name, uid, calendar, expected}: what somebody who reads the standards would have in
their calendar of it. Times are written in many zones and kinds, as programs do.
"""

import json
from datetime import date, datetime, timedelta, timezone

import pytz
from icalendar import Calendar, Event, vCalAddress, vDuration, vRecur, vText

HOST = "sunniva@fjordworks.example"
LEILA = "leila.haddad@ternrock.example"
STAMP = datetime(2026, 11, 24, 8, 0, tzinfo=timezone.utc)
shapes = []


def address(email, **params):
    found = vCalAddress("MAILTO:" + email)
    for name, value in params.items():
        found.params[name.replace("_", "-")] = vText(value)
    return found


def shape(name, fill, expected, method="REQUEST", people=None):
    uid = f"py-{len(shapes)}@fjordworks.example"
    calendar = Calendar()
    calendar.add("prodid", "-//Somebody//Else//EN")
    calendar.add("version", "2.0")
    calendar.add("method", method)
    event = Event()
    event.add("uid", uid)
    event.add("dtstamp", STAMP)
    event.add("sequence", 0)
    event.add("summary", "Quay inspection")
    event.add("organizer", address(HOST, cn="Fjord, Sunniva"))
    for one in people or [address(LEILA, partstat="NEEDS-ACTION", rsvp="TRUE")]:
        event.add("attendee", one, encode=0)
    fill(event)
    calendar.add_component(event)
    shapes.append(
        {
            "name": name,
            "uid": uid,
            "calendar": calendar.to_ical().decode("utf-8"),
            "expected": expected,
        }
    )


ZONES = ["Europe/Oslo", "America/Halifax", "Australia/Hobart", "Africa/Nairobi", "Asia/Kolkata"]
STARTS = [datetime(2027, 1, 15, 9, 30), datetime(2027, 7, 15, 23, 45)]


def by_clock(zone, wall):
    return pytz.timezone(zone).localize(wall)


def iso(at):
    return at.astimezone(timezone.utc).strftime("%Y-%m-%dT%H:%MZ")


def timed(start, end=None, length=None, rule=None, without=()):
    def fill(event):
        event.add("dtstart", start)
        if end is not None:
            event.add("dtend", end)
        if length is not None:
            event.add("duration", vDuration(length))
        if rule is not None:
            event.add("rrule", vRecur(rule))
        for one in without:
            event.add("exdate", one)

    return fill


# Once, by every clock, with an end and with a length.
for zone in ZONES:
    for start in STARTS:
        at = by_clock(zone, start)
        # Added to the instant, not to the clock on the wall.
        end = (at.astimezone(timezone.utc) + timedelta(minutes=50)).astimezone(pytz.timezone(zone))
        shape(f"{zone} {start:%d.%m.} until", timed(at, end), {"starts": [iso(at)], "minutes": 50})
        shape(
            f"{zone} {start:%d.%m.} for",
            timed(at, length=timedelta(minutes=50)),
            {"starts": [iso(at)], "minutes": 50},
        )

# In UTC, and with an end by another clock.
shape(
    "UTC",
    timed(datetime(2027, 3, 1, 12, tzinfo=timezone.utc), datetime(2027, 3, 1, 13, tzinfo=timezone.utc)),
    {"starts": ["2027-03-01T12:00Z"], "minutes": 60},
)
shape(
    "two clocks",
    timed(
        by_clock("Europe/Oslo", datetime(2027, 3, 1, 12)),
        by_clock("Asia/Kolkata", datetime(2027, 3, 1, 17)),
    ),
    {"starts": ["2027-03-01T11:00Z"], "minutes": 30},
)

# Whole days.
for days in (1, 2, 7):
    first = date(2027, 5, 3)
    shape(
        f"{days} whole days",
        timed(first, first + timedelta(days=days)),
        {"days": ["2027-05-03"], "minutes": days * 1440},
    )

# Series, worked out here day by day and not by a rule.
for zone in ZONES:
    wall = datetime(2027, 3, 10, 9, 0)
    first = by_clock(zone, wall)

    def dates(step, count, zone=zone):
        # The same clock on the wall each time.
        return [by_clock(zone, wall + step * k) for k in range(count)]

    for name, rule, step, count in [
        ("daily", {"freq": "daily", "count": 6}, timedelta(days=1), 6),
        ("every third day", {"freq": "daily", "interval": 3, "count": 8}, timedelta(days=3), 8),
        ("weekly", {"freq": "weekly", "count": 5}, timedelta(days=7), 5),
        ("every second week", {"freq": "weekly", "interval": 2, "count": 4}, timedelta(days=14), 4),
    ]:
        all_dates = dates(step, count)
        shape(
            f"{zone} {name}",
            timed(first, first + timedelta(minutes=45), rule=rule),
            {"starts": [iso(one) for one in all_dates], "minutes": 45},
        )
        shape(
            f"{zone} {name} but two",
            timed(first, first + timedelta(minutes=45), rule=rule, without=(all_dates[1], all_dates[-1])),
            {
                "starts": [iso(one) for k, one in enumerate(all_dates) if k not in (1, count - 1)],
                "minutes": 45,
            },
        )

# Words in every script, long and with every sign that has a meaning.
for words in [
    "Søndre brygge; kl. 9, presis",
    "海洋調査会議",
    "Zażółć gęślą jaźń\\n",
    "a, b; c: \"d\" \\ e",
    "Long " * 40,
    "مراجعة الميناء",
    "🦭 seals",
]:
    start = datetime(2027, 4, 1, 8, tzinfo=timezone.utc)

    def fill(event, words=words, start=start):
        timed(start, start + timedelta(hours=1))(event)
        del event["summary"]
        event.add("summary", words)
        event.add("location", words)
        event.add("description", words)

    shape(f"words {words[:12]}", fill, {"starts": [iso(start)], "minutes": 60, "title": " ".join(words.split())})

# Who is asked, as what.
for role, kept in [("REQ-PARTICIPANT", "required"), ("OPT-PARTICIPANT", "optional"), ("CHAIR", "required")]:
    start = datetime(2027, 4, 2, 8, tzinfo=timezone.utc)
    shape(
        f"role {role}",
        timed(start, start + timedelta(hours=1)),
        {"starts": [iso(start)], "minutes": 60, "people": [f"{LEILA} {kept} needs-action"]},
        people=[address(LEILA, role=role, cn="Haddad, Leila")],
    )
for said, reply in [("ACCEPTED", "accepted"), ("TENTATIVE", "tentative"), ("DECLINED", "declined")]:
    start = datetime(2027, 4, 3, 8, tzinfo=timezone.utc)
    shape(
        f"told elsewhere {said}",
        timed(start, start + timedelta(hours=1)),
        {"starts": [iso(start)], "minutes": 60, "people": [f"{LEILA} required {reply}"]},
        people=[address(LEILA, partstat=said)],
    )
start = datetime(2027, 4, 4, 8, tzinfo=timezone.utc)
shape(
    "a room and a group",
    timed(start, start + timedelta(hours=1)),
    {"starts": [iso(start)], "minutes": 60, "people": [f"{LEILA} required needs-action", "all@fjordworks.example required needs-action"]},
    people=[
        address(LEILA),
        address("quay-room@fjordworks.example", cutype="ROOM", partstat="ACCEPTED"),
        address("all@fjordworks.example", cutype="GROUP"),
    ],
)

print(json.dumps(shapes))
