import * as v from 'valibot';
import { expect, test } from 'vitest';
import { formFields, usualIn } from '../../forms/index.ts';
import { faces } from './list.ts';

test.each(faces.map((face) => [face.id, face] as const))('the face %s has a usual value for each of its fields', (_, {
  schema,
}) => {
  const usual = usualIn(schema);
  expect(formFields(schema).map(({ key }) => key)).toEqual(Object.keys(usual));
  expect(v.parse(schema, usual)).toEqual(usual);
  expect(v.parse(schema, {})).toEqual({});
  for (const key of Object.keys(usual)) {
    expect(v.safeParse(schema, { [key]: 1e9 }).success).toBe(false);
    expect(v.safeParse(schema, { [key]: -1 }).success).toBe(false);
  }
});
