import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';
import { expect, it } from 'vitest';

/** Where statements of SQL stand: queries of a capability, the store of events, and the ground itself. */
const HOME = /(^|\/)([a-z]\w*Q|q)ueries\.ts$|^events\/store\/|^db\//;
/** What is no statement of a capability, each with its reason. */
const APART: Record<string, string> = {
  'live/hub.ts': 'listens on a connection of its own, and proves that it hears',
};
const STATEMENT =
  /^\s*(with\s+\w+\s+as\b|select\s|insert\s+into\s|update\s+\w+\s|delete\s+from\s|set\s+local\s|listen\s|alter\s|create\s)/i;

const files = readdirSync('src/server', { recursive: true, encoding: 'utf8' })
  .map((file) => file.replaceAll('\\', '/'))
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'));

/** The lines on which a file holds a statement of SQL, by its text and not by what it imports. */
function statementsIn(file: string): number[] {
  const text = readFileSync(`src/server/${file}`, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const lines: number[] = [];
  const visit = (node: ts.Node) => {
    const written = ts.isTemplateExpression(node)
      ? node.head.text
      : ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)
        ? node.text
        : '';
    if (STATEMENT.test(written))
      lines.push(source.getLineAndCharacterOfPosition(node.getStart()).line + 1);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return lines;
}

it('SQL stands where statements belong, whatever a file is called by its imports', () => {
  const strays = files
    .filter((file) => !HOME.test(file) && !(file in APART))
    .flatMap((file) => statementsIn(file).map((line) => `${file}:${line}`));
  expect(strays).toEqual([]);
});

it('finds a statement where there is one, and names no file apart that holds none', () => {
  expect(statementsIn('events/store/read.ts').length).toBeGreaterThan(3);
  for (const file of Object.keys(APART)) expect(statementsIn(file)).not.toEqual([]);
});
