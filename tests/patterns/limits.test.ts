import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { expect, it } from 'vitest';

/* What is bound stands in one place a capability, with its unit and its reason, and OPERATIONS lists it. */

const ROOT = path.join(import.meta.dirname, '../..');
const FOLDERS = ['src/server', 'src/contract'];
const HOME = /(^|\/)limits\.ts$/;
/** How what is bound is called. */
const BOUND =
  /^(MOST|LONGEST|LEAST|FEWEST)_|_(MS|BYTES|MB|SECONDS|MINUTES|HOURS|DAYS|MONTHS)$|AT_ONCE$/;
/** What is no bound: units of time. */
const UNIT = /^(SECOND|MINUTE|HOUR|DAY|WEEK|YEAR)_MS$/;

const files = FOLDERS.flatMap((folder) =>
  readdirSync(path.join(ROOT, folder), { recursive: true, encoding: 'utf8' }).map((file) =>
    path.join(folder, file),
  ),
)
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
  .sort();

interface Constant {
  name: string;
  doc: string;
}

const isNumber = (node: ts.Expression): boolean =>
  ts.isNumericLiteral(node) ||
  (ts.isIdentifier(node) && /^[A-Z][A-Z0-9_]*$/.test(node.text)) ||
  (ts.isParenthesizedExpression(node) && isNumber(node.expression)) ||
  (ts.isBinaryExpression(node) && isNumber(node.left) && isNumber(node.right));

/** The numbers that a file gives names. */
function constantsIn(file: string): Constant[] {
  const text = readFileSync(path.join(ROOT, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  return source.statements.filter(ts.isVariableStatement).flatMap((statement) => {
    const [declared] = statement.declarationList.declarations;
    if (!declared?.initializer || !ts.isIdentifier(declared.name)) return [];
    if (!isNumber(declared.initializer)) return [];
    const [comment] = ts.getJSDocCommentsAndTags(statement);
    const doc = comment && ts.isJSDoc(comment) ? ts.getTextOfJSDocComment(comment.comment) : '';
    return [{ name: declared.name.text, doc: (doc ?? '').replace(/\s+/g, ' ') }];
  });
}

const SHAPE = /^([A-Z][a-z -]+): ([^ ].*\.)$/;
const SCALES: Record<string, [size: number, unit: string][]> = {
  Milliseconds: [
    [86_400_000, 'days'],
    [3_600_000, 'h'],
    [60_000, 'min'],
    [1000, 's'],
    [1, 'ms'],
  ],
  Seconds: [
    [86_400, 'days'],
    [3600, 'h'],
    [60, 'min'],
    [1, 's'],
  ],
  Bytes: [
    [1024 * 1024, 'MB'],
    [1024, 'kB'],
    [1, 'bytes'],
  ],
  Megabytes: [[1, 'MB']],
};

/** A bound with its unit, as whoever runs a server reads it: `10 MB`, `48 h`, `500 rows`. */
function amount(value: number, unit: string): string {
  const scale = SCALES[unit]?.find(([size]) => value % size === 0);
  if (scale) return `${(value / scale[0]).toLocaleString('en-GB')} ${scale[1]}`;
  if (unit === 'Parts of one') return String(Math.round(value * 100) / 100);
  return `${value.toLocaleString('en-GB')} ${unit.toLowerCase()}`;
}

const capabilityOf = (file: string): string =>
  file.startsWith('src/contract')
    ? 'what is asked'
    : (file.split('/')[3] && file.split('/')[2]!) || 'the server';

async function limitsInWords(): Promise<string> {
  const rows: string[] = [];
  for (const file of files.filter((one) => HOME.test(one))) {
    const values = (await import(path.join(ROOT, file))) as Record<string, number>;
    for (const { name, doc } of constantsIn(file)) {
      const [, unit, reason] = SHAPE.exec(doc)!;
      rows.push(
        `| ${capabilityOf(file)} | ${amount(values[name]!, unit!)} | ${reason} | \`${name}\` |`,
      );
    }
  }
  return ['| of | bound | what, and why | in code |', '|---|---|---|---|', ...rows].join('\n');
}

it('every bound of the server stands among its capability’s limits', () => {
  const astray = files
    .filter((file) => !HOME.test(file))
    .flatMap((file) =>
      constantsIn(file).flatMap(({ name }) =>
        BOUND.test(name) && !UNIT.test(name) ? [`${file}: ${name}`] : [],
      ),
    );
  expect(astray).toEqual([]);
});

it('every limit says its unit and its reason', () => {
  const homes = files.filter((one) => HOME.test(one));
  expect(homes.length).toBeGreaterThan(20);
  const unsaid = homes.flatMap((file) =>
    constantsIn(file).flatMap(({ name, doc }) =>
      SHAPE.test(doc) ? [] : [`${file}: ${name} ${doc}`],
    ),
  );
  expect(unsaid).toEqual([]);
});

it('OPERATIONS lists them as they are', async () => {
  const file = path.join(ROOT, 'docs/OPERATIONS.md');
  const text = readFileSync(file, 'utf8');
  const listed = /<!-- prettier-ignore -->\n([\s\S]*?)\n\n<!-- end of limits -->/.exec(text);
  const words = await limitsInWords();
  if (process.env.MARMOT_WRITE_DOCS && listed) {
    writeFileSync(
      file,
      text.replace(listed[0], `<!-- prettier-ignore -->\n${words}\n\n<!-- end of limits -->`),
    );
    return;
  }
  expect(listed?.[1]).toBe(words);
});
