/**
 * The figure file, `foxtrail-figure/1`, by its shape: a figure with its weave, and optionally the method that lays it and the entry
 * it belongs to. Unknown optional fields are kept.
 */
import * as z from 'zod';
import { BREAKS, LIMITS, MOST_TURNS, SPACINGS } from '../figure/bounds.js';
import { COLOUR_MARKS, CONSTRUCTIONS, CORDAGE_NAME, DIAMETERS, MOST_FLIPS, STIFFNESSES } from '../figure/cordage.js';
import { DRESSINGS, STRENGTHS } from '../dressing/dressed.js';
import { FOOTAGE } from '../footage/frame.js';
import { FILM_CALLOUTS, ON_FILM } from '../footage/on-film.js';
import { EXHIBIT_LIMIT, MARK_LIMIT } from '../dressing/shown.js';
import { entrySchema, OTHER_METHODS } from '../knot/entry.js';
import {
  CALLOUT_LENGTH,
  CALLOUT_LIMIT,
  CLOSE_UPS,
  FILM_SPEEDS,
  LONGEST_HOLD,
  HALT_LIMIT,
  LAYOUT_LIMIT,
  LIT_LIMIT,
  NAME_LENGTH,
  TEXT_LIMIT,
} from '../tying/limits.js';
import { PASSES, REELS, LOOK_SIDES, SCENE_CALLOUTS, REEL_SHAPES } from '../tying/reels.js';
import { nameSchema, plainText } from '../words/plain-text.js';

export const FIGURE_FORMAT = 'foxtrail-figure/1';

const coordinate = z.number().min(-LIMITS.reach).max(LIMITS.reach);
const pointSchema = z.tuple([coordinate, coordinate]);
const idSchema = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_-]{0,31}$/, 'an id is a letter followed by letters, digits, _ or -, 32 at most');
const pointsSchema = z.array(pointSchema).min(2).max(LIMITS.points);

const endSchema = z.enum(['standing', 'tail', 'off']);

/** Turns laid as one: control points `from` to `to` of their rope. */
const wrapSchema = z.looseObject({
  from: z.number().int().min(1),
  to: z.number().int().min(1),
  about: z
    .array(z.object({ strand: idSchema, at: z.number().min(0) }))
    .min(1)
    .max(LIMITS.strands),
  turns: z.number().multipleOf(0.5).min(0.5).max(MOST_TURNS),
  direction: z.enum(['on', 'back']),
  first: z.enum(['O', 'U']),
  spacing: z.number().min(SPACINGS.least).max(SPACINGS.most),
  riding: z.boolean().optional(),
  bight: z.boolean().optional(),
});

const colourSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'a colour is # and six digits or letters a to f');
/** What a rope is. */
export const cordageSchema = z.looseObject({
  name: plainText(CORDAGE_NAME).optional(),
  diameter: z.number().min(DIAMETERS.least).max(DIAMETERS.most).optional(),
  construction: z.enum(CONSTRUCTIONS).optional(),
  colour: colourSchema.optional(),
  second: colourSchema.optional(),
  mark: z.enum(COLOUR_MARKS).optional(),
  stiffness: z.enum(STIFFNESSES).optional(),
});

export const ropeSchema = z.looseObject({
  id: idSchema,
  points: pointsSchema,
  curve: z.enum(['smooth', 'straight']).default('smooth'),
  closed: z.boolean().default(false),
  ends: z.tuple([endSchema, endSchema]).default(['standing', 'tail']),
  weave: z
    .string()
    .max(2 * LIMITS.crossings)
    .default(''),
  eyes: z.array(z.number().min(0)).max(8).optional(),
  wraps: z.array(wrapSchema).max(24).optional(),
  cordage: cordageSchema.optional(),
  backUp: z.boolean().optional(),
  flips: z.array(z.number().min(0)).max(MOST_FLIPS).optional(),
  breaks: z
    .array(z.object({ at: z.number().min(0), counts: z.number().gt(0).max(BREAKS.counts) }))
    .max(BREAKS.most)
    .optional(),
  trimmed: z.tuple([z.boolean(), z.boolean()]).optional(),
});

