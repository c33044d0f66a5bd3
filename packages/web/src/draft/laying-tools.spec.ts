import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  changeMethod,
  crossingsOf,
  hostAt,
  methodFor,
  passagesOf,
  weaveFigure,
  type Figure,
  type Method,
  WORKSHOP_WORDS,
  type LayoutEdit,
  type Point,
} from '@foxtrail/core';
import { BenchStore, type Doing } from '../knot/bench-store';
import { Icons } from '../ui/icons';
import { DraftState } from './draft-state';
import { DRAFT_SERVICES } from './draft-services';
import { Handling } from './handling';
import { fitBight, LayingTools } from './laying-tools';
import { ToolPanel } from './tool-panel';

const rope = (id: string, points: Point[]): Figure['ropes'][number] => ({
  id,
  points,
  curve: 'smooth',
  closed: false,
  ends: ['standing', 'tail'],
  weave: '',
});

describe('the laying tools', () => {
  const method = signal<Method>(methodFor({ ropes: [], hosts: [] }));
  let tools: LayingTools;
  let state: DraftState;
  let handling: Handling;
  beforeEach(() => {
    method.set(
      methodFor({
        ropes: [
          rope('a', [
            [-2, 16],
            [-2, 10],
            [-2, 6],
          ]),
        ],
        hosts: [hostAt('spar', 'spar1', [0, 0])],
      }),
    );
    const store = {
      method,
      vocabulary: () => WORKSHOP_WORDS,
      edit: (edit: LayoutEdit, { layout = 0 }: Doing = {}) => {
        const done = changeMethod(method(), layout, edit);
        if (done.ok) method.set(done.value);
        return done;
      },
    };
    TestBed.configureTestingModule({ providers: [...DRAFT_SERVICES, { provide: BenchStore, useValue: store }] });
    TestBed.inject(Icons);
    state = TestBed.inject(DraftState);
    handling = TestBed.inject(Handling);
    tools = TestBed.inject(LayingTools);
  });
  const shown = (): number => {
    TestBed.tick();
    return crossingsOf(state.figure()).length;
  };
  const laid = (): number => crossingsOf(method().figure).length;

  it('make a move where its part is pressed, and stay in hand for the next one', () => {
    tools.takeMove('hitch');
    expect(tools.edit()).toBeUndefined();
    tools.press([-2, 0.3], false);
    expect(laid()).toBe(3);
    expect(state.message()).toContain('the spar');
    expect(tools.kind()).toBe('move');
    expect(tools.moves.about()).toBeNull();
    tools.takeMove('hitch');
    expect(tools.kind()).toBeNull();
  });

  it('show a move where the pointer rests, and lay nothing by it', () => {
    jasmine.clock().install();
    tools.takeMove('turns');
    tools.moves.hover([-2, 0.3]);
    expect(tools.edit()).toBeUndefined();
    jasmine.clock().tick(500);
    expect(tools.edit()?.kind).toBe('several');
    expect(shown()).toBe(4);
    expect(laid()).toBe(0);
    // Nothing was asked for yet: nothing is refused.
    tools.moves.about.set({ strand: 'nothing', at: 0 });
    expect(tools.refusal()).toBe('');
    jasmine.clock().uninstall();
  });

  it('make a move by keys alone: the part by its name, the place along it, Enter', () => {
    tools.takeMove('turns');
    tools.choose('spar1');
    tools.moves.putAt(tools.moves.along() + 2);
    tools.moves.turns.set(1.5);
    tools.lay();
    expect(laid()).toBe(3);
  });

  it('refuse a move that has no room in words, and leave the knot as it is', () => {
    tools.takeMove('loop');
    tools.choose('spar1');
    expect(tools.refusal()).toContain('its own part'.slice(4));
    tools.lay();
    expect(laid()).toBe(0);
    expect(state.message()).toContain('Press on the rope');
  });

  it('propose turns, which the board shows before they are laid', () => {
    tools.take('wrap');
    expect(tools.edit()).toBeUndefined();
    tools.press([-2, 0.3], false);
    expect(tools.about().map((p) => p.strand)).toEqual(['spar1']);
    expect(shown()).toBe(4);
    expect(laid()).toBe(0);
    tools.turns.set(3);
    expect(shown()).toBe(6);
    tools.lay();
    expect(laid()).toBe(6);
    expect(tools.kind()).toBeNull();
    expect(shown()).toBe(6);
  });
  it('take laid turns in hand again and lay them anew', () => {
    tools.take('wrap');
    tools.choose('spar1');
    tools.lay();
    tools.take('wrap');
    expect(tools.wraps().map((w) => w.name)).toEqual(['2 turns round the spar']);
    tools.rewrap(0);
    tools.turns.set(5);
    tools.spacing.set(1.6);
    tools.lay();
    expect(laid()).toBe(10);
    expect(method().figure.ropes[0]!.wraps!.length).toBe(1);
  });
  it('take a bight round as well as the end, both legs, and count its turns anew', () => {
    tools.take('bight');
    tools.press([-2, 8], false);
    for (const y of [6.5, 5, 4]) tools.draw({ point: [-6, y], under: false });
    tools.lay();
    const before = laid();
    tools.take('wrap');
    expect(tools.lastBight()).toBeDefined();
    tools.choose('spar1');
    tools.ofBight.set(true);
    tools.lay();
    expect(state.message()).toContain('The bight is wrapped 2 times round');
    expect(laid()).toBe(before + 8);
    tools.take('wrap');
    expect(tools.ofBight()).toBeFalse();
    tools.rewrap(0);
    tools.turns.set(1);
    tools.lay();
    expect(laid()).toBe(before + 4);
  });
  it('put away leave everything as it was; pressed twice a strand is let go', () => {
    tools.take('wrap');
    tools.choose('spar1');
    tools.choose('spar1');
    expect(tools.about()).toEqual([]);
    tools.choose('spar1');
    tools.take('wrap');
    expect(shown()).toBe(0);
    expect(tools.kind()).toBeNull();
  });
  it('say why something cannot be laid, and lay nothing', () => {
    tools.take('wrap');
    tools.choose('spar1');
    tools.spacing.set(0.2);
    expect(tools.refusal()).toContain('apart');
    tools.lay();
    expect(laid()).toBe(0);
    expect(state.message()).toContain('apart');
  });
  it('choose the stretch to follow by two presses, and follow it on either side', () => {
    method.set(
      methodFor({
        ropes: [
          rope('b', [
            [-20, -10],
            [-10, -10],
            [0, -10],
            [10, -10],
            [20, -10],
          ]),
          rope('a', [
            [-26, -4],
            [-22, -8],
          ]),
        ],
        hosts: [],
      }),
    );
    tools.take('retrace');
    tools.press([-18, -10], false);
    tools.press([18, -10], false);
    expect(tools.strand()).toBe('b');
    expect(Math.round(tools.to() - tools.from())).toBe(36);
    expect(tools.side()).toBe('right');
    tools.lay();
    const follower = method().figure.ropes[1]!.points.slice(2);
    expect(follower.length).toBeGreaterThan(10);
    // To the right of a strand that runs to the right is below it.
    follower.forEach(([, y]) => expect(y).toBeCloseTo(-10 + 1.45, 1));
  });
  it('draw a bight out of the rope along a stroke, with its letters', () => {
    tools.take('bight');
    expect(tools.press([-2, 10], false)).toBeTrue();
    for (let i = 1; i <= 20; i += 1) tools.draw({ point: [-2 + i * 0.5, 10 - i], under: i > 9 });
    expect(shown()).toBe(2);
    tools.lay();
    expect(laid()).toBe(2);
    expect(method().leaders.some((l) => l.kind === 'bight')).toBeTrue();
    expect(method().figure.ropes[0]!.weave).toBe('UU');
    expect(fitBight([{ point: [0, 0], under: true }])).toEqual({ points: [[0, 0]], pass: 'U' });
  });
  it('take what is pressed after its place as the way of a bight, however near a strand', () => {
    const [at] = [method().figure.ropes[0]!.points.at(-1)!];
    tools.take('bight');
    expect(tools.press([-2, 10], false)).toBeTrue();
    const place = tools.place();
    tools.press([-2, 4], true);
    tools.press([at[0], at[1] + 0.5], false);
    expect(tools.place()).toEqual(place);
    expect(tools.path().map((s) => s.under)).toEqual([true, false]);
  });
  it('pass a bight under just where the key was held, in the middle of its stroke too', () => {
    const stroke = Array.from({ length: 41 }, (_, i) => ({ point: [i, 0] as const, under: i >= 17 && i <= 23 }));
    const { points, pass } = fitBight(stroke);
    expect(points.length).toBe(pass.length);
    const changes = points.filter((_, i) => i > 0 && pass[i] !== pass[i - 1]).map(([x]) => x);
    expect(changes.length).toBe(2);
    // A letter stands at the end of what it says.
    expect(points[pass.indexOf('U') - 1]![0]).toBe(16);
    expect(points[pass.lastIndexOf('U')]![0]).toBe(23);
  });
  it('need a rope', () => {
    method.set(methodFor({ ropes: [], hosts: [] }));
    tools.take('twist');
    expect(tools.kind()).toBeNull();
    expect(state.message()).toBe('Lay a rope first.');
  });
  it('show what they ask for in a panel', async () => {
    tools.take('wrap');
    const fixture = TestBed.createComponent(ToolPanel);
    await fixture.whenStable();
    const panel = fixture.nativeElement as HTMLElement;
    const press = async (name: string): Promise<void> => {
      [...panel.querySelectorAll('button')]
        .find((b) => (b.getAttribute('aria-label') ?? b.textContent).trim() === name)!
        .click();
      await fixture.whenStable();
    };
    await press('the spar');
    await press('Half a turn more');
    const turns = panel.querySelector<HTMLInputElement>('#turns')!;
    expect(turns.value).toBe('2.5');
    for (const [typed, taken] of [
      ['10', '10'],
      ['99', '12'],
      ['', '12'],
      ['2.6', '2.5'],
    ] as const) {
      turns.value = typed;
      turns.dispatchEvent(new Event('change'));
      await fixture.whenStable();
      expect(turns.value).toBe(taken);
    }
    await press('Lay it');
    expect(laid()).toBe(5);
  });
  it('size and lay hosts of every kind', () => {
    for (const kind of ['post', 'ring', 'carabiner', 'hook', 'hand'] as const) {
      handling.addHost(kind, [8, 8]);
      expect(method().figure.hosts.at(-1)!.kind).toBe(kind);
      handling.sizeHost(1);
      expect(method().figure.hosts.at(-1)!.size).toBeGreaterThan(1);
      handling.removeChosen();
    }
    expect(method().figure.hosts.length).toBe(1);
  });
  it('declare a loop an eye, and take that back; where nothing closes it there is none', () => {
    const loop = rope('a', [
      [-20, 0],
      [10, 0],
      [10, -10],
      [-4, -10],
      [-4, 12],
    ]);
    method.set(methodFor(weaveFigure({ ropes: [loop], hosts: [] }, () => true)));
    handling.toggleEye();
    expect(state.message()).toContain('Choose a place');
    state.chosen.set({ kind: 'place', place: { strand: 'a', at: 0.01 } });
    handling.toggleEye();
    expect(state.message()).toContain('There is no loop');
    const [first, second] = passagesOf(method().figure, 'a').map((p) => p.at);
    const at = (first! + second!) / 2;
    state.chosen.set({ kind: 'place', place: { strand: 'a', at } });
    handling.toggleEye();
    expect(method().figure.ropes[0]!.eyes).toEqual([at]);
    handling.toggleEye();
    expect(method().figure.ropes[0]!.eyes).toEqual([]);
  });
});
