const BLOCK_ENDS = /<\/(p|h3|h4|li|blockquote|pre|ul|ol)>|<br ?\/?>|<hr ?\/?>/g;
const ENTITIES: Record<string, string> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
};

/** HTML of our few kinds of element as lines of plain text, for mail and calendar programs. */
export function plainText(html: string): string {
  const lines = html
    .replace(/<li>/g, '- ')
    .replace(/<a href="([^"]*)">([\s\S]*?)<\/a>/g, (_, href: string, text: string) =>
      href === text ? text : `${text} (${href})`,
    )
    .replace(BLOCK_ENDS, '\n')
    .replace(/<[^>]*>/g, '')
    .replace(/&(amp|lt|gt|quot);/g, (entity) => ENTITIES[entity]!);
  return lines.replace(/\n{3,}/g, '\n\n').trim();
}
