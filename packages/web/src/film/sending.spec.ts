import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { FILM_PIECE, FILM_ROUTES, type Route } from '@foxtrail/contract';
import { defer, of, throwError, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { FilmSending, type ChosenFilm } from './sending';

describe('Sending a film', () => {
  let sending: FilmSending;
  /** The pieces that have been sent, in order. */
  let sent: number[];
  /** The pieces that are there already; a piece that does not go through. */
  let there: number[];
  let breaksAt: number | undefined;
  /** What the next pieces are answered, one after another. */
  let fails: HttpErrorResponse[];
  let taken: number;
  beforeEach(() => {
    [sent, there, breaksAt, taken, fails] = [[], [], undefined, 0, []];
    const call = (route: Route, asked: { parameters: { piece?: number } }): Observable<unknown> => {
      if (route === FILM_ROUTES.begin) return of({ size: 0, type: null, pieces: there });
      if (route === FILM_ROUTES.take) return of((taken += 1));
      const piece = asked.parameters.piece ?? -1;
      if (piece === breaksAt) return throwError(() => new Error('The line is cut.'));
      return defer(() => {
        const error = fails.shift();
        if (error) return throwError(() => error);
        sent.push(piece);
        return of(undefined);
      });
    };
    TestBed.configureTestingModule({ providers: [FilmSending, { provide: Api, useValue: { call } }] });
    sending = TestBed.inject(FilmSending);
  });
  const film: ChosenFilm = {
    file: new File([new Uint8Array(3 * FILM_PIECE + 5)], 'take.webm'),
    film: 'a'.repeat(64),
    duration: 3,
  };
  const reason = (): string => {
    const state = sending.state();
    return state.kind === 'failed' ? state.reason : '';
  };

  it('goes piece by piece, and not again what has come', async () => {
    there = [0, 2];
    expect(await sending.send(film)).toBeTrue();
    expect([sent, taken, sending.state().kind]).toEqual([[1, 3], 1, 'idle']);
  });
  it('that breaks off says so, and goes on when it is sent once more', async () => {
    breaksAt = 2;
    expect(await sending.send(film)).toBeFalse();
    expect([sent, taken, sending.state().kind]).toEqual([[0, 1], 0, 'failed']);
    [there, breaksAt] = [[0, 1], undefined];
    expect(await sending.send(film)).toBeTrue();
    expect(sent).toEqual([0, 1, 2, 3]);
  });
  it('sends a piece again that a busy server did not take, but none that it refuses', async () => {
    sending.pauses = [1, 1, 1];
    const problem = (status: number): HttpErrorResponse =>
      new HttpErrorResponse({ status, error: { error: { code: 'c', place: 'p', reason: 'r', remedy: 'm' } } });
    fails = [problem(429), problem(503)];
    expect(await sending.send(film)).toBeTrue();
    expect(sent).toEqual([0, 1, 2, 3]);
    fails = [problem(400)];
    expect(await sending.send(film)).toBeFalse();
    fails = Array.from({ length: 9 }, () => problem(429));
    expect(await sending.send(film)).toBeFalse();
    expect(fails.length).toBe(5);
  });
  it('that is stopped sends no more', async () => {
    const work = sending.send(film);
    sending.stop();
    expect(await work).toBeFalse();
    expect([taken, sending.state().kind]).toEqual([0, 'idle']);
  });
  it('refuses what is empty, is no film, or shows no picture here, and says what to do', async () => {
    expect(await sending.read(new File([], 'none.webm'))).toBeUndefined();
    expect(reason()).toContain('empty');
    expect(await sending.read(new File(['only words, and many'], 'notes.webm'))).toBeUndefined();
    expect(reason()).toContain('neither a WebM nor an MP4');
    const head = new Uint8Array([0x1a, 0x45, 0xdf, 0xa3, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect(await sending.read(new File([head], 'broken.webm'))).toBeUndefined();
    expect(reason()).toContain('no picture');
  });
});
