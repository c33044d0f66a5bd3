import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { backView, crossingsOf, findingsOf, mirror, WORKSHOP_WORDS } from '@foxtrail/core';
import type { Analysis } from '../data/analysis';
import { BenchStore } from '../knot/bench-store';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { ProofPage } from './proof';

describe('Proof', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<ProofPage>;
  let page: HTMLElement;
  const analysis = (more: Partial<Analysis>): Analysis => ({
    id: 1,
    findings: [],
    closure: {},
    windings: [],
    took: 1,
    ...more,
  });
  beforeEach(async () => {
    bench = new FakeBench();
    TestBed.configureTestingModule({ providers: [{ provide: BenchStore, useValue: bench }] });
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(ProofPage);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });

  it('shows front, back and left-handed, each with every crossing numbered', () => {
    expect([...page.querySelectorAll('figcaption h2')].map((h) => h.textContent)).toEqual([
      'Front',
      'Back',
      'Left-handed',
    ]);
    for (const figure of page.querySelectorAll('ft-figure')) expect(figure.querySelectorAll('.waymark').length).toBe(3);
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
  it('says that it falls apart, what holds, or why nothing can be said', async () => {
    const said = async (a: Partial<Analysis>): Promise<string> => {
      bench.analysis.set(analysis(a));
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
      tail: { diameters: 40, millimetres: 0 },
      cordMm: 10,
      words: WORKSHOP_WORDS,
    });
    bench.analysis.set(analysis({ findings: [{ ...findings[0]!, crossings: [2] }] }));
    await fixture.whenStable();
    page.querySelector<HTMLButtonElement>('.point')!.click();
    await fixture.whenStable();
    expect(page.querySelectorAll('.marks circle').length).toBe(3);
    expect(page.querySelectorAll('tr.marked').length).toBe(1);
    // A place away from every crossing is ringed by itself: here the end of the rope.
    bench.analysis.set(analysis({ findings: [findings[0]!] }));
    await fixture.whenStable();
    page.querySelector<HTMLButtonElement>('.point')!.click();
    await fixture.whenStable();
    const end = bench.method().figure.ropes[0]!.points.at(-1)!;
    const ring = page.querySelector('.marks circle')!;
    expect([ring.getAttribute('cx'), ring.getAttribute('cy')].map(Number)).toEqual([...end]);
    const before = bench.method().figure.ropes[0]!.points.at(-1)!;
    page.querySelector<HTMLButtonElement>('ft-findings-list button[mat-stroked-button]')!.click();
    expect(bench.method().figure.ropes[0]!.points.at(-1)![0]).toBeGreaterThan(before[0]);
  });
});
