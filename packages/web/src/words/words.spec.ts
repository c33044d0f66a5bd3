import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { Component, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { provideRouter } from '@angular/router';
import type { ImportedWords } from '@foxtrail/contract';
import { disputesOf, stepsOf, WORKSHOP_CHOICE, type Concept, type KnotDocument } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { KNOT_ID, OVERHAND, overhand, SESSION, signedIn } from '../testing/knots';
import { WORDS } from '../testing/words';
import { Icons } from '../ui/icons';
import { ConceptDialog } from './concept.dialog';
import { DisputesPage } from './disputes';
import { FigureDialog } from './figure.dialog';
import { HouseWordsPage } from './house-words';
import { ImportDialog } from './import.dialog';
import { SchoolsDialog } from './schools.dialog';
import { LessonWordsDialog } from './lesson-words.dialog';
import { TermsPage } from './terms';
import { TextsPage } from './texts';
import { WordsPage } from './words';
import { chooseIn } from '../testing/choosing';

/** Where links lead in a unit test. */
@Component({ template: '' })
class Nowhere {}

describe('Words', () => {
  let http: HttpTestingController;
  let closed: unknown;

  function open<T>(type: Type<T>, data?: unknown): [ComponentFixture<T>, HTMLElement] {
    closed = undefined;
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(SESSION, { load: () => ({ subscribe: () => undefined }) }),
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close: (value: unknown) => (closed = value ?? null) } },
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(WordsService).load().subscribe();
    http.expectOne('/api/words').flush(WORDS);
    const fixture = TestBed.createComponent(type);
    return [fixture, fixture.nativeElement as HTMLElement];
  }
  /** A request that follows when a file has been read. */
  async function asked(url: string): Promise<TestRequest> {
    for (;;) {
      const [request] = http.match(url);
      if (request) return request;
      await new Promise((done) => setTimeout(done, 10));
    }
  }
  const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
  const button = (page: HTMLElement, name: string): HTMLButtonElement =>
    [...page.querySelectorAll('button')].find((b) => text(b).includes(name) || b.getAttribute('aria-label') === name)!;
  const type = (field: HTMLInputElement | HTMLTextAreaElement, value: string, event = 'input'): void => {
    field.value = value;
    field.dispatchEvent(new Event(event));
  };

  it('adds a school, tells when its name is taken, and removes one only after saying what goes with it', async () => {
    const [fixture, page] = open(SchoolsDialog);
    await fixture.whenStable();
    const fresh = page.querySelector<HTMLInputElement>('[aria-label="Name of the new school"]')!;
    fresh.value = 'Camp';
    button(page, 'Add').click();
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toContain('There is a school “Camp” already.');
    fresh.value = 'Kite yard';
    button(page, 'Add').click();
    const added = http.expectOne('/api/words/schools/kite-yard');
    expect((added.request.body as { school: object }).school).toEqual({ id: 'kite-yard', name: 'Kite yard', note: '' });
    added.flush(WORDS);
    await fixture.whenStable();
    expect(fresh.value).toBe('');
    button(page, 'Remove Camp').click();
    await fixture.whenStable();
    const sure = [...page.querySelectorAll('button')].find((b) => /Remove it with its \d+ labels/.test(text(b)))!;
    sure.click();
    const gone = http.expectOne((r) => r.url === '/api/words/schools/camp');
    expect(gone.request.method).toBe('DELETE');
    gone.flush(
      { error: { code: 'spoken', place: 'Camp', reason: 'The house speaks it.', remedy: 'Choose another first.' } },
      { status: 409, statusText: 'Conflict' },
    );
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toContain('The house speaks it.');
  });

  it('shows a term with what each school calls it, and finds it by any name', async () => {
    const [fixture, page] = open(TermsPage);
    fixture.componentRef.setInput('concept', 'working-end');
    await fixture.whenStable();
    http.expectOne('/api/words/concepts/working-end/figure').flush({ figure: OVERHAND });
    await fixture.whenStable();
    expect(text(page.querySelector('article h2'))).toBe('working end');
    const rows = [...page.querySelectorAll('tbody tr')].map((r) => [
      text(r.querySelector('th')),
      text(r.querySelector('.preferred')),
    ]);
    expect(rows[0]).toEqual(['Workshop this house', 'working end']);
    expect(rows).toContain(['Camp', 'free end']);
    expect(page.querySelector('article svg')).not.toBeNull();
    expect(text(page.querySelector('article'))).toContain('walking end');
    type(page.querySelector<HTMLInputElement>('.find input')!, 'free end');
    await fixture.whenStable();
    const found = [...page.querySelectorAll('.list li a')].map(text);
    expect(found).toEqual(['working end free end']);
    type(page.querySelector<HTMLInputElement>('.find input')!, 'no such thing');
    await fixture.whenStable();
    expect(text(page.querySelector('.list'))).toContain('No term has a name like “no such thing”');
    fixture.componentRef.setInput('concept', 'gone');
    await fixture.whenStable();
    expect(text(page.querySelector('article'))).toContain('There is no such term');
  });

  it('takes a term out, and puts it back', async () => {
    const [fixture, page] = open(TermsPage);
    fixture.componentRef.setInput('concept', 'elbow');
    await fixture.whenStable();
    button(page, 'Take out elbow').click();
    const request = http.expectOne('/api/words/concepts/elbow?revision=3');
    expect(request.request.method).toBe('DELETE');
    request.flush({ ...WORDS, revision: 4 });
    await fixture.whenStable();
    [...document.querySelectorAll('button')].find((b) => text(b) === 'Undo')!.click();
    const back = http.expectOne('/api/words/concepts/elbow');
    expect(back.request.body).toEqual({ revision: 4, concept: WORDS.glossary.concepts.find((c) => c.id === 'elbow') });
  });

  it('writes a term, and says what is wrong with it', async () => {
    const [fixture, page] = open(ConceptDialog);
    await fixture.whenStable();
    button(page, 'Keep').click();
    await fixture.whenStable();
    expect(text(page.querySelector('[role=alert]'))).toBe('Give it a name.');
    type(page.querySelector<HTMLInputElement>('[aria-label="Name 1"]')!, 'bight');
    type(page.querySelector('textarea')!, 'Another bight.');
    button(page, 'One more name').click();
    await fixture.whenStable();
    type(page.querySelector<HTMLInputElement>('[aria-label="Name 2"]')!, 'Bight');
    button(page, 'Keep').click();
    await fixture.whenStable();
    expect(text(page.querySelector('[role=alert]'))).toContain('stands twice');
    type(page.querySelector<HTMLInputElement>('[aria-label="Name 2"]')!, 'fold');
    button(page, 'Keep').click();
    const { request } = http.expectOne('/api/words/concepts/bight-2');
    const { concept } = request.body as { concept: Concept };
    expect(concept.labels).toEqual([
      { school: 'workshop', status: 'preferred', text: 'bight' },
      { school: 'workshop', status: 'also used', text: 'fold' },
    ]);
  });

  it('a change refused because somebody was first is told, and theirs is read', async () => {
    const [fixture, page] = open(
      ConceptDialog,
      WORDS.glossary.concepts.find((c) => c.id === 'bight'),
    );
    await fixture.whenStable();
    button(page, 'Keep').click();
    const error = { code: 'words-moved-on', place: 'words', reason: 'Somebody changed the words.', remedy: 'Again.' };
    http.expectOne('/api/words/concepts/bight').flush({ error }, { status: 412, statusText: 'Precondition Failed' });
    http.expectOne('/api/words').flush({ ...WORDS, revision: 9 });
    await fixture.whenStable();
    expect(text(page.querySelector('[role=alert]'))).toContain('Somebody changed the words.');
    button(page, 'Keep').click();
    expect(http.expectOne('/api/words/concepts/bight').request.body).toEqual(jasmine.objectContaining({ revision: 9 }));
  });

  it('chooses the house’s words: a school, words of its own, what learners know', async () => {
    const [fixture, page] = open(HouseWordsPage);
    await fixture.whenStable();
    expect(button(page, 'Keep the house’s words')).toBeUndefined();
    button(page, 'Camp').click();
    await fixture.whenStable();
    expect(text(page.querySelector('thead'))).toContain('Camp says');
    type(page.querySelector<HTMLInputElement>('[aria-label="The house’s own word for tail"]')!, 'kite tail', 'change');
    page.querySelector<HTMLInputElement>('[aria-label="Learners know bight"]')!.click();
    await fixture.whenStable();
    button(page, 'Keep the house’s words').click();
    const { request } = http.expectOne('/api/words');
    expect(request.body).toEqual({
      revision: 3,
      choice: { school: 'camp', own: { tail: 'kite tail' } },
      known: [...WORDS.known, 'bight'],
    });
    button(page, 'Take back').click();
    await fixture.whenStable();
    expect(button(page, 'Take back')).toBeUndefined();
  });

  it('shows names in dispute with who says them', async () => {
    const [fixture, page] = open(DisputesPage);
    http.expectOne('/api/words/disputes').flush(disputesOf(WORDS.glossary, WORKSHOP_CHOICE));
    await fixture.whenStable();
    const bitter = [...page.querySelectorAll('.homonyms li')].find(
      (li) => text(li.querySelector('h3')) === 'bitter end',
    );
    expect(text(bitter)).toContain('discouraged: Marine');
    const row = [...page.querySelectorAll('tbody tr')].find((r) => text(r.querySelector('a')) === 'working end')!;
    expect([...row.querySelectorAll('td')].slice(0, 4).map((td) => td.classList.contains('same'))).toEqual([
      false,
      true,
      false,
      true,
    ]);
    type(page.querySelector<HTMLInputElement>('input[type=search]')!, 'stake');
    await fixture.whenStable();
    expect([...page.querySelectorAll('tbody tr')].map((r) => text(r.querySelector('a')))).toEqual(['post']);
  });

  it('looks through texts page by page, and can be stopped', async () => {
    const [fixture, page] = open(TextsPage);
    const knot = {
      id: KNOT_ID,
      name: 'Reef',
      texts: [
        {
          place: 'step 1',
          text: 'Leave the tag end.',
          remarks: [{ kind: 'foreign', words: 'tag end', says: 'It is Camp’s.' }],
        },
      ],
    };
    http.expectOne('/api/words/texts').flush({ knots: [knot], read: 25, total: 60, next: KNOT_ID });
    await fixture.whenStable();
    expect(text(page.querySelector('[role=status]'))).toContain('25 of 60');
    expect(text(page.querySelector('li'))).toContain('tag end');
    const next = http.expectOne(`/api/words/texts?after=${KNOT_ID}`);
    button(page, 'Stop').click();
    await fixture.whenStable();
    expect(next.cancelled).toBeTrue();
    expect(text(page.querySelector('[role=status]'))).toContain('Stopped after 25 of 60');
    button(page, 'Look again').click();
    http.expectOne('/api/words/texts').flush({ knots: [], read: 2, total: 2, next: null });
    await fixture.whenStable();
    expect(text(page.querySelector('[role=status]'))).toContain('Every text is in its words');
  });

  it('takes a file in only when every collision is decided', async () => {
    const [fixture, page] = open(ImportDialog);
    await fixture.whenStable();
    const choose = async (name: string, content: string): Promise<void> => {
      const input = page.querySelector<HTMLInputElement>('input[type=file]')!;
      const files = new DataTransfer();
      files.items.add(new File([content], name));
      input.files = files.files;
      input.dispatchEvent(new Event('change'));
      await fixture.whenStable();
    };
    await choose('words.xml', '');
    expect(text(page.querySelector('[role=alert]'))).toContain('words.xml');
    await choose('words.csv', 'concept,name');
    const report: ImportedWords['report'] = {
      added: [{ concept: 'bight', what: '“doubling”, also used' }],
      changed: [],
      same: 2,
      refused: [{ place: 'line 4', reason: 'It has no name.', remedy: 'Give it one.' }],
      collisions: [
        {
          key: 'k',
          kind: 'two preferred',
          concept: 'tail',
          school: 'workshop',
          theirs: 'stray end',
          ours: 'tail',
          does: { 'keep ours': 'a', 'take theirs': 'b', 'keep both': 'c' },
        },
      ],
    };
    const told = await asked('/api/words/import');
    expect(told.request.body).toEqual({ format: 'csv', text: 'concept,name', answers: {}, apply: false });
    told.flush({ report, decided: false, applied: false });
    await fixture.whenStable();
    expect(text(page)).toContain('line 4: It has no name.');
    expect(button(page, 'Decide 1 more').disabled).toBeTrue();
    page.querySelectorAll<HTMLInputElement>('mat-radio-button input')[1]!.click();
    await fixture.whenStable();
    button(page, 'Take it in').click();
    const applied = http.expectOne('/api/words/import');
    expect(applied.request.body).toEqual(jasmine.objectContaining({ answers: { k: 'take theirs' }, apply: true }));
    applied.flush({ report, decided: true, applied: true });
    http.expectOne('/api/words').flush(WORDS);
    await fixture.whenStable();
    expect(text(page.querySelector('.done'))).toContain('1 new');
  });

  it('rewrites a lesson in another school’s words, text by text', async () => {
    const knot = overhand();
    const own: KnotDocument = {
      ...knot,
      entry: { ...knot.entry, summary: 'Keeps the tail.', cautions: ['Watch the standing part.'] },
    };
    const [fixture, page] = open(LessonWordsDialog, own);
    await fixture.whenStable();
    expect(text(page)).toContain('All of them are in these words already.');
    await chooseIn(fixture, 'It is written in', 'the words of Camp');
    expect([...page.querySelectorAll('.offer ins')].map(text)).toEqual([
      'Keeps the tag end.',
      'Watch the standing line.',
    ]);
    page.querySelectorAll<HTMLInputElement>('.offer input')[1]!.click();
    await chooseIn(fixture, 'Explain one more word', 'bight');
    button(page, 'Keep, and change 1 text').click();
    const after = closed as KnotDocument;
    expect(after.entry.words).toEqual({ school: 'camp', introduces: ['bight'] });
    expect([after.entry.summary, after.entry.cautions[0]]).toEqual(['Keeps the tag end.', 'Watch the standing part.']);
    expect(stepsOf(after.method).length).toBe(stepsOf(knot.method).length);
  });

  it('gives a term the figure of a step', async () => {
    const [fixture, page] = open(
      FigureDialog,
      WORDS.glossary.concepts.find((c) => c.id === 'bight'),
    );
    http.expectOne((r) => r.url === '/api/knots').flush({ knots: [], total: 0 });
    await fixture.whenStable();
    const dialog = fixture.componentInstance as unknown as { take(id: string): void };
    dialog.take(KNOT_ID);
    http.expectOne(`/api/knots/${KNOT_ID}`).error(new ProgressEvent('error'));
    await fixture.whenStable();
    expect(text(page.querySelector('[role=alert]'))).toContain('does not answer');
    button(page, 'No figure').click();
    const request = http.expectOne('/api/words/concepts/bight/figure');
    expect(request.request.body).toEqual({ figure: null });
    request.flush(WORDS);
    expect(closed).toBeTrue();
  });

  it('says when the words cannot be shown, and tries again', async () => {
    const [fixture, page] = open(WordsPage);
    http.expectOne('/api/words').error(new ProgressEvent('error'));
    await fixture.whenStable();
    expect(text(page.querySelector('[role=alert]'))).toContain('cannot be shown');
    button(page, 'Try again').click();
    http.expectOne('/api/words').flush(WORDS);
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')).toBeNull();
    expect(text(page.querySelector('.head'))).toContain('This house speaks Workshop');
  });
});
