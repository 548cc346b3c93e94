import { fieldOf, type FieldName } from '../../../core/meetings/fields.ts';

/** The column of a field, of an event and of a date of its own: `shows_as` of `showsAs`. */
export const columnOf = (name: FieldName): string =>
  name.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

const typeOf = (name: FieldName): string => (fieldOf(name).kind === 'number' ? 'int' : 'text');

/** Columns of fields with their types, as a record of JSON is read: `title text, priority int`. */
export const columnsWithTypes = (names: readonly FieldName[]): string =>
  names.map((name) => `${columnOf(name)} ${typeOf(name)}`).join(', ');

/** Columns of a table by the names of their fields: `event.shows_as as "showsAs"`. */
export const selectedFields = (table: string, names: readonly FieldName[]): string =>
  names.map((name) => `${table}.${columnOf(name)} as "${name}"`).join(', ');

/** The same as the arguments of json_build_object. */
export const fieldsJson = (table: string, names: readonly FieldName[]): string =>
  names.map((name) => `'${name}', ${table}.${columnOf(name)}`).join(', ');

/** The values of fields by their columns. */
export const fieldsRow = <Name extends FieldName>(
  names: readonly Name[],
  values: { readonly [N in Name]: unknown },
): Record<string, unknown> =>
  Object.fromEntries(names.map((name) => [columnOf(name), values[name]]));
