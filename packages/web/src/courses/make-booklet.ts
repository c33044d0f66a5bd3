/**
 * Makes the booklet of a course: its pages, the pictures that they show, style and fonts, packed into one file that opens from a memory stick. It
 * is made here, page by page, so that how far it is can be seen, and it can be stopped.
 */
import { HttpClient } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
import { PUBLIC_ROUTES } from '@foxtrail/contract';
import { conceptOf, escapeXml } from '@foxtrail/core';
import { assemblyCautions, assemblySvg, inspectionList } from '@foxtrail/core/assembly';
import { courseTime, sayMinutes, timeOf, type Course, type CourseItem } from '@foxtrail/core/course';
import type { Planned } from '@foxtrail/core/ropes';
import type { Booklet, BookletEntry, BookletPage, BookletPicture, BookletWord } from '@foxtrail/lesson/booklet';
import type { PaperSize } from '@foxtrail/lesson/booklet-pdf';
import { firstValueFrom, Subject, takeUntil } from 'rxjs';
import { AssembliesService, pictureOf } from '../data/assemblies';
import { Api } from '../data/api';
import { CoursesService } from '../data/courses';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';

/** What a booklet is made as: pages that open from a memory stick, an e-book, pages to be printed, or cards for the pocket. */
export type BookletKind = 'web pages' | 'e-book' | PaperKind;
export type PaperKind = `${'booklet' | 'cards'} ${PaperSize}`;
const isPaper = (as: BookletKind): as is PaperKind => as.startsWith('booklet ') || as.startsWith('cards ');

/** What its file is called after its name. */
export const endingOf = (as: BookletKind): string =>
  as === 'web pages' ? '.zip' : as === 'e-book' ? '.epub' : `${as.startsWith('cards') ? '-cards' : ''}.pdf`;

const KEPT_STYLE = 'data-kept-style';

/**
 * A page as XHTML, which e-books are made of; its addresses lead to pages that are. Its styles are put aside while it is read: this application lets no
 * other than its own in, not even into a page that nobody sees.
 */