export const hostSchema = z.looseObject({
  id: idSchema,
  kind: z.enum(['spar', 'post', 'ring', 'carabiner', 'hook', 'hand']),
  points: pointsSchema,
  size: z.number().min(0.5).max(40).optional(),
});

const leaderSchema = z.union([
  z.looseObject({ kind: z.literal('bight'), rope: idSchema, from: z.number().min(0), to: z.number().min(0) }),
  z.looseObject({
    kind: z.literal('end').default('end'),
    rope: idSchema,
    from: z.number().min(0).default(0),
    leads: z.literal('first').optional(),
  }),
]);
const placeSchema = { strand: idSchema, at: z.number().min(0) };

/** What a step says and how it is shown. */
const tellingShape = {
  text: z.string().max(TEXT_LIMIT).optional(),
  view: z.enum(['front', 'back']).optional(),
  closeUp: z.number().min(CLOSE_UPS.least).max(CLOSE_UPS.most).optional(),
  lit: z
    .array(z.object({ strand: idSchema, from: z.number().min(0), to: z.number().min(0) }))
    .max(LIT_LIMIT)
    .optional(),
  callouts: z
    .array(z.object({ ...placeSchema, text: plainText(CALLOUT_LENGTH) }))
    .max(CALLOUT_LIMIT)
    .optional(),
  ghost: z.boolean().optional(),
  arrow: z.boolean().optional(),
  numbers: z.boolean().optional(),
  filmed: z
    .object({
      speed: z.number().min(FILM_SPEEDS.least).max(FILM_SPEEDS.most).optional(),
      hold: z.number().min(0).max(LONGEST_HOLD).optional(),
      again: z.boolean().optional(),
    })
    .optional(),
};
const haltSchema = z.looseObject({
  leader: z.number().int().min(0),
  at: z.number().min(0),
  again: z
    .object({
      of: z.number().int().min(0),
      way: z.enum(['once more', 'from the other side', 'with the other rope']),
    })
    .optional(),
  ...tellingShape,
});
const finishSchema = z.looseObject({ kind: z.enum(['dress', 'set', 'check']), ...tellingShape });

