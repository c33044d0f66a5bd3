/**
 * The server, as the contract has it. Every answer is checked against its schema at this border.
 */
import { HttpClient, HttpEventType, HttpHeaders } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  archiveToldSchema,
  type ArchiveTold,
  addressOf,
  HOUSE_ROUTES,
  KNOT_ROUTES,
  PUBLIC_ROUTES,
  REVIEW_ROUTES,
  WORD_ROUTES,
  type AnswerRead,
  type BodySent,
  type ClipInfo,
  type Found,
  type House,
  type HouseChange,
  type HouseWords,
  type Identified,
  type Identify,
  type ImportedWords,
  type Knot,
  type KnotCard,
  type KnotReview,
  type ParametersOf,
  type Publication,
  type PublicKnot,
  type QuerySent,
  type RemarkedKnots,
  type ReviewVerdict,
  type RevisionInfo,
  type Route,
  type Session,
  type SignIn,
  type Words,
} from '@foxtrail/contract';
import type { Concept, Disputes, FigureFile, School } from '@foxtrail/core';
import { filter, map, tap, timeout, type Observable } from 'rxjs';

/** What of the shelf is asked for; what is left out is as the contract has it. */
export interface ShelfAsked {
  readonly q?: string;
  readonly archived?: boolean;
  readonly like?: string | undefined;
  readonly from?: number;
  readonly most?: number;
}

/** A save that has no answer by then counts as a server that does not answer; in milliseconds. */
const SAVE_PATIENCE = 15_000;

/** What a route wants to be told, and nothing that it does not. */
export type Asking<R extends Route> = ([keyof ParametersOf<R>] extends [never]
  ? { readonly parameters?: undefined }
  : { readonly parameters: ParametersOf<R> }) &
  (undefined extends BodySent<R> ? { readonly body?: unknown } : { readonly body: BodySent<R> }) & {
    readonly query?: QuerySent<R>;
    readonly headers?: Readonly<Record<string, string>>;
  };

