/**
 * A booklet as an e-book: what lies beside its pages in an EPUB (W3C, “EPUB 3.3”): which file is what, in which order they are read, and its
 * contents for readers that show them. The pages themselves are the booklet’s, written as XHTML by whoever packs them.
 */
import { escapeHtml } from './html.js';
import type { Booklet, BookletPage } from './booklet.js';

/** First in the file, and not compressed, so that it can be told from any other archive. */
export const EPUB_TYPE = 'application/epub+zip';

const TYPES: Readonly<Record<string, string>> = {
  xhtml: 'application/xhtml+xml',
  css: 'text/css',
  svg: 'image/svg+xml',
  woff2: 'font/woff2',
};
const endOf = (path: string): string => path.slice(path.lastIndexOf('.') + 1);

/** A page of the booklet as it is called in an e-book. */
export const xhtmlPath = (path: string): string => path.replace(/\.html$/, '.xhtml');

export interface EpubParts {
  readonly booklet: Booklet;
  /** Its pages as XHTML, in the order in which they are read. */
  readonly pages: readonly BookletPage[];
  /** Everything else that it holds: style, fonts, pictures. */
  readonly files: readonly string[];
  /** Names this booklet and no other: a UUID. */
  readonly id: string;
  /** When it was made, as `YYYY-MM-DDThh:mm:ssZ`. */
  readonly modified: string;
}

/** What a page is called among its contents. */
function titleOf({ entries }: Booklet, path: string): string {
  const fixed: Readonly<Record<string, string>> = {
    'index.xhtml': 'Contents',
    'words.xhtml': 'Words and index',
    'cards.xhtml': 'Inspection cards',
  };
  const number = /^(\d+)-/.exec(path)?.[1];
  return fixed[path] ?? entries[Number(number) - 1]?.name ?? path;
}

/** The files that make an archive of pages an e-book, beside `mimetype`. */
export function epubFiles({ booklet, pages, files, id, modified }: EpubParts): BookletPage[] {
  const items = [
    { id: 'nav', path: 'nav.xhtml', more: ' properties="nav"' },
    ...pages.map(({ path, text }, i) => ({
      id: `page-${i + 1}`,
      path,
      // A reader is told of drawings before it opens a page.
      more: text.includes('<svg') ? ' properties="svg"' : '',
    })),
    ...files.map((path, i) => ({ id: `file-${i + 1}`, path, more: '' })),
  ];
  const manifest = items.map(
    ({ id: own, path, more }) =>
      `<item id="${own}" href="${escapeHtml(path)}" media-type="${TYPES[endOf(path)] ?? 'application/octet-stream'}"${more}/>`,
  );
  const spine = pages.map((_, i) => `<itemref idref="page-${i + 1}"/>`);
  const contents = pages.map(
    ({ path }) => `<li><a href="${escapeHtml(path)}">${escapeHtml(titleOf(booklet, path))}</a></li>`,
  );
  return [
    {
      path: 'META-INF/container.xml',
      text: '<?xml version="1.0" encoding="UTF-8"?><container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="book.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
    },
    {
      path: 'book.opf',
      text:
        '<?xml version="1.0" encoding="UTF-8"?><package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="en">' +
        `<metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="id">urn:uuid:${id}</dc:identifier><dc:title>${escapeHtml(booklet.name)}</dc:title>` +
        `<dc:language>en</dc:language><dc:creator>${escapeHtml(booklet.house)}</dc:creator><meta property="dcterms:modified">${modified}</meta></metadata>` +
        `<manifest>${manifest.join('')}</manifest><spine>${spine.join('')}</spine></package>`,
    },
    {
      path: 'nav.xhtml',
      text:
        '<?xml version="1.0" encoding="UTF-8"?><!DOCTYPE html><html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="en" xml:lang="en">' +
        `<head><title>${escapeHtml(booklet.name)}</title></head><body><nav epub:type="toc"><h1>Contents</h1><ol>${contents.join('')}</ol></nav></body></html>`,
    },
  ];
}
