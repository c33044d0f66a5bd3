import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { crossingsOf, layoutsOf, stepsOf } from '@foxtrail/core';
import { FakeBench } from '../../testing/fake-bench';
import { Icons } from '../../ui/icons';
import { DraftState } from '../draft-state';
import { DRAFT_SERVICES } from '../draft-services';
import { Steps } from './steps';
import { StepTools } from './step-tools';

describe('the steps of a draft', () => {
  let bench: FakeBench;
  let state: DraftState;
  let tools: StepTools;
  let fixture: ComponentFixture<Steps>;
  let element: HTMLElement;
  beforeEach(async () => {
    bench = new FakeBench();
    TestBed.configureTestingModule({
      providers: [...DRAFT_SERVICES, bench.provided],
    });
    TestBed.inject(Icons);
    state = TestBed.inject(DraftState);
    tools = TestBed.inject(StepTools);
    fixture = TestBed.createComponent(Steps);
    element = fixture.nativeElement as HTMLElement;
    document.body.append(element);
    await fixture.whenStable();
  });
  afterEach(() => {
    fixture.destroy();
    element.remove();
  });

  const button = (name: string): HTMLButtonElement => {
    const found = [...document.querySelectorAll<HTMLButtonElement>('button')].find(
      (b) => b.getAttribute('aria-label') === name || b.textContent.trim().startsWith(name),
    );
    if (!found) throw new Error(`no button “${name}”`);
    return found;
  };
  const press = async (name: string): Promise<void> => {
    button(name).click();
    await fixture.whenStable();
  };
  const halt = (i: number) => bench.method().halts[i]!;
  const field = (label: string): HTMLInputElement => element.querySelector(`input[aria-label="${label}"]`)!;
  const enter = async (label: string, text: string, event: 'input' | 'change'): Promise<void> => {
    field(label).value = text;
    field(label).dispatchEvent(new Event(event, { bubbles: true }));
    await fixture.whenStable();
  };

  it('are proposed where moves end, in one edit that is undone as one', async () => {
    const before = bench.method().halts.length;
    while (bench.method().halts.length > 0) state.do({ kind: 'remove-step', index: 0 });
    await fixture.whenStable();
    await press('A step for each move');
    const proposed = bench.method().halts.map((h) => h.at);
    expect(proposed.length).toBeGreaterThan(1);
    expect(element.querySelectorAll('ft-step-card').length).toBeGreaterThanOrEqual(proposed.length);
    expect(before).toBeGreaterThan(0);
    // Nothing is left to propose: it is said, and nothing is changed.
    tools.proposeHalts();
    expect(bench.method().halts.map((h) => h.at)).toEqual(proposed);
    expect(state.message()).toContain('has its steps already');
  });
  it('are shown from the face, as near, and with what the author says', async () => {
    await press('Show step 1');
    await press('From behind');
    expect(halt(0).view).toBe('back');
    expect(state.view()).toBe('back');
    await press('Show the step closer');
    await press('Show the step closer');
    expect(halt(0).closeUp).toBe(2);
    expect(element.querySelector('output')!.textContent).toBe('2×');
    for (let i = 0; i < 3; i += 1) await press('Show the step from farther off');
    expect('closeUp' in halt(0)).toBeFalse();
    await press('Next');
    await press('Arrow');
    await press('Numbers');
    expect([halt(0).ghost, halt(0).arrow, halt(0).numbers]).toEqual([false, false, true]);
    await press('From behind');
    await press('Numbers');
    expect('view' in halt(0) || 'numbers' in halt(0)).toBeFalse();
    expect(state.view()).toBe('front');
  });

  it('call out the crossing pointed at, in words that can be changed', async () => {
    tools.callOut();
    expect(state.message()).toContain('Choose a step first');
    await press('Show step 2');
    tools.callOut();
    expect(state.message()).toContain('Point at a crossing');
    state.pointed.set(3);
    await press('Call out');
    const c = crossingsOf(bench.method().figure)[2]!;
    const [callout] = halt(1).callouts!;
    expect([c.first.at, c.second.at]).toContain(callout!.at);
    expect(callout!.text).toMatch(/^(over|under) the /);
    await enter('Callout 1', 'pinch here', 'input');
    expect(halt(1).callouts![0]!.text).toBe('pinch here');
    await press('Remove callout 1');
    expect('callouts' in halt(1)).toBeFalse();
  });

  it('light the stretch about a place, and put it out', async () => {
    await press('Show step 2');
    state.chosen.set({ kind: 'place', place: { strand: 'a', at: 2.5 } });
    await press('Light');
    const [span] = halt(1).lit!;
    expect(span!.from).toBeLessThan(2.5);
    expect(span!.to).toBeGreaterThan(2.5);
    expect(element.textContent).toContain('One stretch is lit.');
    tools.light();
    expect('lit' in halt(1)).toBeFalse();
  });

  it('are split, joined with both texts, and kept in the order of their trail', async () => {
    await press('Show step 2');
    await press('Split');
    expect(bench.method().halts.length).toBe(3);
    await press('Show step 1');
    await press('Join next');
    expect(bench.method().halts.length).toBe(2);
    expect(halt(1).text).toBe('Bring it up through and away.');
    await press('Later');
    expect(state.message()).toContain('the same end');
    await press('Show step 1');
    await press('Join next');
    expect(halt(0).text).toContain('Bring it up through and away.');
    expect(halt(0).text!.length).toBeGreaterThan('Bring it up through and away.'.length);
  });

  it('repeat an earlier one', async () => {
    await press('Show step 1');
    expect(tools.earlier()).toEqual([]);
    await press('Show step 2');
    await press('Again');
    await press('As in step 1, from the other side');
    expect(halt(1).again).toEqual({ of: 0, way: 'from the other side' });
    expect(button('As in step 1, from the other side')).toBeDefined();
    tools.setAgain(undefined, 'once more');
    expect('again' in halt(1)).toBeFalse();
  });

  it('finish the knot, and go from layout to layout', async () => {
    await press('Add');
    await press('A step that sets it');
    expect(bench.method().finish!.map((f) => f.kind)).toEqual(['set']);
    expect(tools.shown()?.does).toBe('set');
    await press('Add');
    await press('A layout');
    expect(layoutsOf(bench.method()).map((l) => l.name)).toEqual(['Open', 'Dressed']);
    expect(state.layout()).toBe(1);
    state.do({ kind: 'move-point', strand: 'a', index: 7, to: [24, -4] });
    expect(bench.method().figure.ropes[0]!.points.at(-1)).toEqual([20, -4]);
    expect(layoutsOf(bench.method())[1]!.figure.ropes[0]!.points.at(-1)).toEqual([24, -4]);
    tools.show(1);
    expect(state.layout()).toBe(0);
    tools.showNext(1);
    expect([state.layout(), tools.shown()?.index]).toEqual([1, 2]);
    tools.showNext(1);
    expect(tools.shown()).toBeUndefined();
    await fixture.whenStable();
    await enter('Name of layout 2', 'Drawn tight', 'change');
    expect(layoutsOf(bench.method())[1]!.name).toBe('Drawn tight');
    await press('Remove layout Drawn tight');
    expect(layoutsOf(bench.method()).length).toBe(1);
    expect(stepsOf(bench.method()).at(-1)!.does).toBe('set');
  });

  it('of a layout that has become another knot say so, and ask what passes what', async () => {
    tools.layAnew();
    const same = {
      layout: 1,
      takenOut: [],
      putIn: [],
      same: true,
      proved: true,
      evidence: 'The same knot.',
      differ: [],
    };
    bench.insight.identity.set({ layouts: { relaid: [same], methods: [], findings: [] } });
    await fixture.whenStable();
    expect(element.textContent).toContain('same knot, proved');
    const other = { ...same, same: false, proved: false, evidence: 'Not the same knot.', differ: ['It turns less.'] };
    bench.insight.identity.set({ layouts: { relaid: [other], methods: [], findings: [] } });
    await fixture.whenStable();
    expect(element.textContent).toContain('another knot');
    expect(element.textContent).toContain('It turns less.');
    await enter('What passes what on the way to this layout', 'the tail passes over', 'change');
    expect(layoutsOf(bench.method())[1]!.passes).toBe('the tail passes over');
  });

  it('of another method are drawn by themselves, and it is held against the first', async () => {
    tools.addMethod(false);
    await fixture.whenStable();
    expect(bench.inHand()).toBe(1);
    expect(element.textContent).toContain('No steps yet');
    expect(bench.methods()[0]!.method.halts.length).toBe(2);
    await enter('Name of this method', 'By twisting', 'change');
    expect(bench.methods()[1]!.name).toBe('By twisting');
    await enter('Name of this method', 'Method 1', 'change');
    expect(state.message()).toContain('already');
    expect(field('Name of this method').value).toBe('By twisting');
    const proof = { name: 'By twisting', same: false, proved: false, evidence: 'Nothing is laid yet.', differ: [] };
    bench.insight.identity.set({ layouts: { relaid: [], methods: [proof], findings: [] } });
    await fixture.whenStable();
    expect(element.textContent).toContain('Nothing is laid yet.');
    await press('This method');
    await press('Remove this method');
    expect(bench.methods().length).toBe(1);
    tools.addMethod(true);
    expect(bench.method().halts.length).toBe(2);
  });
});
