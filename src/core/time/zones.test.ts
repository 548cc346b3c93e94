import { expect, it } from 'vitest';
import { isReadableZone, resolveWallTime, wallTimeAt } from './wall.ts';
import { isZone, zoneCalled, ZONES } from './zones.ts';

it('every zone that can be chosen can be reckoned with, and stands once', () => {
  expect(ZONES.filter((zone) => !isReadableZone(zone))).toEqual([]);
  expect(new Set(ZONES).size).toBe(ZONES.length);
  for (const zone of ZONES) {
    const { instant } = resolveWallTime('2026-07-01T12:00', zone);
    expect(wallTimeAt(instant, zone)).toBe('2026-07-01T12:00');
  }
});

it('holds zones by the names of the zone database, and no older ones', () => {
  const named = ['Asia/Kolkata', 'Europe/Kyiv', 'America/Argentina/Buenos_Aires', 'UTC'];
  expect(named.filter((zone) => !isZone(zone))).toEqual([]);
  const others = ['Asia/Calcutta', 'US/Pacific-New', 'EST', 'Etc/GMT+1', 'GMT', 'utc', '__proto__'];
  expect(others.filter(isZone)).toEqual([]);
});

it('a zone is known by older names that systems give it', () => {
  expect(zoneCalled('Europe/Oslo')).toBe('Europe/Oslo');
  expect(zoneCalled('Asia/Calcutta')).toBe('Asia/Kolkata');
  expect(zoneCalled('Etc/UTC')).toBe('UTC');
  expect(zoneCalled('Mars/Olympus')).toBe('UTC');
});
