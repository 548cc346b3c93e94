import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { check } from 'recheck';
import ts from 'typescript';
import { expect, it } from 'vitest';

/*
 * No text is read by a pattern that backtracks: every pattern of the code is taken apart and run against
 * inputs that grow, made to be the worst for it, and its steps are counted. One whose steps grow faster than
 * its input is named here with such an input.
 */

interface Pattern {
  source: string;
  flags: string;
  where: string;
}

const ROOT = path.join(import.meta.dirname, '../..');
const FOLDERS = ['src', 'demo'];
const LONGEST_MS = 30_000;

function codeFiles(): string[] {
  return FOLDERS.flatMap((folder) =>
    readdirSync(path.join(ROOT, folder), { recursive: true, encoding: 'utf8' }).map((file) =>
      path.join(folder, file),
    ),
  ).filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file));
}

/** The text of a string that is put together of texts and constants of its file; null of any other. */
function textOf(node: ts.Expression, constants: ReadonlyMap<string, string>): string | null {
  if (ts.isStringLiteralLike(node)) return node.text;
  if (ts.isIdentifier(node)) return constants.get(node.text) ?? null;
  if (!ts.isTemplateExpression(node)) return null;
  const parts = node.templateSpans.map((span) => {
    const value = textOf(span.expression, constants);
    return value === null ? null : value + span.literal.text;
  });
  return parts.includes(null) ? null : node.head.text + parts.join('');
}

/** @returns the patterns of a file, and the places of those that are put together while it runs */
function patternsIn(file: string): { found: Pattern[]; unknown: string[] } {
  const text = readFileSync(path.join(ROOT, file), 'utf8');
  const kind = file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, kind);
  const constants = new Map<string, string>();
  const found: Pattern[] = [];
  const unknown: string[] = [];
  const visit = (node: ts.Node) => {
    const where = `${file}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
    if (ts.isVariableDeclaration(node) && ts.isIdentifier(node.name) && node.initializer) {
      const value = textOf(node.initializer, constants);
      if (value !== null) constants.set(node.name.text, value);
    }
    if (ts.isRegularExpressionLiteral(node)) {
      const end = node.text.lastIndexOf('/');
      found.push({ source: node.text.slice(1, end), flags: node.text.slice(end + 1), where });
    }
    if (
      (ts.isNewExpression(node) || ts.isCallExpression(node)) &&
      node.expression.getText() === 'RegExp'
    ) {
      const [pattern, flags] = node.arguments ?? [];
      const read = pattern && textOf(pattern, constants);
      const readFlags = flags ? textOf(flags, constants) : '';
      if (read === undefined || read === null || readFlags === null) unknown.push(where);
      else found.push({ source: read, flags: readFlags, where });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return { found, unknown };
}

it('every pattern of the code takes steps in step with what it reads', async () => {
  const files = codeFiles().map(patternsIn);
  const patterns = new Map(
    files.flatMap(({ found }) => found).map((one) => [`/${one.source}/${one.flags}`, one]),
  );
  expect(files.flatMap(({ unknown }) => unknown)).toEqual([]);
  // There are patterns, and those made of constants are among them.
  expect(patterns.size).toBeGreaterThan(100);
  expect([...patterns.keys()].some((one) => one.includes('noon|midday'))).toBe(true);
  const slow: string[] = [];
  for (const [text, { source, flags, where }] of patterns) {
    const found = await check(source, flags, { timeout: LONGEST_MS });
    if (found.status === 'safe') continue;
    const why =
      found.status === 'vulnerable'
        ? `${found.complexity.summary}, by ${found.attack.pattern.slice(0, 120)}`
        : found.error.kind;
    slow.push(`${where} ${text}: ${why}`);
  }
  expect(slow).toEqual([]);
}, 300_000);

it('and one that does not would be found', async () => {
  for (const pattern of ['^(a+)+$', '\\s+$', '^(.*?)<\\s*([^<>]+?)\\s*>$'])
    expect((await check(pattern, '')).status).toBe('vulnerable');
});
