import { automaticSettings, type ClipSettings, InputError, insteadOf, parseSettings, stationIds } from '@tambur/core';

type Wishes = Record<string, Record<string, unknown>>;

const settingValue = (text: string): unknown =>
  text === 'true'
    ? true
    : text === 'false'
      ? false
      : text !== '' && Number.isFinite(Number(text))
        ? Number(text)
        : text;

/** `--set rate.sampleRate=11025`, `--set ends.fadeOut.ms=20` as entries of the settings; lists have commas. */
export function readAssignments(assignments: readonly string[]): Wishes {
  const wishes: Wishes = {};
  for (const assignment of assignments) {
    const match = /^(\w+(?:\.\w+)+)=(.*)$/s.exec(assignment);
    if (!match) {
      throw new InputError('bad-setting', `--set ${assignment} is not a setting; write it as station.key=value.`);
    }
    const [, place = '', text = ''] = match;
    const keys = place.split('.');
    const last = keys.pop() ?? '';
    let entry: Record<string, unknown> = wishes;
    for (const key of keys) {
      const inner = Object.hasOwn(entry, key) ? entry[key] : {};
      entry[key] = typeof inner === 'object' && inner !== null ? inner : {};
      entry = entry[key] as Record<string, unknown>;
    }
    entry[last] = last === 'weights' ? text.split(',').map(settingValue) : settingValue(text);
  }
  return wishes;
}

/** A wish as `station.key=value` entries. */
export function assignmentsOf(place: string, value: unknown): string[] {
  if (Array.isArray(value)) return [`${place}=${value.join(',')}`];
  if (typeof value === 'object' && value !== null) {
    return Object.entries(value).flatMap(([key, entry]) => assignmentsOf(`${place}.${key}`, entry));
  }
  return [`${place}=${value}`];
}

/**
 * Settings of a clip from what was given to `--set`.
 * @throws InputError with code `bad-setting`
 */
export function settingsFrom(name: string, assignments: readonly string[]): ClipSettings {
  const wishes = readAssignments(assignments);
  const unknown = Object.keys(wishes).find((station) => !(station in automaticSettings(name)));
  if (unknown !== undefined) {
    throw new InputError('bad-setting', `--set ${unknown}: there is no such station${insteadOf(unknown, stationIds)}.`);
  }
  return parseSettings({ name, ...wishes });
}
