import {
  FIELD_NAMES,
  fieldOf,
  type FieldName,
  type MeetingFields,
} from '../../core/meetings/fields.ts';
import sanitizeHtml from 'sanitize-html';

const ALLOWED: sanitizeHtml.IOptions = {
  allowedTags: [
    'p',
    'br',
    'strong',
    'em',
    's',
    'u',
    'code',
    'pre',
    'blockquote',
    'h3',
    'h4',
    'ul',
    'ol',
    'li',
    'a',
    'hr',
  ],
  allowedAttributes: { a: ['href'], ol: ['start'] },
  allowedSchemes: ['http', 'https', 'mailto', 'tel'],
  allowProtocolRelative: false,
  transformTags: {
    b: 'strong',
    i: 'em',
    h1: 'h3',
    h2: 'h3',
    // Links lead away, and tell nobody where from.
    a: (tagName, attribs) => ({
      tagName,
      attribs: { ...(attribs.href && { href: attribs.href }) },
    }),
  },
};

/** What may stay of text that came as HTML: a few kinds of element, no script, style or picture. */
export function cleanHtml(html: string): string {
  const clean = sanitizeHtml(html, ALLOWED).trim();
  // An editor's empty document is no text.
  return clean === '<p></p>' || clean === '<p><br /></p>' ? '' : clean;
}

/** The fields of a meeting that are given, HTML cleaned. */
export const cleanFields = <Given extends Partial<MeetingFields>>(given: Given) =>
  Object.fromEntries(
    FIELD_NAMES.filter((name) => given[name] !== undefined).map((name) => [
      name,
      fieldOf(name).kind === 'rich' ? cleanHtml(given[name] as string) : given[name],
    ]),
  ) as Pick<Given, FieldName & keyof Given>;
