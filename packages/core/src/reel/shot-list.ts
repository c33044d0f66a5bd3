/**
 * The shot list: what is to be filmed for a reel, take by take: from which side, how near, which crossings no hand may hide. From its scenes;
 * without a reel from the steps and a look at both sides.
 */
import { stepText } from '../tying/compose.js';
import { shownExhibits } from '../identity/atlas.js';
import { finishedLayout, stepsOf } from '../tying/method.js';
import type { Reel, ReelScene } from '../tying/reels.js';
import { stepCamera, type Size } from './camera.js';
import { sayWrong, type Filmable } from './score.js';
import { crossingsPassed } from './timeline.js';

export interface ShotToFilm {
  /** The scene it is for, from 1. */
  readonly number: number;
  readonly says: string;
  /** From the side of whoever ties, or from behind: as a learner sees it who stands opposite. */
  readonly side: 'tying side' | 'from behind' | 'from its left' | 'from its right' | 'end on';
  /** Width of what must be seen, in diameters of the rope. */
  readonly wide: number;
  readonly near: boolean;
  /** Numbers of the crossings that are passed in it: no hand may hide them. */
  readonly free: readonly number[];
}

/** As wide as films are. */
const PICTURE: Size = { width: 1280, height: 720 };
/** A step that is seen in less than this share of the whole figure’s width is filmed nearer. */
const NEAR = 0.75;

const LOOKS = {
  front: 'tying side',
  back: 'from behind',
  left: 'from its left',
  right: 'from its right',
  end: 'end on',
} as const;

/** What is to be filmed; cards, and what is filmed already, are not. */
export function shotList(of: Filmable, reel?: Reel): readonly ShotToFilm[] {
  const { method, name, words } = of;
  const steps = stepsOf(method);
  const widthOf = (k: number): number => {
    const [left, , right] = stepCamera(method, k, 'front', PICTURE);
    return right - left;
  };
  const whole = steps.length === 0 ? 0 : Math.max(...steps.map((s) => widthOf(s.index)));
  const looked = (scene: Extract<ReelScene, { kind: 'look' }>): Omit<ShotToFilm, 'number'> => ({
    says: scene.text ?? `${name}, finished: hold it still.`,
    side: LOOKS[scene.side],
    wide: steps.length === 0 ? 0 : widthOf(steps.length - 1),
    near: false,
    free: [],
  });
  const shotOf = (scene: ReelScene): Omit<ShotToFilm, 'number'> | undefined => {
    switch (scene.kind) {
      case 'step': {
        const step = steps[scene.step];
        if (!step) return undefined;
        const passed = step.stretch ? crossingsPassed(step, scene.part).map((p) => p.crossing.number) : [];
        return {
          says: scene.text ?? stepText(method, scene.step, words),
          side: step.telling.view === 'back' ? 'from behind' : 'tying side',
          wide: widthOf(scene.step),
          near: widthOf(scene.step) < NEAR * whole,
          free: [...new Set(passed)],
        };
      }
      case 'look':
        return looked(scene);
      case 'tail':
        return {
          ...looked({ kind: 'look', side: 'front' }),
          says: scene.text ?? 'A ruler beside the tail: its end and the last crossing are seen.',
        };
      case 'wrong': {
        const wrong = shownExhibits(finishedLayout(method), name, words)[scene.exhibit];
        return (
          wrong && {
            ...looked({ kind: 'look', side: 'front' }),
            says: scene.text ?? sayWrong(wrong.becomes, wrong.tell),
          }
        );
      }
      default:
        return undefined;
    }
  };
  const scenes: readonly ReelScene[] = reel?.scenes ?? [
    ...steps.map((s): ReelScene => ({ kind: 'step', step: s.index })),
    { kind: 'look', side: 'front' },
    { kind: 'look', side: 'back' },
  ];
  return scenes.flatMap((scene, i): ShotToFilm[] => {
    const shot = shotOf(scene);
    return shot ? [{ number: i + 1, ...shot }] : [];
  });
}
