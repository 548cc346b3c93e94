import { LONGEST_RESULT_HEADER } from './limits.ts';

/**
 * By what the mail server that received a letter found it to be from the domain of its From: by DMARC, or by
 * DKIM or SPF for that very domain (RFC 8601, RFC 7489 section 3.1).
 * @param results values of Authentication-Results, the topmost first: the server's own stands above what came
 *   with the letter
 * @param server the name by which the receiving server signs what it found (authserv-id)
 * @param from the address that the letter says it is from, lower case
 * @returns the method that found it, as it is called; null where none did
 */
export function authenticOf(
  results: readonly string[],
  server: string,
  from: string,
): 'DMARC' | 'DKIM' | 'SPF' | null {
  const domain = from.slice(from.lastIndexOf('@') + 1);
  if (!domain) return null;
  const own = results.map(partsOf).find(([id]) => wordsOf(id)[0] === server.toLowerCase());
  const findings = (own ?? []).slice(1).flatMap((found) => {
    const [method = '', ...properties] = wordsOf(found);
    const value = (name: string) =>
      properties.find((one) => one.startsWith(`${name}=`))?.slice(name.length + 1) ?? '';
    if (method === 'dmarc=pass' && value('header.from') === domain) return ['DMARC' as const];
    if (method === 'dkim=pass') {
      const signer = value('header.d') || value('header.i').replace(/^.*@/, '');
      const isTheirs = signer === domain || (signer.includes('.') && domain.endsWith(`.${signer}`));
      return isTheirs ? ['DKIM' as const] : [];
    }
    const isSent = method === 'spf=pass' && value('smtp.mailfrom').replace(/^.*@/, '') === domain;
    return isSent ? ['SPF' as const] : [];
  });
  return findings[0] ?? null;
}

/** The parts of a header between semicolons, without comments. */
function partsOf(header: string): string[] {
  const text = header.slice(0, LONGEST_RESULT_HEADER).toLowerCase();
  let plain = '';
  let depth = 0;
  for (const character of text) {
    if (character === '(') depth++;
    else if (character === ')') depth = Math.max(0, depth - 1);
    else if (depth === 0) plain += character;
  }
  return plain.split(';');
}

const wordsOf = (text: string | undefined): string[] =>
  (text ?? '').split(/\s/).filter((word) => word !== '');
