/** Somebody named in a pasted list: `Jon Skau <jon@skau.example>` or the address alone. */
export interface Address {
  name: string;
  email: string;
}

const EMAIL = /^[^\s@<>,;"]+@[^\s@<>,;"]+\.[^\s@<>,;".]+$/;

/**
 * Reads addresses as people paste them: one a line, or parted by commas or semicolons, with or
 * without names before them, quoted or not.
 * @returns those found, each once, and the parts that name no address
 */
export function readAddressList(text: string): { found: Address[]; unreadable: string[] } {
  const found = new Map<string, Address>();
  const unreadable: string[] = [];
  for (const part of partsOf(text)) {
    const bracketed = /^(.*?)<\s*([^<>]+?)\s*>$/.exec(part);
    const email = (bracketed?.[2] ?? part).replace(/^mailto:/i, '').trim();
    const name = (bracketed?.[1] ?? '')
      .trim()
      .replace(/^"(.*)"$/, '$1')
      .trim();
    if (!EMAIL.test(email)) unreadable.push(part);
    else if (!found.has(email.toLowerCase())) found.set(email.toLowerCase(), { name, email });
  }
  return { found: [...found.values()], unreadable };
}

/** Parts between commas, semicolons and line ends that do not stand in quotes. */
function partsOf(text: string): string[] {
  const parts = text.match(/(?:"[^"\n]*"|[^,;\n])+/g) ?? [];
  return parts.map((part) => part.trim()).filter(Boolean);
}
