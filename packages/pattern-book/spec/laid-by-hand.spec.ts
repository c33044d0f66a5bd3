import { crossingsOf, distance, type Host, type Method, type Point, type Rope, type Step } from '@foxtrail/core';
import {
  evenWay,
  isLastLaid,
  judgeLaid,
  laidBy,
  mayTurn,
  stepsToLay,
  toLay,
  type Led,
  type Made,
  type ToLay,
} from '@foxtrail/core/drill';
import { patternOf, patterns } from '../src/index.js';

/** Evenly spread numbers from 0 to 1, the same every time. */
function chance(): () => number {
  let state = 7;
  return () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
}

const tasksOf = (method: Method): { step: Step; task: ToLay }[] =>
  stepsToLay(method).flatMap((step) => {
    const task = toLay(step);
    return task ? [{ step, task }] : [];
  });
const everyTask = patterns().flatMap(({ id, knot }) =>
  tasksOf(knot.method).map(({ step, task }) => ({ name: `${id}, step ${step.index + 1}`, task })),
);
const over = (way: readonly Point[]): Led => ({ points: way.map((point) => ({ point, under: false })), turned: [] });

/** The end led along a way, over and under as the lesson has it where it crosses what the lesson crosses nearest to there. */
function led(task: ToLay, way: readonly Point[]): { led: Led; made: readonly Made[] } {
  const first = laidBy(task, over(way))!;
  const turned = first.made.flatMap((m) => {
    const [near] = task.asked
      .filter((a) => a.strand === m.strand)
      .sort((a, b) => distance(a.point, m.point) - distance(b.point, m.point));
    return near && near.over !== m.over ? [m.at] : [];
  });
  const whole = { ...over(way), turned };
  return { led: whole, made: laidBy(task, whole)!.made };
}
const verdict = (task: ToLay, what: Led): ReturnType<typeof judgeLaid> => judgeLaid(task, laidBy(task, what)!);
const lessons = (task: ToLay): Point[] => task.shown.slice(1);

