import type { Letter } from './words.ts';

const ENTITIES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Text made safe inside HTML, its line breaks kept. */
const escapeHtml = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => ENTITIES[sign]!).replace(/\n/g, '<br>');

/** A letter as HTML; styles are inline because mail programs drop style sheets. */
export function layOutLetter({ title, opening, description, facts, link }: Letter): string {
  // The description was cleaned when it was kept; everything else is text.
  const paragraphs = [...opening.map(escapeHtml), description].filter(Boolean);
  const text = 'font:15px/1.5 Georgia,serif;color:#1d2b28';
  const rows = facts
    .map(
      ([name, value]) =>
        `<tr><td style="padding:4px 18px 4px 0;white-space:nowrap;color:#56635f;vertical-align:top">${escapeHtml(name)}</td>` +
        `<td style="padding:4px 0">${escapeHtml(value)}</td></tr>`,
    )
    .join('');
  const action = link
    ? `<p style="margin:24px 0 0"><a href="${escapeHtml(link.href)}" style="background:#3f47b8;` +
      `color:#fff;padding:10px 18px;border-radius:3px;text-decoration:none">${escapeHtml(link.label)}</a></p>`
    : '';
  return (
    `<!doctype html><html lang="en"><body style="margin:0;padding:28px;background:#f5f2ea;${text}">` +
    `<div style="max-width:34em;background:#fdfcf8;padding:26px 30px;border-radius:3px">` +
    `<h1 style="font-size:22px;margin:0 0 14px">${escapeHtml(title)}</h1>` +
    paragraphs.map((html) => `<p style="margin:0 0 12px">${html}</p>`).join('') +
    `<table style="border-collapse:collapse;${text}">${rows}</table>${action}</div></body></html>`
  );
}
