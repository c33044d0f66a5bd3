import {
  crossingsOf,
  howToSet,
  mirroredSetting,
  setNow,
  type Chain,
  type Figure,
  type Rope,
  type RopeForm,
  type SetForm,
  type Setting,
} from '../../src/index.js';
import { flawsOf } from '../../src/form/index.js';
import { demoKnot } from '../support/figures.js';

function set({ figure, wishes }: Setting): SetForm {
  const done = setNow(figure, wishes);
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}

describe('what is not dressed on a form', () => {
  it('is nothing on knots that lie as they are drawn, of either hand', () => {
    for (const file of ['reef.json', 'sheet-bend.json']) {
      const setting = howToSet(demoKnot(file).method);
      for (const one of [setting, mirroredSetting(setting)])
        expect(flawsOf(one.figure, set(one)))
          .withContext(file)
          .toEqual([]);
    }
  });

  it('is the turn that crosses the standing part once more, of a bowline drawn up by its tail first', () => {
    const setting = howToSet(demoKnot('bowline.json').method);
    expect(flawsOf(setting.figure, set(setting))).toEqual([]);
    const last = setting.figure.ropes[0]!.points.length - 1;
    const pulls = [last, last / 2, 0].map((at, i) => ({
      place: { strand: 'a', at },
      pulled: i === 0 ? ('by hand' as const) : ('loaded' as const),
    }));
    const tailFirst = { ...setting, wishes: { ...setting.wishes, inTurn: true, pulls } };
    const flaws = flawsOf(setting.figure, set(tailFirst));
    expect(flaws.map((f) => f.kind)).toEqual(['needless crossing']);
    // None of the drawing's crossings is between those two places.
    const [flaw] = flaws;
    if (flaw?.kind !== 'needless crossing') throw new Error('another flaw');
    expect(
      crossingsOf(setting.figure).some(
        (c) => Math.abs(c.over.at - flaw.over.at) < 0.5 && Math.abs(c.under.at - flaw.under.at) < 0.5,
      ),
    ).toBeFalse();
  });

  it('is a strand that lies on the other side of its neighbour than it is drawn', () => {
    // Two straight ropes side by side; the form has them the other way round.
    const rope = (id: string, y: number): Rope => ({
      id,
      points: [
        [0, y],
        [20, y],
      ],
      curve: 'straight',
      closed: false,
      ends: ['standing', 'tail'],
      weave: '',
    });
    const figure: Figure = { ropes: [rope('a', 0), rope('b', 1.2)], hosts: [] };
    const n = 81;
    const chain = (id: string, y: (i: number) => number): Chain => ({
      rope: id,
      closed: false,
      radius: 0.5,
      x: Float64Array.from({ length: 3 * n }, (_, k) => (k % 3 === 0 ? k / 12 : k % 3 === 1 ? y((k - 1) / 3) : 0)),
      at: Float64Array.from({ length: n }, (_, i) => i / (n - 1)),
      outlets: [],
    });
    const lying = (of: number): RopeForm => ({ chains: [chain('a', () => 0), chain('b', () => of)], solids: [] });
    expect(flawsOf(figure, lying(1.02))).toEqual([]);
    expect(flawsOf(figure, lying(-1.02)).map((f) => f.kind)).toEqual(['wrong side']);
  });
});