function asXhtml(text: string): string {
  const styles: string[] = [];
  const bare = text
    .replace(
      /<style>([\s\S]*?)<\/style>/g,
      (_, style: string) => `<meta name="style" content="${styles.push(style) - 1}">`,
    )
    .replace(/ style="/g, ` ${KEPT_STYLE}="`);
  const page = new DOMParser().parseFromString(bare, 'text/html');
  for (const link of page.querySelectorAll('a[href$=".html"]'))
    link.setAttribute('href', (link.getAttribute('href') ?? '').replace(/\.html$/, '.xhtml'));
  // What only a page in a browser has: views of a step, and pictures that turn.
  for (const gone of page.querySelectorAll('.player, .turning, .sides, .methods, [data-space]')) gone.remove();
  // The player is gone that a small picture led to.
  for (const lost of page.querySelectorAll('a[href^="#"]')) lost.removeAttribute('href');
  const written = new XMLSerializer()
    .serializeToString(page)
    .replace(
      /<meta name="style" content="(\d+)"[^>]*>/g,
      (_, i: string) => `<style>${escapeXml(styles[Number(i)] ?? '')}</style>`,
    )
    .replaceAll(` ${KEPT_STYLE}="`, ' style="');
  return `<?xml version="1.0" encoding="UTF-8"?>${written}`;
}

/** Which sides of a knot in the hand are shown on paper. */
const ON_PAPER = { booklet: ['front.svg', 'back.svg'], cards: ['front.svg'] } as const;
/** Pictures that are fetched at once. */
const AT_ONCE = 4;

@Injectable()
export class BookletMaker {
  private readonly api = inject(Api);
  private readonly http = inject(HttpClient);
  private readonly assemblies = inject(AssembliesService);
  private readonly courses = inject(CoursesService);
  private readonly kept = inject(RopesService);
  private readonly words = inject(WordsService);
  private readonly sessions = inject(SessionService);
  /** Share that is made; nothing while none is in hand. */
  readonly share = signal<number | undefined>(undefined);
  /** What was left out, and why. */
  readonly left = signal<readonly string[]>([]);
  private stopped = false;
  private readonly stops = new Subject<undefined>();

  stop(): void {
    this.stopped = true;
    this.stops.next(undefined);
  }

  private leave(what: string): void {
    this.left.update((l) => [...l, what]);
  }

  /** The booklet as a file; nothing where it was stopped. */
  async make(
    course: Course,
    planned: Planned,
    sayMm: (mm: number) => string,
    as: BookletKind,
  ): Promise<Blob | undefined> {
    this.stopped = false;
    this.share.set(0);
    this.left.set([]);
    try {
      return await this.made(course, planned, sayMm, as);
    } finally {
      this.share.set(undefined);
    }
  }

  private async made(
    course: Course,
    planned: Planned,
    sayMm: (mm: number) => string,
    as: BookletKind,
  ): Promise<Blob | undefined> {
    const { bookletPages, picturesOf } = await import('@foxtrail/lesson/booklet');
    const { EPUB_TYPE, epubFiles, xhtmlPath } = await import('@foxtrail/lesson/epub');
    this.boardPictures.clear();
    const entries: BookletEntry[] = [];
    const refs: string[] = [];
    for (const item of course.items) {
      if (this.stopped) return undefined;
      const entry = await this.entryOf(item, sayMm);
      if (typeof entry === 'string') this.leave(entry);
      else {
        entries.push(entry);
        refs.push(item.ref);
      }
      this.share.set((0.3 * (entries.length + this.left().length)) / course.items.length);
    }
    const booklet: Booklet = {
      name: course.name,
      house: this.sessions.session()?.house.name ?? '',
      summary: course.summary,
      goals: course.goals,
      made: new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date()),
      time: sayMinutes(courseTime(course, this.courses.facts()).minutes),
      entries,
      words: this.wordsOf(refs),
      ropes: planned.ropes.map((r) => ({ name: r.rope.name, length: sayMm(r.cutMm), copies: r.rope.copies })),
    };
    const pictures = new Map<string, BookletPicture>();
    for (const entry of entries)
      for (const p of entry.kind === 'lesson' ? picturesOf(entry) : []) pictures.set(p.path, p);
    for (const [path, from] of this.boardPictures) pictures.set(path, { path, from });
    if (isPaper(as)) return this.onPaper(booklet, [...pictures.values()], as);
    const files: Record<string, Uint8Array> = {};
    const put = (path: string, text: string): void => {
      files[path] = new TextEncoder().encode(text);
    };
    const pages: BookletPage[] = [];
    for (const { path, text } of bookletPages(booklet)) {
      if (this.stopped) return undefined;
      const page = as === 'web pages' ? { path, text } : { path: xhtmlPath(path), text: asXhtml(text) };
      pages.push(page);
      put(page.path, page.text);
      this.share.set(0.3 + (0.3 * pages.length) / (entries.length + 3));
      // The page stays usable while pages are written.
      await new Promise((done) => setTimeout(done));
    }
    // What a page shows, and no more: of a knot that cannot be set there is no picture in the hand.
    const wanted = [...pictures.values()].filter(({ path }) => pages.some(({ text }) => text.includes(`"${path}"`)));
    const fetched = await this.fetchAll(wanted, 0.6, 0.35);
    if (!fetched) return undefined;
    for (const [path, svg] of fetched) put(path, svg);
    await this.putStyle(files);
    if (this.stopped) return undefined;
    const { zipSync } = await import('fflate');
    if (as === 'web pages') return new Blob([zipSync(files)], { type: 'application/zip' });
    const beside = epubFiles({
      booklet,
      pages,
      files: Object.keys(files).filter((path) => !path.endsWith('.xhtml')),
      id: crypto.randomUUID(),
      modified: new Date().toISOString().replace(/\.\d+Z$/, 'Z'),
    });
    for (const { path, text } of beside) put(path, text);
    const type = new TextEncoder().encode(EPUB_TYPE);
    return new Blob([zipSync({ mimetype: [type, { level: 0 }], ...files })], { type: EPUB_TYPE });
  }

  /** Pictures by where they stand; what could not be fetched is left. Nothing where it was stopped. */
  private async fetchAll(
    wanted: readonly BookletPicture[],
    from: number,
    share: number,
  ): Promise<Map<string, string> | undefined> {
    const found = new Map<string, string>();
    for (let i = 0; i < wanted.length; i += AT_ONCE) {
      if (this.stopped) return undefined;
      await Promise.all(
        wanted.slice(i, i + AT_ONCE).map(async ({ path, from: address }) => {
          const svg = await this.text(address);
          if (svg === undefined) this.leave(`A picture could not be fetched (${address}).`);
          else found.set(path, svg);
        }),
      );
      this.share.set(from + (share * Math.min(wanted.length, i + AT_ONCE)) / wanted.length);
    }
    return found;
  }

  /** The booklet set on paper, as a PDF. */
  private async onPaper(
    booklet: Booklet,
    pictures: readonly BookletPicture[],
    as: PaperKind,
  ): Promise<Blob | undefined> {
    const [what, size] = as.split(' ') as ['booklet' | 'cards', PaperSize];
    const wanted = pictures.filter(
      ({ path }) => !path.includes('/form/') || ON_PAPER[what].some((s) => path.endsWith(s)),
    );
    const fetched = await this.fetchAll(
      wanted.filter(({ path }) => what === 'booklet' || !path.includes('/step-')),
      0.3,
      0.2,
    );
    if (!fetched) return undefined;
    const { onPaper } = await import('./on-paper');
    const order = { booklet, pictures: fetched, size, as: what };
    const told = (share: number): void => this.share.set(0.5 + 0.5 * share);
    return firstValueFrom(onPaper(order, told).pipe(takeUntil(this.stops)), { defaultValue: undefined });
  }

  /** Pictures of knots on boards, by where they stand in the booklet. */
  private readonly boardPictures = new Map<string, string>();

  /** A lesson or an assembly of the booklet; or why it is left out. */
  private async entryOf(item: CourseItem, sayMm: (mm: number) => string): Promise<BookletEntry | string> {
    const { ref } = item;
    const known = this.courses.facts()(ref);
    const { showing, practice } = timeOf(item, known);
    const time = [
      ...(showing === undefined ? [] : [sayMinutes(showing)]),
      ...(practice > 0 ? [`${sayMinutes(practice)} of practice`] : []),
    ].join(', ');
    const said = { name: known?.name ?? item.name, goal: item.goal, time };
    if (ref.startsWith('assembly:')) {
      const kept = this.kept.assemblies.find(ref.slice('assembly:'.length));
      if (!kept) return `${said.name} is not there any more.`;
      const { is } = kept;
      const asked = this.assemblies.ask(is.knots.map((k) => k.ref));
      if (asked) await firstValueFrom(asked);
      const house = this.assemblies.houseOf(is, sayMm);
      const board = assemblySvg(is, (knot) => {
        const from = pictureOf(knot);
        if (from === undefined) return undefined;
        const path = `pictures/board/${knot.replace(/[^a-z0-9-]/gi, '-')}.svg`;
        this.boardPictures.set(path, from);
        return path;
      });
      return {
        ...said,
        kind: 'assembly',
        summary: is.summary,
        useGrade: is.useGrade,
        cautions: assemblyCautions(is),
        board,
        groups: inspectionList(is, [], house),
      };
    }
    if (known?.slug == null) return `${said.name} is not published.`;
    const knot = await firstValueFrom(this.api.call(PUBLIC_ROUTES.read, { parameters: { slug: known.slug } }));
    return { ...said, kind: 'lesson', knot };
  }

  /** The words that the lessons say, in the order of the alphabet. */
  private wordsOf(refs: readonly string[]): BookletWord[] {
    const facts = this.courses.facts();
    const saying = new Map<string, number[]>();
    refs.forEach((ref, i) => {
      const own = facts(ref);
      for (const w of new Set([...(own?.introduces ?? []), ...(own?.words ?? [])]))
        saying.set(w, [...(saying.get(w) ?? []), i]);
    });
    return [...saying]
      .flatMap(([id, entries]): BookletWord[] => {
        const concept = conceptOf(this.words.glossary(), id);
        return concept ? [{ word: this.words.wordFor(id), definition: concept.definition, entries }] : [];
      })
      .sort((a, b) => a.word.localeCompare(b.word));
  }

  /** The style of learners’ pages, with its fonts beside it. */
  private async putStyle(files: Record<string, Uint8Array>): Promise<void> {
    let style = await this.text('/learn.css');
    if (style === undefined) {
      this.leave('The style of its pages could not be fetched.');
      style = '';
    }
    const fonts = [...new Set([...style.matchAll(/url\((["']?)([^)"']+\.woff2)\1\)/g)].map((m) => m[2]!))];
    for (const font of fonts) {
      const name = `fonts/${font.split('/').at(-1)!}`;
      const answer = await fetch(new URL(font, new URL('/learn.css', location.href)));
      if (!answer.ok) {
        this.leave('A font could not be fetched.');
        continue;
      }
      files[name] = new Uint8Array(await answer.arrayBuffer());
      style = style.replaceAll(font, name);
    }
    files['style.css'] = new TextEncoder().encode(style);
  }

  /** A file as text; nothing where it is not there. */
  private async text(address: string): Promise<string | undefined> {
    return firstValueFrom(this.http.get(address, { responseType: 'text' })).catch(() => undefined);
  }
}
