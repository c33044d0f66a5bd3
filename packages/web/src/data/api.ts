/**
 * The server, as the contract has it. Every answer is checked against its schema at this border.
 */
import { HttpClient, HttpHeaders } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  revisionListSchema,
  revisionSchema,
  type RevisionInfo,
  clipInfoSchema,
  conceptFigureSchema,
  disputesSchema,
  foundSchema,
  importedWordsSchema,
  knotReviewSchema,
  remarkedKnotsSchema,
  wordsSchema,
  type Found,
  type HouseWords,
  type ImportedWords,
  type KnotReview,
  type ReviewVerdict,
  type RemarkedKnots,
  type Words,
  houseCountSchema,
  houseSchema,
  identifiedSchema,
  knotListSchema,
  knotSchema,
  publicationSchema,
  publicKnotSchema,
  publicListSchema,
  savedSchema,
  sessionSchema,
  type ClipInfo,
  type House,
  type HouseChange,
  type Identified,
  type Identify,
  type Knot,
  type KnotCard,
  type Publication,
  type PublicKnot,
  type Session,
  type SignIn,
} from '@foxtrail/contract';
import type { Concept, Disputes, FigureFile, Pace, School } from '@foxtrail/core';
import { map, timeout, type Observable } from 'rxjs';

/** A save that has no answer by then counts as a server that does not answer; in milliseconds. */
const SAVE_PATIENCE = 15_000;

