import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { RunOptions } from 'axe-core';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** A rule that a page breaks. */
export interface Hindrance {
  id: string;
  impact: string;
  /** What of the page breaks it, in HTML. */
  nodes: string[];
}

/**
 * What hinders those who do not see or point as others do, as axe finds it in the page as it is. Only what
 * breaks a rule is put together and sent, which is a fraction of what axe would tell.
 * @param within the part that is looked at
 * @param options which rules, as axe reads them
 */
export async function hindrances(
  page: Page,
  within = 'html',
  options: RunOptions = {},
): Promise<Hindrance[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  return page.evaluate(
    async ([selector, asked]) => {
      const { axe } = window as unknown as { axe: typeof import('axe-core') };
      const { violations } = await axe.run(selector, { ...asked, resultTypes: ['violations'] });
      return violations.map(({ id, impact, nodes }) => ({
        id,
        impact: impact ?? '',
        nodes: nodes.map((node) => node.html),
      }));
    },
    [within, options] as const,
  );
}

/** The same as one line for each rule that is broken. */
export const inLines = (found: readonly Hindrance[]): string[] =>
  found.map(({ id, nodes }) => `${id}: ${nodes.map((html) => html.slice(0, 140)).join(' | ')}`);

export const isGrave = ({ impact }: Hindrance): boolean =>
  impact === 'serious' || impact === 'critical';