describe('A move laid by a learner', () => {
  it('is right when a trembling hand leads the end as the lesson does, in every move of the book', () => {
    const next = chance();
    const trembled = ([x, y]: Point): Point => [x + 0.8 * (next() - 0.5), y + 0.8 * (next() - 0.5)];
    expect(everyTask.length).toBeGreaterThan(180);
    for (const { name, task } of everyTask) {
      const way = evenWay([task.at, ...lessons(task).map(trembled)]).slice(1);
      expect(verdict(task, led(task, way).led).state)
        .withContext(name)
        .toBe('right');
    }
  });

  it('is wrong at the very crossing that is turned over, in every move of the book', () => {
    // Led in short straight pieces, a way may nick what it runs beside: those are looked at in the tests beside this one.
    const clean = everyTask.flatMap(({ name, task }) => {
      const right = led(task, lessons(task));
      return right.made.length === task.asked.length ? [{ name, task, right }] : [];
    });
    expect(clean.length).toBeGreaterThan(0.95 * everyTask.length);
    for (const { name, task, right } of clean) {
      for (const [i, m] of right.made.entries()) {
        const { turned } = right.led;
        const other = turned.includes(m.at) ? turned.filter((t) => t !== m.at) : [...turned, m.at];
        const found = verdict(task, { ...right.led, turned: other });
        expect(found.state === 'wrong' ? found.crossings : found.state)
          .withContext(`${name}, crossing ${i + 1}`)
          .toEqual([task.asked[i]!.number]);
      }
    }
  });

  it('is right so far while it is on its way, and goes elsewhere when it goes on across what the lesson does not cross', () => {
    let tried = 0;
    for (const { name, task } of everyTask) {
      const right = led(task, lessons(task));
      const last = right.made.at(-1);
      if (!last || right.made.length > task.asked.length) continue;
      const count = Math.ceil(last.at) - 1;
      const short = { ...right.led, points: right.led.points.slice(0, count) };
      if (count > 0) expect(verdict(task, short).state).withContext(name).toBe('short');
      // Round by the outside and once more across what it crossed last: in beneath it, out above.
      const [x, y] = right.led.points.at(-1)!.point;
      const far = 60;
      const round: Point[] = [
        [x, y - far],
        [x + far, y - far],
        [x + far, y + far],
        last.point,
        [2 * last.point[0] - x - far, 2 * last.point[1] - y - far],
      ];
      const more: Led = {
        ...right.led,
        points: [...right.led.points, ...round.map((point, i) => ({ point, under: i === 3 }))],
      };
      const laid = laidBy(task, more)!;
      // Where all that it crossed more may be pulled back, it is nothing.
      if (laid.plain.length < laid.made.length) continue;
      tried += 1;
      expect(judgeLaid(task, laid).state).withContext(name).toBe('elsewhere');
    }
    expect(tried).toBeGreaterThan(60);
  });

  it('is the lesson’s still when the hand goes across a strand and straight back', () => {
    const { task } = tasksOf(patternOf('bowline')!.knot.method).find(({ task: t }) => t.asked.length >= 2)!;
    const right = led(task, lessons(task));
    const first = right.made[0]!;
    const [before, after] = [Math.floor(first.at) - 1, Math.ceil(first.at)];
    const [p, q] = [right.led.points[Math.max(0, before)]!.point, right.led.points[after]!.point];
    const aside: Point = [(q[1] - p[1]) * 0.35, (p[0] - q[0]) * 0.35];
    const wavering: Point[] = [
      [p[0] + aside[0], p[1] + aside[1]],
      [q[0] + 2 * aside[0], q[1] + 2 * aside[1]],
    ];
    const way = right.led.points.map((l) => l.point);
    way.splice(after + 1, 0, ...wavering);
    const wavered = led(task, way);
    expect(wavered.made.length).toBe(right.made.length + 2);
    expect(verdict(task, wavered.led).state).toBe('right');
  });

  it('is the mirror image when a first loop is led round the other way', () => {
    const { task } = tasksOf(patternOf('overhand')!.knot.method).find(({ task: t }) => t.asked.length > 0)!;
    const [dx, dy] = [task.towards[0] - task.at[0], task.towards[1] - task.at[1]];
    /** Seen in a mirror that stands along the end. */
    const mirrored = ([x, y]: Point): Point => {
      const [u, v] = [x - task.at[0], y - task.at[1]];
      const along = (u * dx + v * dy) / (dx * dx + dy * dy);
      return [task.at[0] + 2 * along * dx - u, task.at[1] + 2 * along * dy - v];
    };
    expect(verdict(task, over(lessons(task).map(mirrored))).state).toBe('mirrored');
  });

  it('lies before or behind a post by the side on which it passes, whatever is turned over', () => {
    const rope: Rope = {
      id: 'a',
      points: [
        [-8, 4],
        [-4, 4],
      ],
      curve: 'straight',
      closed: false,
      ends: ['standing', 'tail'],
      weave: '',
    };
    const post: Host = {
      id: 'p',
      kind: 'post',
      points: [
        [0, -60],
        [0, 0],
        [0, 60],
      ],
    };
    const task: ToLay = {
      figure: { ropes: [rope], hosts: [post] },
      rope: 'a',
      way: 1,
      at: [-4, 4],
      towards: [-3, 4],
      asked: [],
      shown: [],
    };
    const past = (y: number, turned: readonly number[]): boolean[] =>
      laidBy(task, {
        ...over([
          [-2, y],
          [4, y],
        ]),
        turned,
      })!.made.map((m) => m.over);
    const [at] = laidBy(
      task,
      over([
        [-2, 4],
        [4, 4],
      ]),
    )!.made.map((m) => m.at);
    expect(mayTurn(task.figure, 'p')).toBeFalse();
    expect(mayTurn(task.figure, 'a')).toBeTrue();
    expect(past(4, [at!])).toEqual(past(4, []));
    expect(past(-4, [])).toEqual(past(4, []).map((o) => !o));
  });

  it('is the last one only where nothing more is laid: a bight that is drawn out after it is', () => {
    for (const { id, knot } of patterns()) {
      const laid = stepsToLay(knot.method).filter((s) => s.stretch);
      const last = laid.filter((s) => isLastLaid(knot.method, s));
      expect(last).withContext(id).toEqual(laid.slice(-1));
    }
  });

  it('keeps what lay before as it lay', () => {
    for (const { name, task } of everyTask) {
      if (task.figure.ropes.some((r) => r.points.length < 2)) continue;
      const count = crossingsOf(task.figure).length;
      const laid = laidBy(task, over(lessons(task)))!;
      expect(crossingsOf(laid.figure).length)
        .withContext(name)
        .toBe(count + laid.made.length);
    }
  });
});
