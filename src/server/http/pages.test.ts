import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { isViewAddress, VIEWS } from '../../contract/views.ts';
import { useServer } from '../../../tests/support/server.ts';
import { pages } from './pages.ts';

const root = mkdtempSync(path.join(tmpdir(), 'marmot-pages-'));
mkdirSync(path.join(root, 'assets'));
writeFileSync(path.join(root, 'index.html'), '<!doctype html><p>__STYLE_NONCE__</p>');
writeFileSync(path.join(root, 'assets/app-1a2b.js'), 'export {}');
writeFileSync(path.join(root, 'favicon.ico'), 'icon');
writeFileSync(path.join(root, '.hidden.txt'), 'secret');
afterAll(() => rmSync(root, { recursive: true }));

const server = useServer({ pages: pages(root, isViewAddress), works: false });
const get = (address: string) => server.anonymous().get<string>(address);

describe('the built interface', () => {
  it('is one page at the address of every view', async () => {
    for (const view of VIEWS) {
      const answer = await get(view.replace(':id', '17'));
      expect([view, answer.status]).toEqual([view, 200]);
      expect(answer.body).toContain('<!doctype html>');
      expect(answer.body).not.toContain('__STYLE_NONCE__');
    }
  });

  it.each(['/nowhere', '/calendar/nowhere', '/places/1', '/events', '/plan/plan/plan'])(
    'is told as not found at %s, though the page says so itself',
    async (address) => {
      const answer = await get(address);
      expect(answer.status).toBe(404);
      expect(answer.body).toContain('<!doctype html>');
    },
  );

  it('keeps files with a hash in their name for good, and ships an icon', async () => {
    const script = await get('/assets/app-1a2b.js');
    expect(script.status).toBe(200);
    expect(script.headers.get('cache-control')).toMatch(/immutable/);
    expect((await get('/favicon.ico')).status).toBe(200);
  });

  it.each([
    '/assets/gone.js',
    '/gone.ico',
    '/assets/',
    '/assets/%00.js',
    '/assets/%E0%A4%A.js',
    '/assets/..%2f..%2fpackage.json',
    '/.hidden.txt',
    '/..%2f..%2fetc%2fpasswd.txt',
  ])('answers that there is no file %s, and logs no failure', async (address) => {
    const answer = await get(address);
    expect(answer.status).toBe(404);
    expect(answer.body).not.toContain('secret');
  });
});
