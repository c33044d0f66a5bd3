import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { Component, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { writeKnot, type Vocabulary } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import { KinWork, type Made } from '../data/kin-work';
import { FakeBench } from '../testing/fake-bench';
import { KIN, REEF, relation, relationId } from '../testing/kin';
import { cardOf, signedIn } from '../testing/knots';
import { DiscoverPage } from './discover';
import { KnotKinPage } from './knot-kin';

@Component({ template: '' })
class Nowhere {}

const made = (id: string, more: Partial<Made> = {}): Made => {
  const { knot } = patternOf(id)!;
  return {
    derivation: { kind: 'slipped', rope: 'a' },
    kin: 'slipped',
    turns: 1,
    says: 'Slipped',
    name: knot.name,
    document: writeKnot(knot),
    proof: { state: 'proved', compared: 'Pulled through, it is.' },
    ...more,
  };
};

/** Work that is done at once, or not until it is let go. */
class FakeWork {
  readonly share = signal<number | undefined>(undefined);
  offered: readonly Made[] = [];
  refusal: string | undefined;
  asked: { readonly words?: Vocabulary; readonly more?: number }[] = [];
  cancelled = 0;
  derive(_document: unknown, words: Vocabulary, show: (all: readonly Made[]) => void): Promise<string | undefined> {
    this.asked.push({ words });
    show(this.offered);
    return Promise.resolve(this.refusal);
  }
  turns(
    _document: unknown,
    _words: Vocabulary,
    once: Made,
    more: number,
    show: (m: Made) => void,
  ): Promise<string | undefined> {
    this.asked.push({ more });
    if (this.refusal === undefined) show({ ...once, turns: more, name: `${once.name}, ${more} more turns` });
    return Promise.resolve(this.refusal);
  }
  discover(
    entries: readonly { ref: string }[],
    offer: (o: { from: string; to: string; kind: 'mistaken for' | 'ends exchanged'; because: string }) => void,
  ): Promise<string | undefined> {
    this.asked.push({ more: entries.length });
    offer({
      from: `knot:${REEF}`,
      to: 'pattern:half-knot',
      kind: 'mistaken for',
      because: 'With crossing 2 laid wrong',
    });
    // Entered already, the other way round: it is not offered again.
    offer({ from: 'pattern:thief', to: `knot:${REEF}`, kind: 'ends exchanged', because: 'Exchanged' });
    return Promise.resolve(undefined);
  }
  cancel(): void {
    this.cancelled += 1;
  }
}

describe('Deriving and discovering', () => {
  let http: HttpTestingController;
  let work: FakeWork;
  let bench: FakeBench;
  beforeEach(() => {
    work = new FakeWork();
    bench = new FakeBench();
    bench.shelf.card.set(cardOf({ id: REEF, name: 'Our reef' }));
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(),
        bench.provided,
      ],
    });
    // The work is the page's own, not the application's.
    const providers = [{ provide: KinWork, useValue: work }];
    TestBed.overrideComponent(KnotKinPage, { set: { providers } });
    TestBed.overrideComponent(DiscoverPage, { set: { providers } });
    http = TestBed.inject(HttpTestingController);
  });
  const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
  const button = (page: HTMLElement, name: string): HTMLButtonElement =>
    [...page.querySelectorAll('button')].find((b) => text(b) === name || b.getAttribute('aria-label') === name)!;
  const tick = (): Promise<unknown> => new Promise((done) => setTimeout(done));

  async function open(): Promise<[ComponentFixture<KnotKinPage>, HTMLElement]> {
    const fixture = TestBed.createComponent(KnotKinPage);
    http.expectOne('/api/kin').flush(KIN);
    await fixture.whenStable();
    return [fixture, fixture.nativeElement as HTMLElement];
  }

  it('shows the neighbours with their difference, the proved one first', async () => {
    const [, page] = await open();
    const cards = [...page.querySelectorAll('.neighbours .card')].map(text);
    expect(cards[0]).toContain('Thief knot');
    expect(cards[0]).toContain('other ends loaded');
    expect(cards[1]).toContain('refuted');
  });

  it('makes a draft of what is derived, in the words of the lesson, and enters the kinship', async () => {
    work.offered = [made('thief')];
    const [fixture, page] = await open();
    button(page, 'See what can be made of it').click();
    await fixture.whenStable();
    expect(work.asked[0]?.words).toBe(bench.vocabulary());
    expect(text(page.querySelector('.made .card'))).toContain('Pulled through, it is.');
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    button(page, 'Make the draft').click();
    const created = http.expectOne('/api/knots');
    expect((created.request.body as { document: { name: string } }).document.name).toBe('Thief knot');
    const card = cardOf({ id: relationId(8), name: 'Thief knot' });
    created.flush({ card }, { status: 201, statusText: 'Created' });
    await tick();
    const stated = http.expectOne('/api/kin/relations');
    expect(stated.request.body).toEqual(
      jasmine.objectContaining({ from: `knot:${REEF}`, to: `knot:${card.id}`, kind: 'slipped', origin: 'derived' }),
    );
    stated.flush(relation({ id: relationId(9), to: `knot:${card.id}` }), { status: 201, statusText: 'Created' });
    await tick();
    expect(go).toHaveBeenCalledWith(['/knot', card.id, 'kin']);
  });

  it('counts turns up and down, and keeps what there was when there is no room for more', async () => {
    const turn = { rope: 'a', from: 1, to: 2, side: 0, about: ['a'], times: 1, passages: 2, darts: [0, 2] } as const;
    work.offered = [made('double-overhand', { kin: 'one more turn', derivation: { kind: 'turns', turn, more: 1 } })];
    const [fixture, page] = await open();
    button(page, 'See what can be made of it').click();
    await fixture.whenStable();
    button(page, 'One turn more').click();
    await fixture.whenStable();
    expect(text(page.querySelector('.made h3'))).toBe('Double overhand knot, 2 more turns');
    work.refusal = 'There is no room.';
    button(page, 'One turn more').click();
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toBe('There is no room.');
    expect(text(page.querySelector('.made h3'))).toBe('Double overhand knot, 2 more turns');
    work.refusal = undefined;
    button(page, 'One turn less').click();
    await fixture.whenStable();
    expect(text(page.querySelector('.made h3'))).toBe('Double overhand knot');
  });

  it('stops the work when it is told to', async () => {
    const [fixture, page] = await open();
    work.share.set(0.3);
    await fixture.whenStable();
    button(page, 'Stop').click();
    expect(work.cancelled).toBe(1);
  });

  it('offers kin that nobody entered, enters it, and passes it over', async () => {
    const fixture = TestBed.createComponent(DiscoverPage);
    const page = fixture.nativeElement as HTMLElement;
    const kin = (fixture.componentInstance as unknown as { kin: { load(): { subscribe(): void } } }).kin;
    kin.load().subscribe();
    http.expectOne('/api/kin').flush(KIN);
    await fixture.whenStable();
    button(page, 'Look through the library').click();
    http.expectOne('/api/kin/documents').flush({ knots: [], total: 2, next: null });
    await tick();
    await fixture.whenStable();
    const offers = [...page.querySelectorAll('li.card')].map(text);
    expect(offers.length).toBe(1);
    expect(offers[0]).toContain('The half knot is often mistaken for the our reef.');
    expect(text(page.querySelector('[role="status"]'))).toContain('2 found, 1 of them entered or passed over.');
    button(page, 'Enter it').click();
    http
      .expectOne('/api/kin/relations')
      .flush(relation({ id: relationId(7), to: 'pattern:half-knot', kind: 'mistaken for' }), {
        status: 201,
        statusText: 'Created',
      });
    await tick();
    await fixture.whenStable();
    expect(page.querySelectorAll('li.card').length).toBe(0);
  });

  it('tells why it cannot look, and can be asked again', async () => {
    const fixture = TestBed.createComponent(DiscoverPage);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    button(page, 'Look through the library').click();
    http.expectOne('/api/kin/documents').error(new ProgressEvent('error'));
    await tick();
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toContain('The server does not answer.');
    expect(button(page, 'Look through the library')).toBeDefined();
  });
});
