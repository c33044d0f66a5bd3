import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { backView, crossingsOf, findingsOf, mirror, placeOfCrossing, WORKSHOP_WORDS } from '@foxtrail/core';
import { provideRouter } from '@angular/router';
import type { Identified } from '@foxtrail/contract';
import { of } from 'rxjs';
import type { Analysis } from '../data/analysis';
import { Api } from '../data/api';
import { FormingService } from '../data/forming';
import { identityOfOverhand, slippedOverhand } from '../testing/identity';
import { FakeBench } from '../testing/fake-bench';
import { FakeForming } from '../testing/forming';
import { Icons } from '../ui/icons';
import { HandCard } from './hand-card';
import { ProofPage } from './proof';

describe('Proof', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<ProofPage>;
  let page: HTMLElement;
  let onTheShelf: Identified['matches'] = [];
  const analysis = (more: Partial<Analysis>): Analysis => ({
    findings: [],
    closure: {},
    windings: [],
    took: 1,
    ...more,
  });
  beforeEach(async () => {
    bench = new FakeBench();
    // Nothing is set here.
    TestBed.overrideComponent(HandCard, {
      set: { providers: [{ provide: FormingService, useClass: FakeForming }] },
    });
    TestBed.configureTestingModule({
      providers: [
        bench.provided,
        { provide: Api, useValue: { identify: () => of({ matches: onTheShelf }) } },
        provideRouter([]),
      ],
    });
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(ProofPage);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    await tab('Crossings');
  });
  const tab = async (name: string): Promise<void> => {
    [...page.querySelectorAll<HTMLElement>('[role=tab]')].find((t) => t.textContent.includes(name))!.click();
    await fixture.whenStable();
  };

  it('shows front, back and left-handed, each with every crossing numbered', () => {
    expect([...page.querySelectorAll('.views figcaption h2')].map((h) => h.textContent)).toEqual([
      'Front',
      'Back',
      'Left-handed',
    ]);
    for (const figure of page.querySelectorAll('.views ft-figure'))
      expect(figure.querySelectorAll('.waymark').length).toBe(3);
  });
  it('derives the views rightly: behind keeps the signs, the mirror turns them', () => {
    const { figure } = bench.method();
    const signs = (f: typeof figure): number[] => crossingsOf(f).map((c) => c.sign);
    expect(signs(backView(figure))).toEqual(signs(figure));
    expect(signs(mirror(figure))).toEqual(signs(figure).map((s) => -s));
  });
  it('lists every crossing with its sign, and swaps from the table', async () => {
    const rows = (): string[] =>
      [...page.querySelectorAll('tr.mat-mdc-row')].map((r) => r.querySelector('.mat-column-sign')!.textContent.trim());
    const before = rows();
    expect(before.length).toBe(3);
    expect(new Set(before).size).toBe(1);
    page.querySelector<HTMLButtonElement>('[aria-label="Swap crossing 2"]')!.click();
    await fixture.whenStable();
    expect(rows()[1]).not.toBe(before[1]);
    expect(rows()[0]).toBe(before[0]);
  });
  it('keeps its buttons while it swaps, so that presses in quick succession all count', async () => {
    const buttons = [1, 2, 3].map((n) => page.querySelector<HTMLButtonElement>(`[aria-label="Swap crossing ${n}"]`)!);
    const before = bench.method().figure.ropes[0]!.weave;
    for (const b of buttons) {
      b.click();
      await fixture.whenStable();
      expect(b.isConnected).toBeTrue();
    }
    const turned = Array.from(before, (l) => (l === 'O' ? 'U' : 'O')).join('');
    expect(bench.method().figure.ropes[0]!.weave).toBe(turned);
  });
  it('has its rows where they were, whatever the verdict, the polynomial and what goes on', async () => {
    document.body.append(page);
    const row = (): number => page.querySelector('tbody tr, .crossings tr.mat-mdc-row')!.getBoundingClientRect().top;
    const before = row();
    const figure = bench.method().figure;
    for (const report of [identityOfOverhand(figure), slippedOverhand(figure), { declined: 'x '.repeat(300) }]) {
      bench.insight.identity.set(report);
      bench.insight.progress.set({ doing: 'Swapping each crossing in turn', share: 0.4 });
      bench.insight.analysis.set(analysis({ closure: { trivial: true, components: 2 } }));
      await fixture.whenStable();
      expect(row()).toBe(before);
    }
  });
  it('says that it falls apart, what holds, or why nothing can be said', async () => {
    const said = async (a: Partial<Analysis>): Promise<string> => {
      bench.insight.analysis.set(analysis(a));
      await fixture.whenStable();
      return page.querySelector('.crossings')!.textContent.replace(/\s+/g, ' ');
    };
    expect(await said({ closure: { jones: '1', trivial: true, components: 1, writhe: 1 } })).toContain(
      'It falls apart.',
    );
    const holds = await said({ closure: { jones: 't + t³ − t⁴', trivial: false, components: 1, writhe: -3 } });
    expect(holds).toContain('t + t³ − t⁴');
    expect(holds).toContain('Writhe −3');
    const link = await said({ closure: { jones: 'x', trivial: false, components: 2, writhe: 0 } });
    expect(link).toContain('2 closed curves');
    expect(link).not.toContain('plain rope');
    expect(await said({ closure: { reason: 'There is no rope on the board.' } })).toContain('no rope on the board');
  });
  it('rings the crossings that a finding points at, in every view, and mends with one press', async () => {
    const findings = findingsOf(bench.method(), {
      tail: { diameters: 24, millimetres: 0 },
      cordMm: 10,
      words: WORKSHOP_WORDS,
    });
    bench.insight.analysis.set(analysis({ findings: [{ ...findings[0]!, crossings: [2] }] }));
    await fixture.whenStable();
    page.querySelector<HTMLButtonElement>('.point')!.click();
    await fixture.whenStable();
    expect(page.querySelectorAll('.views .marks circle').length).toBe(3);
    expect(page.querySelectorAll('tr.marked').length).toBe(1);
    // A place away from every crossing is ringed by itself: here the end of the rope.
    bench.insight.analysis.set(analysis({ findings: [findings[0]!] }));
    await fixture.whenStable();
    page.querySelector<HTMLButtonElement>('.point')!.click();
    await fixture.whenStable();
    const end = bench.method().figure.ropes[0]!.points.at(-1)!;
    const ring = page.querySelector('.views .marks circle')!;
    expect([ring.getAttribute('cx'), ring.getAttribute('cy')].map(Number)).toEqual([...end]);
    const before = bench.method().figure.ropes[0]!.points.at(-1)!;
    page.querySelector<HTMLButtonElement>('ft-findings-list button[mat-stroked-button]')!.click();
    expect(bench.method().figure.ropes[0]!.points.at(-1)![0]).toBeGreaterThan(before[0]);
  });

  describe('as the verdict desk', () => {
    const band = (): string => page.querySelector('.verdict-band')!.textContent.replace(/\s+/g, ' ');
    const button = (text: string): HTMLButtonElement =>
      [...page.querySelectorAll('button')].find((b) => b.textContent.includes(text))!;
    afterEach(() => (onTheShelf = []));

    it('says what the figure is, with the evidence, and what it is beside', async () => {
      bench.insight.identity.set(identityOfOverhand(bench.method().figure));
      await tab('Identity');
      expect(band()).toContain('It is the overhand knot.');
      expect(page.querySelector('.verdict-band')!.classList).toContain('holds');
      expect(page.querySelectorAll('ft-verdict-tab ft-marked-figure').length).toBe(2);
      expect(page.querySelector('ft-verdict-tab .facts')!.textContent).toContain('can be laid with 3 crossings');
    });
    it('points at the crossing that is wrong in both figures, and puts it right with one press', async () => {
      bench.edit({ kind: 'swap', where: crossingsOf(bench.method().figure)[1]!.over });
      bench.insight.identity.set(slippedOverhand(bench.method().figure));
      await tab('Identity');
      expect(band()).toContain('It is not the overhand knot: it falls apart.');
      expect(page.querySelector('.verdict-band')!.classList).toContain('fails');
      expect(page.querySelectorAll('ft-verdict-tab circle.differs').length).toBeGreaterThan(0);
      const wrong = bench.method().figure.ropes[0]!.weave;
      button('Swap crossing 2').click();
      await fixture.whenStable();
      expect(bench.method().figure.ropes[0]!.weave).not.toBe(wrong);
      expect(bench.method().figure.ropes[0]!.weave).toBe('UOUOUO');
    });
    it('offers the crossings in which it differs from the pattern when no one or two swaps do', async () => {
      for (const i of [0, 1, 2]) bench.edit({ kind: 'swap', where: crossingsOf(bench.method().figure)[i]!.over });
      const report = slippedOverhand(bench.method().figure);
      // As if the claim had a hand of its own and the search had found nothing.
      bench.insight.identity.set({
        ...report,
        verdict: { ...report.verdict!, state: 'fails' },
        repairs: { repairs: [], tried: 2, complete: true },
        beside: report.beside!.map((b) => ({
          ...b,
          pairing: { turned: 'as drawn', pairs: [1, 2, 3].map((n) => ({ a: n, b: n, agrees: false })) },
        })),
      });
      await fixture.whenStable();
      button('Swap crossings 1, 2 and 3').click();
      await fixture.whenStable();
      expect(bench.method().figure.ropes[0]!.weave).toBe('UOUOUO');
    });
    it('names kin on the house’s own shelf', async () => {
      onTheShelf = [{ id: '00000000-0000-4000-8000-000000000009', name: 'Our thumb knot', relation: 'mirror' }];
      bench.insight.identity.set(identityOfOverhand(bench.method().figure));
      await new Promise((done) => setTimeout(done, 20));
      await fixture.whenStable();
      expect(band()).toContain('On your shelf: Our thumb knot (mirror).');
    });
    it('says why there is no verdict, and shows progress that can be stopped', async () => {
      bench.insight.identity.set({ declined: 'figure: There is no rope on the board.' });
      bench.insight.progress.set({ doing: 'Swapping each crossing in turn', share: 0.4 });
      await fixture.whenStable();
      expect(band()).toContain('There is no rope on the board');
      expect(band()).toContain('Swapping each crossing in turn');
      button('Stop').click();
      expect(bench.asked).toContain('cancel');
    });
    it('shows what each wrong crossing makes of it, and takes one as an exhibit and back', async () => {
      bench.insight.identity.set(identityOfOverhand(bench.method().figure));
      await tab('Mistakes');
      expect(page.querySelector('ft-mistakes-tab h3')!.textContent).toBe('Falls apart');
      expect(page.querySelector('ft-mistakes-tab li')!.textContent).toContain('Crossings 1, 2 and 3');
      button('Show learners').click();
      await fixture.whenStable();
      const [exhibit] = bench.method().exhibits!;
      expect(exhibit!.crossings).toEqual([placeOfCrossing(crossingsOf(bench.method().figure)[0]!)]);
      expect(exhibit!.becomes).toBe('Falls apart');
      button('Shown to learners').click();
      await fixture.whenStable();
      expect(bench.method().exhibits).toEqual([]);
    });
    it('puts computed marks on the card and numbers them on their side', async () => {
      await tab('Inspection card');
      const boxes = [...page.querySelectorAll<HTMLInputElement>('ft-card-tab input[type=checkbox]')];
      expect(boxes.length).toBeGreaterThan(6);
      boxes[0]!.click();
      boxes.at(-1)!.click();
      await fixture.whenStable();
      expect(bench.method().marks!.length).toBe(2);
      const numbers = [...page.querySelectorAll('ft-inspection-card figure')].map((f) =>
        [...f.querySelectorAll('text')].map((t) => t.textContent.trim()).filter((t) => t !== ''),
      );
      expect(numbers[0]).toContain('1');
      expect(numbers[1]).toContain('2');
      expect(page.querySelectorAll('ft-inspection-card ol li').length).toBe(2);
    });
    it('keeps what is claimed in the entry', () => {
      const proof = fixture.componentInstance as unknown as { setClaim(v: string): void };
      proof.setClaim('reef');
      expect(bench.knot().entry.claim).toBe('reef');
      proof.setClaim('');
      expect(bench.knot().entry.claim).toBeUndefined();
    });
  });
});
