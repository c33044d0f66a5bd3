/** What every public page has: its head, the bar above it, and its one style. */
import { lookStyle } from './figure.js';
import { html, raw, type Html } from './html.js';

/** What a page is sent with. */
export interface PageFrame {
  /** Changes whenever the pages' script or style does, so that browsers keep them as long. */
  readonly version: string;
}

/** The one style element of a page, which a content policy lets through by its hash. */
export const pageStyle = (): string => lookStyle();

interface PageParts {
  readonly title: string;
  readonly description: string;
  /** Address of a picture that stands for it. */
  readonly picture?: string;
  /** It is more than read: one practises there, or goes through a course. */
  readonly isDesk?: boolean;
  readonly main: Html;
}

export const frame = (
  { title, description, picture, isDesk = false, main }: PageParts,
  { version }: PageFrame,
): string =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <title>${title} · Fox Trail</title>
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <meta name="description" content="${description}" />
        <meta property="og:title" content="${title}" />
        <meta property="og:description" content="${description}" />
        ${picture !== undefined && html`<meta property="og:image" content="${picture}" />`}
        <link rel="icon" type="image/svg+xml" href="/favicon.svg" />
        <link rel="manifest" href="/learn.webmanifest" />
        <link rel="stylesheet" href="/learn.css?v=${version}" />
        ${isDesk && html`<link rel="stylesheet" href="/learn-desk.css?v=${version}" />`}
        ${raw(`<style>${pageStyle()}</style>`)}
        <script type="module" src="/learn.js?v=${version}"></script>
      </head>
      <body>
        <header class="bar">
          <a class="mark" href="/learn">Fox Trail</a>
          <nav aria-label="Library"><a href="/learn">Published</a></nav>
          <span class="space"></span>
          <button type="button" data-theme-toggle aria-label="Light or dark" hidden>◐</button>
          <a href="/shelf">For authors</a>
        </header>
        ${main}
      </body>
    </html>`.text;
