import { addressKey, isMailAddress } from '../mailAddress.ts';

/** Somebody named in a pasted list: `Jon Skau <jon@skau.example>` or the address alone. */
export interface Address {
  name: string;
  email: string;
}

/** What a pasted list names. */
export interface ReadAddressList {
  /** Each once. */
  found: Address[];
  /** Parts that name no address. */
  unreadable: string[];
}

/**
 * Reads addresses as people paste them: one a line, or parted by commas or semicolons, with or
 * without names before them, quoted or not.
 */
export function readAddressList(text: string): ReadAddressList {
  const found = new Map<string, Address>();
  const unreadable: string[] = [];
  for (const part of partsOf(text)) {
    const { name, email } = addressIn(part);
    const key = addressKey(email);
    if (!isMailAddress(email)) unreadable.push(part);
    else if (!found.has(key)) found.set(key, { name, email });
  }
  return { found: [...found.values()], unreadable };
}

/** What stands in angle brackets at the end is the address, and a name before them; else all of it is. */
function addressIn(part: string): Address {
  const bracket = part.endsWith('>') ? part.lastIndexOf('<') : -1;
  const written = bracket < 0 ? part : part.slice(bracket + 1, -1);
  const name = bracket < 0 ? '' : part.slice(0, bracket).trim();
  const isQuoted = name.length > 1 && name.startsWith('"') && name.endsWith('"');
  return {
    name: isQuoted ? name.slice(1, -1).trim() : name,
    email: written
      .trim()
      .replace(/^mailto:/i, '')
      .trim(),
  };
}

/** Parts between commas, semicolons and line ends that do not stand in quotes; a line ends all quotes. */
function partsOf(text: string): string[] {
  return text.split('\n').flatMap((line) => {
    const parts: string[] = [];
    let begin = 0;
    for (let k = 0; k < line.length; k++) {
      const character = line[k];
      if (character === '"') {
        const end = line.indexOf('"', k + 1);
        // A quote that nothing ends is a character as any other; there is none behind it.
        if (end > 0) k = end;
      } else if (character === ',' || character === ';') {
        parts.push(line.slice(begin, k));
        begin = k + 1;
      }
    }
    return [...parts, line.slice(begin)].map((part) => part.trim()).filter(Boolean);
  });
}
