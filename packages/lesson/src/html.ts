/** Markup written as a template: what is put into it is text, and is escaped, unless it is markup itself. */

/** Markup that is known to be well-formed and safe. */
export class Html {
  constructor(readonly text: string) {}
}

type Put = Html | string | number | false | undefined | readonly Put[];

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => ESCAPES[c] as string);

const written = (value: Put): string => {
  if (value === false || value === undefined) return '';
  if (value instanceof Html) return value.text;
  if (typeof value === 'object') return value.map(written).join('');
  return escapeHtml(String(value));
};

/** A template of markup. Attributes are to be quoted; lists are written one after the other, what is false or missing not at all. */
export const html = (parts: TemplateStringsArray, ...values: readonly Put[]): Html =>
  new Html(parts.reduce((text, part, i) => text + written(values[i - 1]) + part));

/** Markup made elsewhere, of which it is known that it is safe: an SVG of the core's. */
export const raw = (markup: string): Html => new Html(markup);