const ropesSchema = z.array(ropeSchema).max(LIMITS.strands);
const hostsSchema = z.array(hostSchema).max(LIMITS.strands).default([]);
const layoutName = plainText(NAME_LENGTH).optional();
const trailPlaceSchema = z.object(placeSchema);
const crossingPlaceSchema = z.object({ first: trailPlaceSchema, second: trailPlaceSchema });
/** A place in a frame, as shares of its width and height. */
const inFrame = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]);
const framePlaceSchema = inFrame.optional();
const nudgeSchema = z.number().min(-DRESSINGS.farthest).max(DRESSINGS.farthest);
/** Ends and eyes of all ropes. */
const MOST_PARTS = 10 * LIMITS.strands;
const filmTime = z.number().min(0).max(FOOTAGE.longest);
const filmHash = z.string().regex(/^[0-9a-f]{64}$/, 'a film is named by the SHA-256 of its bytes, 64 digits');
/** What is shown of a knot finished in a layout, at places of its trail. */
const shownShape = {
  /** The marks of the inspection card, in its order. */
  marks: z
    .array(
      z.looseObject({
        kind: z.enum(['tail', 'turns', 'parallel', 'cross']),
        side: z.enum(['front', 'back']),
        place: trailPlaceSchema,
        beside: trailPlaceSchema.optional(),
        of: z.string().max(100).optional(),
      }),
    )
    .max(MARK_LIMIT)
    .optional(),
  /** Wrong ways shown to learners: the crossings that are laid wrong, and what that makes of the knot. */
  exhibits: z
    .array(
      z.looseObject({
        crossings: z.array(crossingPlaceSchema).min(1).max(2),
        becomes: plainText(160),
        tell: plainText(300).optional(),
      }),
    )
    .max(EXHIBIT_LIMIT)
    .optional(),
  /** The ways in which the knot is dressed and set, the right one first. */
  dressings: z
    .array(
      z.looseObject({
        name: plainText(NAME_LENGTH),
        inTurn: z.boolean().optional(),
        pulls: z
          .array(z.object({ place: trailPlaceSchema, pulled: z.enum(STRENGTHS) }))
          .max(MOST_PARTS)
          .optional(),
        nudges: z
          .array(z.object({ place: trailPlaceSchema, by: z.tuple([nudgeSchema, nudgeSchema, nudgeSchema]) }))
          .max(DRESSINGS.nudges)
          .optional(),
      }),
    )
    .max(DRESSINGS.most)
    .optional(),
  /** Films of the knot being tied, and what is marked in their frames. */
  footage: z
    .array(
      z.looseObject({
        film: filmHash,
        name: plainText(FOOTAGE.name),
        duration: z.number().min(0).max(FOOTAGE.longest),
        turned: z.boolean().optional(),
        frames: z
          .array(
            z.looseObject({
              at: z.number().min(0).max(FOOTAGE.longest),
              marks: z
                .array(
                  z.object({
                    crossing: crossingPlaceSchema,
                    over: z.enum(['first', 'second']),
                    point: framePlaceSchema,
                    first: framePlaceSchema,
                    second: framePlaceSchema,
                  }),
                )
                .max(FOOTAGE.marks),
            }),
          )
          .max(FOOTAGE.frames),
        captions: z
          .array(
            z.object({
              start: z.number().min(0).max(FOOTAGE.longest),
              end: z.number().min(0).max(FOOTAGE.longest),
              text: plainText(FOOTAGE.caption),
            }),
          )
          .max(FOOTAGE.captions)
          .optional(),
        cut: z.tuple([filmTime, filmTime]).optional(),
        steps: z
          .array(z.object({ step: z.number().int().min(0), at: filmTime }))
          .max(LAYOUT_LIMIT * HALT_LIMIT)
          .optional(),
        /** Two places that do not move, by which it is held still. */
        steady: z
          .array(z.object({ at: filmTime, a: inFrame, b: inFrame }))
          .max(ON_FILM.steady)
          .optional(),
        /** What is laid over it: words at places that are followed, and stretches that are played otherwise. */
        callouts: z
          .array(
            z.object({
              kind: z.enum(FILM_CALLOUTS),
              text: plainText(ON_FILM.text),
              keys: z
                .array(z.object({ at: filmTime, place: inFrame, end: inFrame.optional() }))
                .min(1)
                .max(ON_FILM.keys),
              until: filmTime,
            }),
          )
          .max(ON_FILM.callouts)
          .optional(),
        passages: z
          .array(
            z.object({
              from: filmTime,
              to: filmTime,
              speed: z.number().min(0.1).max(4).optional(),
              still: z.number().min(0).max(ON_FILM.longestStill).optional(),
              again: z.boolean().optional(),
              near: z.object({ place: inFrame, times: z.number().min(1).max(8), to: inFrame.optional() }).optional(),
              hidden: z.boolean().optional(),
            }),
          )
          .max(ON_FILM.passages)
          .optional(),
      }),
    )
    .max(FOOTAGE.films)
    .optional(),
};
/** How a layout is laid and finished. */
const layingShape = {
  leaders: z.array(leaderSchema).max(LIMITS.strands).default([]),
  halts: z.array(haltSchema).max(HALT_LIMIT).default([]),
  finish: z.array(finishSchema).max(HALT_LIMIT).optional(),
  ...shownShape,
};
const relaidSchema = z.looseObject({
  name: layoutName,
  ropes: ropesSchema,
  hosts: hostsSchema,
  /** What passes what on the way from the layout before. */
  passes: layoutName,
  ...layingShape,
});
const anyScene = {
  pass: z.enum(PASSES).optional(),
  /** What is said over it: the SHA-256 of the sound, and what of it is heard, in its seconds. */
  voice: z.object({ sound: filmHash, from: filmTime, to: filmTime }).optional(),
  /** Seconds after its beginning: what is shown then stands for the whole reel before it is played. */
  poster: z.number().min(0).max(3600).optional(),
};
/** What a scene points out, at places of the trail. */
const pointing = {
  callouts: z
    .array(
      z.object({
        kind: z.enum(SCENE_CALLOUTS),
        ...placeSchema,
        to: z.number().min(0).optional(),
        text: plainText(REELS.callout).optional(),
      }),
    )
    .max(REELS.callouts)
    .optional(),
};
const lasting = { seconds: z.number().min(REELS.shortest).max(REELS.longest).optional() };
/** A demonstration that its author composed, scene by scene. */
const reelSchema = z.looseObject({
  name: plainText(REELS.name),
  shape: z.enum(REEL_SHAPES).optional(),
  /** Beside a step: the knot from its other side, the trail beneath. */
  back: z.boolean().optional(),
  trail: z.boolean().optional(),
  /** Bands on plain ropes, by which they are seen to run. */
  bands: z.boolean().optional(),
  scenes: z
    .array(
      z.discriminatedUnion('kind', [
        z.looseObject({
          kind: z.literal('step'),
          step: z.number().int().min(0),
          /** A part of what the step lays, as shares of its length. */
          part: z
            .tuple([z.number().min(0).max(1), z.number().min(0).max(1)])
            .readonly()
            .optional(),
          speed: z.number().min(FILM_SPEEDS.least).max(FILM_SPEEDS.most).optional(),
          hold: z.number().min(0).max(LONGEST_HOLD).optional(),
          silent: z.boolean().optional(),
          text: plainText(REELS.text).optional(),
          ...pointing,
          ...anyScene,
        }),
        z.looseObject({
          kind: z.literal('look'),
          side: z.enum(LOOK_SIDES),
          text: plainText(REELS.text).optional(),
          ...pointing,
          ...lasting,
          ...anyScene,
        }),
        z.looseObject({
          kind: z.literal('wrong'),
          exhibit: z.number().int().min(0),
          text: plainText(REELS.text).optional(),
          ...lasting,
          ...anyScene,
        }),
        z.looseObject({
          kind: z.literal('card'),
          title: plainText(REELS.title).optional(),
          text: plainText(REELS.text),
          /** Beside its words: the knot as it is once this step is done. */
          step: z.number().int().min(0).optional(),
          ...lasting,
          ...anyScene,
        }),
        z.looseObject({
          kind: z.literal('tail'),
          text: plainText(REELS.text).optional(),
          ...pointing,
          ...lasting,
          ...anyScene,
        }),
        z.looseObject({
          kind: z.literal('film'),
          film: filmHash,
          from: filmTime,
          to: filmTime,
          text: plainText(REELS.text).optional(),
          beside: z.boolean().optional(),
          ...anyScene,
        }),
      ]),
    )
    .max(REELS.scenes),
});
const methodSchema = z.looseObject({
  /** What this way to tie the knot is called: “Hand-wrapped”. */
  name: nameSchema.optional(),
  /** What its first layout is called: “Open”. */
  layout: layoutName,
  ...layingShape,
  /** The layouts in which the knot is laid anew, in order. */
  relaid: z
    .array(relaidSchema)
    .max(LAYOUT_LIMIT - 1)
    .optional(),
  reels: z.array(reelSchema).max(REELS.most).optional(),
});
export const figureFileSchema = z.looseObject({
  format: z.literal(FIGURE_FORMAT),
  name: nameSchema.optional(),
  ropes: ropesSchema,
  hosts: hostsSchema,
  method: methodSchema.optional(),
  /** Other ways to tie the same knot. */
  others: z
    .array(z.looseObject({ ropes: ropesSchema, hosts: hostsSchema, method: methodSchema }))
    .max(OTHER_METHODS)
    .optional(),
  entry: entrySchema.optional(),
});
/** What a file may hold, before defaults are filled in. */
export type FigureFile = z.input<typeof figureFileSchema>;

/** The published JSON Schema of the figure file. */
export const figureJsonSchema = (): Record<string, unknown> => z.toJSONSchema(figureFileSchema, { io: 'input' });

/** Parts of a file that has been found to have the right shape. */
export type DrawnShape = Pick<z.output<typeof figureFileSchema>, 'ropes' | 'hosts'>;
export type LayingShape = Pick<
  z.output<typeof relaidSchema>,
  'leaders' | 'halts' | 'finish' | 'marks' | 'exhibits' | 'dressings' | 'footage'
>;
export type MethodShape = z.output<typeof methodSchema>;
