import Papa from 'papaparse';

/** What a program for tables would read as a formula is text; its first character says so. */
const asText = (value: string): string => (/^[=+\-@\t\r]/.test(value) ? `'${value}` : value);

/** A line of CSV (RFC 4180), whose texts no program takes for formulas. */
export const csvLine = (cells: readonly (string | number)[]): string =>
  `${Papa.unparse([cells.map((one) => (typeof one === 'string' ? asText(one) : one))])}\r\n`;

/** A cell as it was before `csvLine` marked it as text. */
export const cellOf = (written: string): string => written.replace(/^'(?=[=+\-@\t\r])/, '');