@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  /** Calls a route of the contract. */
  call<R extends Route>(
    route: R,
    ...[asking]: Partial<Asking<R>> extends Asking<R> ? [Asking<R>?] : [Asking<R>]
  ): Observable<AnswerRead<R>> {
    const { parameters = {}, query, body, headers = {} } = (asking ?? {}) as Partial<Record<keyof Asking<R>, object>>;
    const given = Object.entries(query ?? {}).filter(([, value]) => value !== undefined);
    return this.http
      .request(route.method.toUpperCase(), addressOf(route.path, parameters as Record<string, unknown>), {
        params: Object.fromEntries(given) as Record<string, string>,
        headers: new HttpHeaders(headers as Record<string, string>),
        ...(route.method === 'get' || route.method === 'delete' ? {} : { body: body ?? {} }),
      })
      .pipe(map((data) => (route.answer ? route.answer.parse(data) : undefined) as AnswerRead<R>));
  }

  /** Sends an archive of a library, to be looked through or taken; `sent` is told how much of it has been sent, from 0 to 1. */
  sendArchive(
    file: Blob,
    asked: Readonly<Record<'take' | 'house' | 'words', 'true' | 'false'>>,
    sent: (share: number) => void,
  ): Observable<ArchiveTold> {
    return this.http
      .post(HOUSE_ROUTES.readArchive.path, file, {
        params: asked,
        headers: { 'Content-Type': 'application/zip' },
        reportProgress: true,
        observe: 'events',
      })
      .pipe(
        tap((event) => {
          if (event.type === HttpEventType.UploadProgress) sent(event.loaded / (event.total ?? file.size));
        }),
        filter((event) => event.type === HttpEventType.Response),
        map((answer) => archiveToldSchema.parse(answer.body)),
      );
  }

  session(): Observable<Session> {
    return this.call(HOUSE_ROUTES.session);
  }

  signIn(body: SignIn): Observable<Session> {
    return this.call(HOUSE_ROUTES.signIn, { body });
  }

  signOut(): Observable<unknown> {
    return this.call(HOUSE_ROUTES.signOut);
  }

  changeHouse(body: HouseChange): Observable<House> {
    return this.call(HOUSE_ROUTES.change, { body });
  }

  /** How many knots are still to be counted by the house's present rules. */
  leftToCount(): Observable<number> {
    return this.call(HOUSE_ROUTES.leftToCount).pipe(map(({ left }) => left));
  }

  /** A page of the shelf: `most` knots at most of those found, beginning with the one at `from`. */
  knots({ q = '', archived = false, ...asked }: ShelfAsked): Observable<{ knots: KnotCard[]; total: number }> {
    return this.call(KNOT_ROUTES.list, { query: { q, archived: archived ? 'true' : 'false', ...asked } });
  }

  knot(id: string): Observable<Knot> {
    return this.call(KNOT_ROUTES.read, { parameters: { id } });
  }

  /** The house's knots that a figure is or is kin to, by its signature keys. */
  identify(body: Identify): Observable<Identified> {
    return this.call(KNOT_ROUTES.identify, { body });
  }

  revisions(id: string): Observable<{ revisions: RevisionInfo[]; total: number }> {
    return this.call(KNOT_ROUTES.revisions, { parameters: { id } });
  }

  revision(id: string, number: number): Observable<unknown> {
    return this.call(KNOT_ROUTES.revision, { parameters: { id, number } }).pipe(map(({ document }) => document));
  }

  nameRevision(id: string, number: number, name: string | null): Observable<unknown> {
    return this.call(KNOT_ROUTES.nameRevision, { parameters: { id, number }, body: { name } });
  }

  create(body: { name: string } | { document: unknown }): Observable<KnotCard> {
    return this.call(KNOT_ROUTES.create, { body }).pipe(map(({ card }) => card));
  }

  /** Saves what was made from a revision; sent again with the same `save`, it is answered as it was the first time. */
  save(id: string, revision: number, document: FigureFile, save: string): Observable<KnotCard> {
    const headers = { 'If-Match': `"${revision}"` };
    return this.call(KNOT_ROUTES.save, { parameters: { id }, body: { document, save }, headers }).pipe(
      timeout(SAVE_PATIENCE),
      map(({ card }) => card),
    );
  }

  act(id: string, action: 'duplicate' | 'leftHanded' | 'archive' | 'restore'): Observable<KnotCard> {
    return this.call(KNOT_ROUTES[action], { parameters: { id } }).pipe(map(({ card }) => card));
  }

  publish(id: string): Observable<Publication> {
    return this.call(KNOT_ROUTES.publish, { parameters: { id } });
  }

  withdraw(id: string): Observable<unknown> {
    return this.call(KNOT_ROUTES.withdraw, { parameters: { id } });
  }

  /** Keeps a clip of one of the knot's methods, by its index. */
  /** What is seen of the kept clip of a method before it is played. */
  keepPoster(id: string, method: number, picture: Blob): Observable<void> {
    return this.call(KNOT_ROUTES.keepPoster, {
      parameters: { id },
      query: { method: method + 1 },
      body: picture,
      headers: { 'Content-Type': picture.type },
    });
  }

  keepClip(
    id: string,
    { revision, method, duration, pace, reel }: Pick<ClipInfo, 'revision' | 'method' | 'duration' | 'pace' | 'reel'>,
    clip: Blob,
  ): Observable<ClipInfo> {
    return this.call(KNOT_ROUTES.keepClip, {
      parameters: { id },
      query: {
        revision,
        method: method + 1,
        duration,
        pace,
        ...(reel === null ? {} : { reel: reel + 1 }),
        cautions: 'true',
      },
      body: clip,
      headers: { 'Content-Type': 'video/webm' },
    });
  }

  words(): Observable<Words> {
    return this.call(WORD_ROUTES.read);
  }

  chooseWords(body: HouseWords & { readonly revision: number }): Observable<Words> {
    return this.call(WORD_ROUTES.choose, { body });
  }

  writeConcept(concept: Concept, revision: number): Observable<Words> {
    return this.call(WORD_ROUTES.writeConcept, { parameters: { word: concept.id }, body: { revision, concept } });
  }

  removeConcept(word: string, revision: number): Observable<Words> {
    return this.call(WORD_ROUTES.removeConcept, { parameters: { word }, query: { revision } });
  }

  writeSchool(school: School, revision: number): Observable<Words> {
    return this.call(WORD_ROUTES.writeSchool, { parameters: { word: school.id }, body: { revision, school } });
  }

  removeSchool(word: string, revision: number): Observable<Words> {
    return this.call(WORD_ROUTES.removeSchool, { parameters: { word }, query: { revision } });
  }

  conceptFigure(word: string): Observable<FigureFile> {
    return this.call(WORD_ROUTES.conceptFigure, { parameters: { word } }).pipe(map(({ figure }) => figure));
  }

  setConceptFigure(word: string, figure: FigureFile | null): Observable<Words> {
    return this.call(WORD_ROUTES.setConceptFigure, { parameters: { word }, body: { figure } });
  }

  importWords(body: BodySent<typeof WORD_ROUTES.importWords>): Observable<ImportedWords> {
    return this.call(WORD_ROUTES.importWords, { body });
  }

  wordDisputes(): Observable<Disputes> {
    return this.call(WORD_ROUTES.disputes).pipe(map((data) => data as Disputes));
  }

  remarkedKnots(after?: string): Observable<RemarkedKnots> {
    return this.call(WORD_ROUTES.texts, { query: { after } });
  }

  review(id: string): Observable<KnotReview> {
    return this.call(REVIEW_ROUTES.read, { parameters: { id } });
  }

  beginReview(id: string): Observable<KnotReview> {
    return this.call(REVIEW_ROUTES.begin, { parameters: { id } });
  }

  judge(id: string, item: string, verdict: ReviewVerdict): Observable<KnotReview> {
    return this.call(REVIEW_ROUTES.judge, { parameters: { id, item }, body: verdict });
  }

  settleReview(id: string): Observable<KnotReview> {
    return this.call(REVIEW_ROUTES.settle, { parameters: { id } });
  }

  search(q: string): Observable<Found['found']> {
    return this.call(WORD_ROUTES.search, { query: { q } }).pipe(map(({ found }) => found));
  }

  published(): Observable<{ house: string; knots: { name: string; slug: string; summary: string }[] }> {
    return this.call(PUBLIC_ROUTES.list);
  }

  publicKnot(slug: string): Observable<PublicKnot> {
    return this.call(PUBLIC_ROUTES.read, { parameters: { slug } });
  }
}