@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  session(): Observable<Session> {
    return this.http.get('/api/session').pipe(map((data) => sessionSchema.parse(data)));
  }

  signIn(body: SignIn): Observable<Session> {
    return this.http.post('/api/session', body).pipe(map((data) => sessionSchema.parse(data)));
  }

  signOut(): Observable<unknown> {
    return this.http.delete('/api/session');
  }

  changeHouse(change: HouseChange): Observable<House> {
    return this.http.put('/api/house', change).pipe(map((data) => houseSchema.parse(data)));
  }

  /** How many knots are still to be counted by the house's present rules. */
  leftToCount(): Observable<number> {
    return this.http.get('/api/house/count').pipe(map((data) => houseCountSchema.parse(data).left));
  }

  knots(q: string, archived: boolean, like?: string): Observable<{ knots: KnotCard[]; total: number }> {
    const params = { q, archived, ...(like === undefined ? {} : { like }) };
    return this.http.get('/api/knots', { params }).pipe(map((data) => knotListSchema.parse(data)));
  }

  knot(id: string): Observable<Knot> {
    return this.http.get(`/api/knots/${id}`).pipe(map((data) => knotSchema.parse(data)));
  }

  /** The house's knots that a figure is or is kin to, by its signature keys. */
  identify(keys: Identify): Observable<Identified> {
    return this.http.post('/api/identify', keys).pipe(map((data) => identifiedSchema.parse(data)));
  }

  revisions(id: string): Observable<{ revisions: RevisionInfo[]; total: number }> {
    return this.http.get(`/api/knots/${id}/revisions`).pipe(map((data) => revisionListSchema.parse(data)));
  }

  revision(id: string, number: number): Observable<unknown> {
    return this.http
      .get(`/api/knots/${id}/revisions/${number}`)
      .pipe(map((data) => revisionSchema.parse(data).document));
  }

  nameRevision(id: string, number: number, name: string | null): Observable<unknown> {
    return this.http.put(`/api/knots/${id}/revisions/${number}`, { name });
  }

  create(body: { name: string } | { document: unknown }): Observable<KnotCard> {
    return this.http.post('/api/knots', body).pipe(map((data) => savedSchema.parse(data).card));
  }

  save(id: string, revision: number, document: FigureFile): Observable<KnotCard> {
    const headers = new HttpHeaders({ 'If-Match': `"${revision}"` });
    return this.http.put(`/api/knots/${id}`, { document }, { headers }).pipe(
      timeout(SAVE_PATIENCE),
      map((data) => savedSchema.parse(data).card),
    );
  }

  act(id: string, action: 'duplicate' | 'left-handed' | 'archive' | 'restore'): Observable<KnotCard> {
    return this.http.post(`/api/knots/${id}/${action}`, {}).pipe(map((data) => savedSchema.parse(data).card));
  }

  publish(id: string): Observable<Publication> {
    return this.http.post(`/api/knots/${id}/publication`, {}).pipe(map((data) => publicationSchema.parse(data)));
  }

  withdraw(id: string): Observable<unknown> {
    return this.http.delete(`/api/knots/${id}/publication`);
  }

  keepClip(id: string, revision: number, duration: number, pace: Pace, clip: Blob): Observable<ClipInfo> {
    return this.http
      .put(`/api/knots/${id}/clip`, clip, {
        params: { revision, duration, pace, cautions: true },
        headers: new HttpHeaders({ 'Content-Type': 'video/webm' }),
      })
      .pipe(map((data) => clipInfoSchema.parse(data)));
  }

  words(): Observable<Words> {
    return this.http.get('/api/words').pipe(map((data) => wordsSchema.parse(data)));
  }

  chooseWords(chosen: HouseWords & { readonly revision: number }): Observable<Words> {
    return this.http.put('/api/words', chosen).pipe(map((data) => wordsSchema.parse(data)));
  }

  writeConcept(concept: Concept, revision: number): Observable<Words> {
    return this.http
      .put(`/api/words/concepts/${concept.id}`, { revision, concept })
      .pipe(map((data) => wordsSchema.parse(data)));
  }

  removeConcept(id: string, revision: number): Observable<Words> {
    return this.http
      .delete(`/api/words/concepts/${id}`, { params: { revision } })
      .pipe(map((data) => wordsSchema.parse(data)));
  }

  writeSchool(school: School, revision: number): Observable<Words> {
    return this.http
      .put(`/api/words/schools/${school.id}`, { revision, school })
      .pipe(map((data) => wordsSchema.parse(data)));
  }

  removeSchool(id: string, revision: number): Observable<Words> {
    return this.http
      .delete(`/api/words/schools/${id}`, { params: { revision } })
      .pipe(map((data) => wordsSchema.parse(data)));
  }

  conceptFigure(id: string): Observable<FigureFile> {
    return this.http
      .get(`/api/words/concepts/${id}/figure`)
      .pipe(map((data) => conceptFigureSchema.parse(data).figure));
  }

  setConceptFigure(id: string, figure: FigureFile | null): Observable<Words> {
    return this.http.put(`/api/words/concepts/${id}/figure`, { figure }).pipe(map((data) => wordsSchema.parse(data)));
  }

  importWords(body: {
    format: 'ttl' | 'jsonld' | 'csv';
    text: string;
    answers: Record<string, string>;
    apply: boolean;
  }): Observable<ImportedWords> {
    return this.http.post('/api/words/import', body).pipe(map((data) => importedWordsSchema.parse(data)));
  }

  wordDisputes(): Observable<Disputes> {
    return this.http.get('/api/words/disputes').pipe(map((data) => disputesSchema.parse(data) as Disputes));
  }

  remarkedKnots(after?: string): Observable<RemarkedKnots> {
    return this.http
      .get('/api/words/texts', { params: after === undefined ? {} : { after } })
      .pipe(map((data) => remarkedKnotsSchema.parse(data)));
  }

  review(id: string): Observable<KnotReview> {
    return this.http.get(`/api/knots/${id}/review`).pipe(map((data) => knotReviewSchema.parse(data)));
  }

  beginReview(id: string): Observable<KnotReview> {
    return this.http.post(`/api/knots/${id}/review`, {}).pipe(map((data) => knotReviewSchema.parse(data)));
  }

  judge(id: string, item: string, verdict: ReviewVerdict): Observable<KnotReview> {
    return this.http
      .put(`/api/knots/${id}/review/items/${encodeURIComponent(item)}`, verdict)
      .pipe(map((data) => knotReviewSchema.parse(data)));
  }

  settleReview(id: string): Observable<KnotReview> {
    return this.http.put(`/api/knots/${id}/review`, {}).pipe(map((data) => knotReviewSchema.parse(data)));
  }

  search(q: string): Observable<Found['found']> {
    return this.http.get('/api/search', { params: { q } }).pipe(map((data) => foundSchema.parse(data).found));
  }

  published(): Observable<{ house: string; knots: { name: string; slug: string; summary: string }[] }> {
    return this.http.get('/api/public/knots').pipe(map((data) => publicListSchema.parse(data)));
  }

  publicKnot(slug: string): Observable<PublicKnot> {
    return this.http
      .get(`/api/public/knots/${encodeURIComponent(slug)}`)
      .pipe(map((data) => publicKnotSchema.parse(data)));
  }
}
