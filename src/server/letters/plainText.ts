import { fieldOf, PROPERTY_FIELD_NAMES, type PropertyFields } from '../../core/meetings/fields.ts';

const BLOCK_ENDS = /<\/(p|h3|h4|li|blockquote|pre|ul|ol)>|<br ?\/?>|<hr ?\/?>/g;
const ENTITIES: Record<string, string> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
};

/** HTML of our few kinds of element as lines of plain text, for mail and calendar programs. */
export function asPlainText(html: string): string {
  const lines = linksAsText(html.replace(/<li>/g, '- '))
    .replace(BLOCK_ENDS, '\n')
    .replace(/<[^<>]*>/g, '')
    .replace(/&(amp|lt|gt|quot);/g, (entity) => ENTITIES[entity]!);
  return lines.replace(/\n{3,}/g, '\n\n').trim();
}

const [LINK, LINK_ENDS] = ['<a href="', '</a>'];

/** Links as their text, with the address behind it where it says something else. */
function linksAsText(html: string): string {
  let text = '';
  let at = 0;
  for (;;) {
    const begin = html.indexOf(LINK, at);
    const end = begin < 0 ? -1 : html.indexOf(LINK_ENDS, begin);
    if (end < 0) return text + html.slice(at);
    const [href, ...words] = html.slice(begin + LINK.length, end).split('">');
    const said = words.join('">');
    text += html.slice(at, begin) + (href === said ? said : `${said} (${href})`);
    at = end + LINK_ENDS.length;
  }
}

/** The fields that a message of iCalendar carries, HTML as plain text. */
export const plainFields = (from: PropertyFields): PropertyFields =>
  Object.fromEntries(
    PROPERTY_FIELD_NAMES.map((name) => [
      name,
      fieldOf(name).kind === 'rich' ? asPlainText(from[name] as string) : from[name],
    ]),
  ) as PropertyFields;
