/**
 * Writing the figure file.
 */
import type { Figure } from '../figure/figure.js';
import type { KnotDocument } from '../knot/document.js';
import type { Layout, Method } from '../tying/method.js';
import type { Reel, ReelScene } from '../tying/reels.js';
import { FIGURE_FORMAT, type FigureFile } from './figure-schema.js';

type Written = Pick<FigureFile, 'ropes' | 'hosts'>;

const writeFigure = (figure: Figure): Written => ({
  ropes: figure.ropes.map((r) => ({
    ...r,
    points: r.points.map((p): [number, number] => [p[0], p[1]]),
    ends: [r.ends[0], r.ends[1]],
    ...(r.eyes ? { eyes: [...r.eyes] } : {}),
    ...(r.flips ? { flips: [...r.flips] } : {}),
    ...(r.breaks ? { breaks: r.breaks.map((b) => ({ ...b })) } : {}),
  })) as FigureFile['ropes'],
  hosts: figure.hosts.map((h) => ({ ...h, points: h.points.map((p): [number, number] => [p[0], p[1]]) })),
});

const writeLaying = ({ leaders, halts, finish, marks, exhibits, dressings, footage }: Layout): object => ({
  leaders: leaders.map((l) => ({ ...l })),
  halts: halts.map((h) => ({ ...h })),
  ...(finish && finish.length > 0 ? { finish: finish.map((f) => ({ ...f })) } : {}),
  ...(marks && marks.length > 0 ? { marks } : {}),
  ...(exhibits && exhibits.length > 0 ? { exhibits } : {}),
  ...(dressings && dressings.length > 0 ? { dressings } : {}),
  ...(footage && footage.length > 0 ? { footage } : {}),
});

const writeMethod = (method: Method, name: string | undefined): NonNullable<FigureFile['method']> => ({
  ...(name === undefined ? {} : { name }),
  ...(method.name === undefined ? {} : { layout: method.name }),
  ...writeLaying(method),
  ...(method.relaid && method.relaid.length > 0
    ? {
        relaid: method.relaid.map((l) => ({
          ...(l.name === undefined ? {} : { name: l.name }),
          ...(l.passes === undefined ? {} : { passes: l.passes }),
          ...writeFigure(l.figure),
          ...writeLaying(l),
        })),
      }
    : {}),
  ...(method.reels && method.reels.length > 0 ? { reels: method.reels.map(writeReel) } : {}),
});

type WrittenReel = NonNullable<NonNullable<FigureFile['method']>['reels']>[number];

const writeScene = (scene: ReelScene): WrittenReel['scenes'][number] => {
  if (scene.kind !== 'step' && scene.kind !== 'look' && scene.kind !== 'tail') return { ...scene };
  const { callouts, ...rest } = scene;
  return callouts ? { ...rest, callouts: [...callouts] } : rest;
};

const writeReel = ({ scenes, ...reel }: Reel): WrittenReel => ({ ...reel, scenes: scenes.map(writeScene) });

/** Writes a knot as the data of a figure file. */
export const writeKnot = (knot: KnotDocument): FigureFile => ({
  ...knot.extra,
  format: FIGURE_FORMAT,
  name: knot.name,
  entry: knot.entry,
  ...writeFigure(knot.method.figure),
  method: writeMethod(knot.method, knot.methodName),
  ...(knot.others && knot.others.length > 0
    ? {
        others: knot.others.map(({ name, method }) => ({
          ...writeFigure(method.figure),
          method: writeMethod(method, name),
        })),
      }
    : {}),
});
