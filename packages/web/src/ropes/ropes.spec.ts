import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { Component, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { provideRouter } from '@angular/router';
import { KEPT_KINDS, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { entrySchema } from '@foxtrail/core';
import { decoded } from '../data/text-file';
import { RopesService } from '../data/ropes';
import { BehaviourDialog } from '../kin/behaviour.dialog';
import { KIN } from '../testing/kin';
import { SESSION, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { BodyDialog } from './body.dialog';
import { CameraPage } from './camera';
import { LoadCellDialog } from './load-cell.dialog';
import { LoadsPage } from './loads';
import { lengthsSaid } from './lengths-said';
import { MeasureField } from './measure-field';
import { leftDraft } from './left-drafts';
import { PlansPage } from './plans';
import { StockPage } from './stock';
import { StockRopeDialog } from './stock-rope.dialog';
import { TestsPage } from './tests';
import { TiesPage } from './ties';

@Component({ template: '' })
class Nowhere {}

const ID = (n: number): string => `00000000-0000-4000-8000-00000000000${n}`;
const kept = <K extends KeptKind>(kind: K, ...things: object[]): Kept<KeptValue<K>>[] =>
  things.map((thing, i) => ({
    id: ID(i + 1),
    revision: 1,
    is: KEPT_KINDS[kind].shape.parse(thing) as KeptValue<K>,
  }));

const ROPES = kept(
  'ropes',
  { name: 'Anchor line', diameterMm: 10, breakingKn: 20, source: 'the label', pieces: [30_000], condition: 'good' },
  { name: 'Old line', diameterMm: 10, condition: 'retired', pieces: [9000] },
  { name: 'Grip cord', diameterMm: 6, colour: '#8f2f35' },
);
const TIES = kept(
  'ties',
  ...[20, 20.4, 20.1, 19.9, 28].map((k) => ({
    knot: 'pattern:bowline',
    knotName: 'Bowline',
    diameterMm: 10,
    eatenMm: 10 * k,
  })),
);
const TESTS = kept(
  'tests',
  ...[20, 20.4, 19.8].map((peakKn) => ({
    knot: null,
    ropeName: 'Anchor line',
    diameterMm: 10,
    peakKn,
    pulledOn: '2026-05-04',
  })),
  ...[12, 12.5, 13].map((peakKn) => ({
    knot: 'pattern:bowline',
    knotName: 'Bowline',
    ropeName: 'Anchor line',
    diameterMm: 10,
    peakKn,
    pulledOn: '2026-05-05',
  })),
);
const PLANS = kept('plans', {
  name: 'First day',
  ropes: [
    {
      name: 'Anchor line',
      rope: ID(1),
      diameterMm: 10,
      firstMm: 2000,
      knots: [{ ref: 'pattern:bowline', name: 'Bowline', eats: 18.7, loopMm: 600, afterMm: 40 }],
      copies: 2,
    },
  ],
});
const ALL: Readonly<Record<KeptKind, readonly object[]>> = {
  ropes: ROPES,
  things: kept('things', { name: 'Launch post', kind: 'post', diameterMm: 90 }),
  bodies: [],
  ties: TIES,
  tests: TESTS,
  plans: PLANS,
  assemblies: [],
  courses: [],
};

const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
const button = (e: HTMLElement, name: string): HTMLButtonElement =>
  [...e.querySelectorAll('button')].find((b) => text(b).includes(name) || b.getAttribute('aria-label') === name)!;
const field = (e: HTMLElement, label: string): HTMLInputElement =>
  [...e.querySelectorAll('input')].find(
    (i) =>
      i.getAttribute('aria-label') === label || text(i.closest('mat-form-field')?.querySelector('mat-label')) === label,
  )!;
function type(input: HTMLInputElement, value: string): void {
  input.value = value;
  input.dispatchEvent(new Event('input'));
  input.dispatchEvent(new Event('change'));
}

describe('Ropes', () => {
  let http: HttpTestingController;
  let closed: unknown[];
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  function open<T>(
    page: Type<T>,
    data: object = {},
    all: Partial<typeof ALL> = {},
  ): [ComponentFixture<T>, HTMLElement] {
    closed = [];
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(SESSION),
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close: (v: unknown) => closed.push(v ?? null) } },
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    const ropes = TestBed.inject(RopesService);
    for (const kind of Object.keys(ALL) as KeptKind[]) {
      (ropes[kind] as typeof ropes.ropes).load().subscribe();
      http.expectOne(`/api/kept/${kind}`).flush({ ...ALL, ...all }[kind]);
    }
    const fixture = TestBed.createComponent(page);
    fixture.detectChanges();
    for (const asked of http.match('/api/kin')) asked.flush(KIN);
    fixture.detectChanges();
    return [fixture, fixture.nativeElement as HTMLElement];
  }

  it('the stock lists ropes with their pieces, finds them by name, and says what is not to be used', () => {
    const [fixture, element] = open(StockPage);
    const rows = (): string[] => [...element.querySelectorAll('.ropes tbody tr')].map(text);
    expect(rows().length).toBe(3);
    expect(rows()[0]).toContain('30 m');
    expect(rows()[0]).toContain('the label');
    expect(rows()[1]).toContain('retired');
    type(element.querySelector('input[type=search]')!, 'grip');
    fixture.detectChanges();
    expect(rows().length).toBe(1);
    type(element.querySelector('input[type=search]')!, 'silk');
    fixture.detectChanges();
    expect(text(element)).toContain('No rope is found by “silk”');
  });

  it('a rope is kept with what was written; a breaking load without its source is refused with its place', async () => {
    const [fixture, element] = open(StockRopeDialog);
    const submit = async (): Promise<void> => {
      element.querySelector('form')!.dispatchEvent(new Event('submit'));
      await fixture.whenStable();
      fixture.detectChanges();
    };
    type(field(element, 'Name'), 'Beach line');
    type(field(element, 'Diameter'), '3/8 in');
    type(field(element, 'Breaks at'), '3000 lbf');
    type(field(element, 'Pieces on hand'), '2 x 60 m; 35 yards');
    await submit();
    expect(text(element.querySelector('[role=alert]'))).toContain('“yards” is no unit');
    type(field(element, 'Pieces on hand'), '2 x 60 m');
    await submit();
    expect(text(element.querySelector('[role=alert]'))).toContain('source');
    type(field(element, 'By whose word'), 'the label');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    const sent = http.expectOne({ method: 'POST', url: '/api/kept/ropes' });
    const [rope] = (sent.request.body as { things: KeptValue<'ropes'>[] }).things;
    expect(rope).toEqual(
      jasmine.objectContaining({ name: 'Beach line', pieces: [60_000, 60_000], source: 'the label' }),
    );
    expect(rope!.diameterMm).toBeCloseTo(9.525, 3);
    expect(rope!.breakingKn).toBeCloseTo(13.34, 2);
    sent.flush([{ id: ID(9), revision: 1, is: rope! }]);
    await fixture.whenStable();
    expect(closed.length).toBe(1);
    expect(TestBed.inject(RopesService).ropes.find(ID(9))?.is.name).toBe('Beach line');
  });

  it('a rope that somebody else changed meanwhile is shown as theirs; kept again, mine takes its place', async () => {
    const [fixture, element] = open(StockRopeDialog, { kept: ROPES[0] });
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    const theirs = { ...ROPES[0]!, revision: 4, is: { ...ROPES[0]!.is, diameterMm: 11 } };
    http
      .expectOne(`/api/kept/ropes/${ID(1)}`)
      .flush(
        { error: { code: 'moved-on', place: 'rope', reason: 'Somebody changed it.', remedy: 'Look.' }, now: theirs },
        { status: 412, statusText: 'x' },
      );
    await fixture.whenStable();
    fixture.detectChanges();
    button(element, 'Look at theirs').click();
    fixture.detectChanges();
    expect(field(element, 'Diameter').value).toBe('11 mm');
    type(field(element, 'Diameter'), '12 mm');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    const again = http.expectOne(`/api/kept/ropes/${ID(1)}`);
    expect(again.request.body).toEqual(jasmine.objectContaining({ revision: 4 }));
    again.flush({ ...theirs, revision: 5 });
    await fixture.whenStable();
    expect(closed.length).toBe(1);
  });

  it('a body is kept with what was measured of it', async () => {
    const [fixture, element] = open(BodyDialog);
    type(field(element, 'Who'), 'Wren');
    type(field(element, 'Palm'), '8.2 cm');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    const sent = http.expectOne('/api/kept/bodies');
    expect(sent.request.body).toEqual({ things: [{ name: 'Wren', mm: { palm: 82 } }] });
    sent.flush([]);
    await fixture.whenStable();
    expect(closed.length).toBe(1);
  });

  it('a plan says how long each rope is cut, where its knots begin, and from which piece; it is kept as it is changed', async () => {
    const [fixture, element] = open(PlansPage, {}, { ties: [] });
    // 2000 + 187 + 600 + 40, and 28 of spread: 2860 mm.
    expect(text(element.querySelector('.cut'))).toBe('2.86 m');
    expect(text(element.querySelector('.cuts'))).toContain('30 m');
    expect(element.querySelector('ft-rope-strip svg')!.getAttribute('aria-label')).toContain(
      'Bowline: begins 827 mm from the last end',
    );
    expect(text(element.querySelector('.short-tail'))).toContain('The house asks');
    button(element, 'So long').click();
    fixture.detectChanges();
    expect(element.querySelector('.short-tail')).toBeNull();
    expect(text(element.querySelector('.state'))).toContain('not kept yet');
    await new Promise((done) => setTimeout(done, 800));
    const sent = http.expectOne(`/api/kept/plans/${ID(1)}`);
    const { revision, is } = sent.request.body as { revision: number; is: KeptValue<'plans'> };
    expect(revision).toBe(1);
    expect(is.ropes[0]!.knots[0]!.afterMm).toBeGreaterThan(40);
    sent.flush({ id: ID(1), revision: 2, is });
    await fixture.whenStable();
    fixture.detectChanges();
    expect(text(element.querySelector('.state'))).toBe('kept');
  });

  it('a plan that could not be kept is still here, and is tried again', async () => {
    const [fixture, element] = open(PlansPage);
    type(field(element, 'Name of the plan'), 'Second day');
    await new Promise((done) => setTimeout(done, 800));
    http.expectOne(`/api/kept/plans/${ID(1)}`).error(new ProgressEvent('error'));
    await fixture.whenStable();
    fixture.detectChanges();
    expect(text(element.querySelector('[role=alert]'))).not.toBe('');
    expect(field(element, 'Name of the plan').value).toBe('Second day');
    button(element, 'Try again').click();
    await new Promise((done) => setTimeout(done, 0));
    const again = http.expectOne(`/api/kept/plans/${ID(1)}`);
    again.flush({ id: ID(1), revision: 2, is: (again.request.body as { is: object }).is });
    await fixture.whenStable();
    fixture.detectChanges();
    expect(text(element.querySelector('.state'))).toBe('kept');
  });

  it('a plan that is left while it is being kept loses nothing of what was written last', async () => {
    const two = [...PLANS, { ...PLANS[0]!, id: ID(2), is: { ...PLANS[0]!.is, name: 'Second day' } }];
    const [fixture, element] = open(PlansPage, {}, { plans: two });
    const name = (): HTMLInputElement => field(element, 'Name of the plan');
    type(name(), 'First');
    await new Promise((done) => setTimeout(done, 800));
    const first = http.expectOne(`/api/kept/plans/${ID(1)}`);
    type(name(), 'First morning');
    fixture.componentRef.setInput('plan', ID(2));
    fixture.detectChanges();
    expect(name().value).toBe('Second day');
    first.flush({ id: ID(1), revision: 2, is: (first.request.body as { is: object }).is });
    await new Promise((done) => setTimeout(done, 0));
    const second = http.expectOne(`/api/kept/plans/${ID(1)}`);
    const { revision, is } = second.request.body as { revision: number; is: { name: string } };
    expect([revision, is.name]).toEqual([2, 'First morning']);
    second.flush({ id: ID(1), revision: 3, is });
    await new Promise((done) => setTimeout(done, 0));
    expect(localStorage.getItem(`plan ${ID(1)}`)).toBeNull();
    expect(name().value).toBe('Second day');
  });

  it('a plan that was not kept before its tab was closed is taken up as it was written', async () => {
    const plan = { ...PLANS[0]!.is, name: 'Written on the train' };
    localStorage.setItem(`plan ${ID(1)}`, JSON.stringify({ revision: 1, plan }));
    const [fixture, element] = open(PlansPage);
    expect(field(element, 'Name of the plan').value).toBe('Written on the train');
    await new Promise((done) => setTimeout(done, 0));
    const sent = http.expectOne(`/api/kept/plans/${ID(1)}`);
    expect((sent.request.body as { is: { name: string } }).is.name).toBe('Written on the train');
    sent.flush({ id: ID(1), revision: 2, is: plan });
    await new Promise((done) => setTimeout(done, 0));
    fixture.detectChanges();
    expect(text(element.querySelector('.state'))).toBe('kept');
    expect(localStorage.getItem(`plan ${ID(1)}`)).toBeNull();
    // What is no draft is none.
    localStorage.setItem(`plan ${ID(1)}`, '{"revision": 1');
    expect(leftDraft('plans', ID(1))).toBeUndefined();
  });

  it('measured ties say what the knot eats, and flag the one that departs; a tie that grew is refused', () => {
    const [fixture, element] = open(TiesPage);
    expect(text(element.querySelector('.sum'))).toContain('eats 21.7 d, by 5 ties');
    expect([...element.querySelectorAll('tr.out')].map(text)).toEqual([jasmine.stringContaining('280 mm')]);
    type(field(element, 'Diameter of the rope'), '10 mm');
    type(field(element, 'Rope before it is tied'), '1 m');
    type(field(element, 'The same with the knot in it'), '1.1 m');
    fixture.componentInstance.pick('pattern:bowline');
    element.querySelector('form')!.dispatchEvent(new Event('submit'));
    fixture.detectChanges();
    expect(text(element.querySelector('ft-trouble'))).toContain('no shorter');
    http.expectNone({ method: 'POST', url: '/api/kept/ties' });
  });

  it('the log of tests says means, spreads, bounds and shares, each against the rope alone', () => {
    const [, element] = open(TestsPage);
    const rows = [...element.querySelectorAll('section:first-of-type tbody tr')].map(text);
    expect(rows[0]).toContain('the rope, no knot');
    // By hand: mean 12.5, s = 0.5; 12.5 / 20.07 = 62 %; 12.5 − 7.656 · 0.5 = 8.7.
    expect(rows[1]).toContain('12.5 kN ± 0.5 kN');
    expect(rows[1]).toContain('62 %');
    expect(rows[1]).toContain('8.7 kN');
  });

  it('what a knot does may rest on the log, cited in a sentence', async () => {
    const tried = { trial: 'pull on the standing part', does: 'holds', by: 'tested', why: 'seen once' };
    const entry = entrySchema.parse({ behaviour: [tried] });
    const [fixture, element] = open(BehaviourDialog, { entry, name: 'bowline' });
    button(element, 'It rests on the log').click();
    await fixture.whenStable();
    const item = document.querySelector<HTMLElement>('.mat-mdc-menu-panel [mat-menu-item]')!;
    expect(text(item)).toContain('3 pull tests in Anchor line, 10 mm: broke, at 12.5 ± 0.5 kN');
    item.click();
    fixture.detectChanges();
    expect(field(element, 'What it rests on').value).toContain('3 pull tests');
    button(element, 'Done').click();
    expect((closed[0] as typeof entry).behaviour?.[0]?.why).toContain('log, to 2026-05-05');
  });

  it('loads take the lowest of their sources, and name the others', () => {
    const [fixture, element] = open(LoadsPage);
    const page = fixture.componentInstance;
    expect(text(element.querySelector('.caution'))).toContain('no certification');
    // 20 kN · 0.5 · 0.85 / 10.
    expect(page.limit()?.found?.limit).toBeCloseTo(0.85, 9);
    page.knot.set('Bowline');
    expect(page.limit()?.found?.others.map((o) => o.says)).toEqual([
      jasmine.stringContaining('own tests of the bowline'),
    ]);
    page.makers.set('40');
    expect(page.limit()?.found?.used.says).toContain('maker');
    page.line.set(ID(3));
    expect(page.limit()?.trouble).toContain('not known');
  });

  it('a rope too small for the picture is told so, with what mends it', () => {
    const [fixture, element] = open(CameraPage);
    http.match(() => true);
    expect(text(element.querySelector('tbody'))).toContain('too small');
    type(field(element, 'Seen from side to side'), '150 mm');
    fixture.detectChanges();
    expect(text(element.querySelector('tbody tr'))).toContain('well');
  });

  it('a cell that falls silent is told, and what had come can be kept', () => {
    class Silent {
      static last: Silent | undefined;
      onmessage?: (event: { data: string }) => void;
      onerror?: () => void;
      closed = false;
      constructor() {
        Silent.last = this;
      }
      addEventListener = (): void => undefined;
      close(): void {
        this.closed = true;
      }
    }
    const real = window.EventSource;
    (window as { EventSource: unknown }).EventSource = Silent;
    try {
      const [fixture, element] = open(LoadCellDialog, { ropeName: 'Anchor line' });
      button(element, 'Pull').click();
      Silent.last!.onmessage!({ data: JSON.stringify([{ at: 0.1, kn: 1.5 }, 'nonsense']) });
      Silent.last!.onmessage!({ data: '{not json' });
      Silent.last!.onerror!();
      fixture.detectChanges();
      expect(Silent.last!.closed).toBeTrue();
      expect(text(element.querySelector('[role=alert]'))).toContain('fallen silent');
      expect(text(element)).toContain('2 of 3 readings could not be');
      expect(text(element.querySelector('.peak'))).toContain('1.5 kN');
      expect(button(element, 'Keep as a test').disabled).toBeFalse();
    } finally {
      window.EventSource = real;
    }
  });
});

describe('A field for a measure', () => {
  @Component({
    imports: [MeasureField],
    template: `<ft-measure label="Tail" compact [diameterMm]="10" [(value)]="mm" />`,
  })
  class Host {
    readonly mm = signal<number | null>(120);
  }

  it('keeps what is written while it is read, and takes what comes from elsewhere', () => {
    TestBed.configureTestingModule({ providers: [signedIn()] });
    const fixture = TestBed.createComponent(Host);
    fixture.detectChanges();
    const input = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    expect(input.value).toBe('120 mm');
    type(input, '1 1/2 ft');
    fixture.detectChanges();
    expect(fixture.componentInstance.mm()).toBeCloseTo(457.2, 6);
    expect(input.value).toBe('1 1/2 ft');
    expect(text(fixture.nativeElement as HTMLElement)).toContain('1 1/2 ft = 457 mm');
    type(input, '1 1/2 f');
    fixture.detectChanges();
    expect(fixture.componentInstance.mm()).toBeNull();
    expect(input.value).toBe('1 1/2 f');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    type(input, '12 d');
    fixture.detectChanges();
    expect(fixture.componentInstance.mm()).toBe(120);
    fixture.componentInstance.mm.set(250);
    fixture.detectChanges();
    expect(input.value).toBe('250 mm');
  });
});

describe('Lengths', () => {
  it('are told in the units of the house', () => {
    const { house } = SESSION;
    const changes = { units: { value: 'inches', reason: 'Our tapes are so.' } };
    const inches = { ...SESSION, house: { ...house, practice: { ...house.practice, changes } } };
    for (const [session, short, long] of [
      [SESSION, '457 mm', '2.44 m'],
      [inches, '18 in', '8 ft'],
    ] as const) {
      TestBed.resetTestingModule();
      TestBed.configureTestingModule({ providers: [signedIn(session)] });
      const say = TestBed.runInInjectionContext(lengthsSaid);
      expect([say(457.2), say(2438.4)]).toEqual([short, long]);
    }
  });
});

describe('A text file', () => {
  it('is read in the encoding that it has', () => {
    expect(decoded(new TextEncoder().encode('Länge'))).toEqual({ text: 'Länge', encoding: 'UTF-8' });
    expect(decoded(new Uint8Array([0x4c, 0xe4, 0x6e, 0x67, 0x65]))).toEqual({
      text: 'Länge',
      encoding: 'Windows-1252',
    });
    expect(decoded(new Uint8Array([0xff, 0xfe, 0x4c, 0, 0xe4, 0])).text).toBe('Lä');
  });
});
