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

/**
 * What programs that read style sheets are told besides: a dark look, and narrow screens. The styles of
 * the elements themselves are for the others, and light.
 */
const STYLES = `
:root{color-scheme:light dark;supported-color-schemes:light dark}
@media (prefers-color-scheme:dark){
.m-page{background:#141b19!important}.m-sheet{background:#1d2725!important}
.m-text,.m-text td,.m-text p,.m-text h1{color:#e9ece6!important}.m-text .m-name{color:#a9b4ae!important}
.m-main{background:#a9aef5!important;color:#141b19!important}
.m-way{color:#c3c7fb!important;border-color:#c3c7fb!important}.m-text a.m-link{color:#c3c7fb!important}}
@media (max-width:480px){
.m-page{padding:0!important}.m-sheet{padding:20px 16px!important;border-radius:0!important}
.m-facts tr,.m-facts td{display:block!important;padding:0!important}.m-facts td+td{padding-bottom:10px!important}
.m-way{margin-bottom:8px!important}}`;

const TEXT = 'font:15px/1.5 Georgia,serif;color:#1d2b28';

/** A letter as HTML, readable without its style sheet, which many mail programs drop. */
export function layOutLetter({
  title,
  opening,
  description,
  facts,
  link,
  answers = [],
}: Letter): string {
  // The description was cleaned when it was kept; everything else is text.
  const paragraphs = [...opening.map(escapeHtml), description].filter(Boolean);
  const rows = facts
    .map(
      ([name, value]) =>
        `<tr><td class="m-name" style="padding:4px 18px 4px 0;white-space:nowrap;color:#56635f;vertical-align:top">${escapeHtml(name)}</td>` +
        `<td style="padding:4px 0;overflow-wrap:anywhere">${escapeHtml(value)}</td></tr>`,
    )
    .join('');
  const ways = answers
    .map(
      ({ href, label }) =>
        `<a class="m-way" href="${escapeHtml(href)}" style="display:inline-block;border:1px solid #3f47b8;` +
        `color:#3f47b8;padding:9px 16px;margin-right:8px;border-radius:3px;text-decoration:none">${escapeHtml(label)}</a>`,
    )
    .join('');
  const action = link
    ? `<p style="margin:${ways ? 14 : 24}px 0 0"><a class="m-main" href="${escapeHtml(link.href)}" style="display:inline-block;background:#3f47b8;` +
      `color:#fff;padding:10px 18px;border-radius:3px;text-decoration:none">${escapeHtml(link.label)}</a></p>`
    : '';
  return (
    `<!doctype html><html lang="en"><head><meta charset="utf-8">` +
    `<meta name="viewport" content="width=device-width,initial-scale=1">` +
    `<meta name="color-scheme" content="light dark"><title>${escapeHtml(title)}</title>` +
    `<style>${STYLES}</style></head>` +
    `<body class="m-page" style="margin:0;padding:28px;background:#f5f2ea;${TEXT}">` +
    `<div class="m-sheet m-text" style="max-width:34em;background:#fdfcf8;padding:26px 30px;border-radius:3px;overflow-wrap:anywhere">` +
    `<h1 style="font-size:22px;line-height:1.25;margin:0 0 14px">${escapeHtml(title)}</h1>` +
    paragraphs.map((html) => `<p style="margin:0 0 12px">${html}</p>`).join('') +
    `<table class="m-facts" style="border-collapse:collapse;${TEXT}">${rows}</table>` +
    (ways ? `<p style="margin:24px 0 0">${ways}</p>` : '') +
    `${action}</div></body></html>`
  );
}
