import * as fc from 'fast-check';
import { parse } from 'subsrt-ts';
import {
  FOOTAGE,
  footageTrouble,
  playedOf,
  withCut,
  withFilmedStep,
  type FilmCue,
  type Footage,
} from '../../src/footage/frame.js';
import {
  changeMethod,
  finishedLayout,
  layoutsOf,
  lessonCheck,
  SHIPPED_GLOSSARY,
  stepsOf,
  TAKEN_AS_KNOWN,
  WORKSHOP_CHOICE,
  WORKSHOP_WORDS,
  type Method,
} from '../../src/index.js';
import {
  cueAt,
  cueRemarks,
  filmChapters,
  filmSubRip,
  filmWebVtt,
  mended,
  readCaptions,
  retimed,
  withCue,
} from '../../src/reel/index.js';
import { drawnKnot } from '../support/figures.js';

const value = <T>(result: { ok: true; value: T } | { ok: false; reason: string }): T => {
  if (!result.ok) throw new Error(result.reason);
  return result.value;
};

/** Captions one after another, to the millisecond, of one line each. */
const captions = fc
  .array(
    fc.record({
      pause: fc.nat(4000),
      stands: fc.integer({ min: 100, max: 9000 }),
      text: fc.array(fc.stringMatching(/^[A-Za-z’,.]{1,12}$/), { minLength: 1, maxLength: 12 }).map((w) => w.join(' ')),
    }),
    { minLength: 1, maxLength: 30 },
  )
  .map((list): FilmCue[] => {
    let now = 0;
    return list.map(({ pause, stands, text }) => {
      const start = now + pause;
      now = start + stands;
      return { start: start / 1000, end: now / 1000, text };
    });
  });

const rounded = (cues: readonly FilmCue[]): FilmCue[] =>
  cues.map((c) => ({ ...c, start: Math.round(c.start * 1000) / 1000, end: Math.round(c.end * 1000) / 1000 }));

describe('Captions of a film', () => {
  it('are read as they were written, as WebVTT and as SubRip, in lines of any length', () => {
    fc.assert(
      fc.property(captions, fc.integer({ min: 12, max: 60 }), (cues, perLine) => {
        for (const file of [filmWebVtt(cues, 'A film', perLine), filmSubRip(cues, perLine)]) {
          const read = value(readCaptions(file));
          expect(rounded(read.cues)).toEqual(rounded(cues));
          expect(read.troubles).toEqual([]);
        }
      }),
    );
  });
  it('are understood by a reader of another house as they were meant', () => {
    fc.assert(
      fc.property(captions, (cues) => {
        for (const [format, file] of [
          ['vtt', filmWebVtt(cues, 'A film', 42)],
          ['srt', filmSubRip(cues, 42)],
        ] as const) {
          const theirs = parse(file, { format }).flatMap((c) =>
            c.type === 'caption'
              ? [{ start: c.start / 1000, end: c.end / 1000, text: c.text.replace(/\s+/g, ' ').trim() }]
              : [],
          );
          expect(theirs.map(({ start, end, text }) => ({ start, end, text })))
            .withContext(file)
            .toEqual(rounded(cues));
        }
      }),
      { numRuns: 40 },
    );
  });
  it('are read as other programs write them: without hours, with voices and styles, with notes, of any line ends', () => {
    const file =
      'WEBVTT - made elsewhere\r\nKind: captions\r\n\r\nSTYLE\r\n::cue { color: red }\r\n\r\nNOTE a remark\r\n\r\nfirst\r\n00:01.500 --> 00:03.250 align:start\r\n<v Wren>Take the <i>end</i> &amp; pass it\r\nover.\r\n\r\n01:00:00.000 --> 01:00:02.000\r\n{\\an8}Done\r\n';
    expect(value(readCaptions(file)).cues).toEqual([
      { start: 1.5, end: 3.25, text: 'Take the end & pass it over.' },
      { start: 3600, end: 3602, text: 'Done' },
    ]);
    const srt = '\uFEFF1\n00:00:01,5 --> 00:00:02,75\nUp\n\n\n2\n0:00:03,000 --> 0:00:04,000\nand through\n';
    expect(value(readCaptions(srt)).cues.map((c) => [c.start, c.end])).toEqual([
      [1.5, 2.75],
      [3, 4],
    ]);
  });
  it('that overlap, stand in disorder, end before they begin or cannot be read are put right or left out, each with its line', () => {
    const file =
      'WEBVTT\n\n00:05.000 --> 00:07.000\nlater\n\n00:01.000 --> 00:06.000\nearlier\n\n00:09.000 --> 00:08.000\nnever\n\n00:0x.000 --> 00:12.000\nwhen?\n\njust words\n';
    const { cues, troubles } = value(readCaptions(file));
    expect(cues).toEqual([
      { start: 1, end: 5, text: 'earlier' },
      { start: 5, end: 7, text: 'later' },
    ]);
    expect(troubles.map((t) => t.line)).toEqual([3, 6, 9, 12, 15]);
  });
  it('are refused where there is none, with the line that was tried and how to mend it', () => {
    for (const file of ['', 'only words', 'WEBVTT\n', '\u0000\u0001\u0002', '1\n00:00:01 -> 00:00:02\nno']) {
      const read = readCaptions(file);
      expect(read.ok).toBe(false);
      if (!read.ok) expect(read.remedy).toContain('-->');
    }
    const many = Array.from({ length: FOOTAGE.captions + 1 }, (_, i) => ({ start: i, end: i + 0.5, text: 'on' }));
    expect(readCaptions(filmSubRip(many)).ok).toBe(false);
  });
  it('of a file that is something else are left out at once, however it is made to be slow', () => {
    for (const one of ['<', '{\\', 'word ', '&a', '<a{\\']) {
      const read = readCaptions(
        `1\n00:00:01,000 --> 00:00:03,000\n${one.repeat(300_000)}\n\n2\n00:00:04,000 --> 00:00:05,000\nup\n`,
      );
      expect(value(read).cues.map((c) => c.text))
        .withContext(one)
        .toEqual(['up']);
      expect(value(read).troubles.map((t) => t.line)).toEqual([2]);
    }
  });
  it('too long for one are several, and no word is lost', () => {
    const text = Array.from({ length: 90 }, (_, i) => `word${i}`).join(' ');
    const { cues } = value(readCaptions(`1\n00:00:00,000 --> 00:00:30,000\n${text}\n`));
    expect(cues.length).toBeGreaterThan(2);
    expect(cues.map((c) => c.text).join(' ')).toBe(text);
    expect(cues.every((c) => c.text.length <= FOOTAGE.caption)).toBe(true);
    expect([cues[0]?.start, cues.at(-1)?.end]).toEqual([0, 30]);
  });
  it('stand one after another whatever is begun, ended or written anew, and what was said stays', () => {
    const edits = fc.array(
      fc.record({
        at: fc.integer({ min: 0, max: 200_000 }),
        index: fc.nat(40),
        what: fc.constantFrom('start', 'end', 'new'),
      }),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(captions, edits, (cues, list) => {
        let now: readonly FilmCue[] = cues;
        let written = 0;
        for (const { at, index, what } of list) {
          const time = at / 1000;
          const next = what === 'new' ? withCue(now, time, 200, 'new') : retimed(now, index, { [what]: time });
          if (!next) continue;
          if (what === 'new') written += 1;
          now = next;
        }
        expect(now.length).toBe(cues.length + written);
        expect(now.flatMap((c) => (c.text === 'new' ? [] : [c.text]))).toEqual(
          cues.flatMap((c) => (c.text === 'new' ? [] : [c.text])),
        );
        now.forEach((c, i) => {
          expect(c.end).toBeGreaterThan(c.start);
          if (i > 0) expect(c.start).toBeGreaterThanOrEqual(now[i - 1]!.end - 1e-9);
        });
      }),
    );
  });
  it('are found by the time that is shown', () => {
    const cues = [{ start: 1, end: 2, text: 'one' }];
    expect([0.5, 1, 1.99, 2].map((t) => cueAt(cues, t)?.text)).toEqual([undefined, 'one', 'one', undefined]);
  });
});

describe('The caption cleaner', () => {
  const check = lessonCheck({}, WORKSHOP_CHOICE, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN);
  const cleaned = (text: string, seconds = 60): { kinds: string[]; text: string } => {
    const kinds: string[] = [];
    let now = text;
    for (;;) {
      const [remarks = []] = cueRemarks([{ start: 0, end: seconds, text: now }], check, 17);
      const next = remarks.find((r) => r.mends.length > 0);
      if (!next) return { kinds, text: now };
      kinds.push(next.kind);
      now = mended(now, next.mends[0]!);
    }
  };

  it('takes out what says nothing, and leaves the sentence whole', () => {
    expect(cleaned('Um, take the, uh, the end over the spar.')).toEqual({
      kinds: ['filler', 'filler', 'said twice'],
      text: 'Take the end over the spar.',
    });
    expect(cleaned('So you know, it holds.').text).toBe('So it holds.');
  });
  it('puts a side right that was said wrongly and taken back', () => {
    expect(cleaned('Lead it to the left, sorry, to the right.')).toEqual({
      kinds: ['corrected'],
      text: 'Lead it to the right.',
    });
    expect(cleaned('It goes over, no, under the loop.')).toEqual({
      kinds: ['corrected'],
      text: 'It goes under the loop.',
    });
    // A way that is meant is none.
    for (const text of ['First left, then right.', 'Go over and under.', 'Over, under, over.'])
      expect(cleaned(text)).withContext(text).toEqual({ kinds: [], text });
  });
  it('knows what is misheard, and says what the house calls it', () => {
    expect(cleaned('Make a bite in the rope.').text).toBe('Make a bight in the rope.');
  });
  it('keeps what is rightly said twice, and words that only sound like fillers', () => {
    for (const text of [
      'Round and round, over over the first turn.',
      'Take the number of turns, then summer rope.',
      'Once more, hum along.',
    ])
      expect(cleaned(text)).withContext(text).toEqual({ kinds: [], text });
  });
  it('says what is gone before it is read', () => {
    const [quick] = cueRemarks([{ start: 0, end: 1, text: 'Take the end twice round the spar.' }], check, 17);
    expect(quick?.map((r) => r.kind)).toEqual(['quick']);
    const [calm] = cueRemarks([{ start: 0, end: 3, text: 'Take the end twice round the spar.' }], check, 17);
    expect(calm).toEqual([]);
  });
});

describe('what is played of a film, and where its steps begin', () => {
  const film: Footage = { film: 'f'.repeat(64), name: 'Take', duration: 30, frames: [] };
  it('is cut where it is said, within the film, and is all of it where nearly nothing is cut off', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 35, noNaN: true }),
        fc.double({ min: -5, max: 35, noNaN: true }),
        (a, b) => {
          const cut = withCut(film, a, b);
          const [from, to] = playedOf(cut);
          expect(from).toBeGreaterThanOrEqual(0);
          expect(to).toBeLessThanOrEqual(30);
          expect(to).toBeGreaterThan(from);
          expect(footageTrouble([cut])).toBeUndefined();
          if (a > 1 && b < 29 && b - a > 1) expect(cut.cut).toEqual([a, b]);
        },
      ),
    );
    expect(withCut({ ...film, cut: [1, 2] }, 0.1, 30)).toEqual(film);
    expect(footageTrouble([{ ...film, cut: [5, 31] }])?.reason).toContain('lasts 30.0 seconds');
  });
  it('begins each step once, in time, and no two at one place', () => {
    const set = (f: Footage, ...list: readonly (readonly [number, number | undefined])[]): Footage =>
      list.reduce((made, [step, at]) => withFilmedStep(made, step, at), f);
    expect(set(film, [1, 8], [0, 2], [2, 20]).steps).toEqual([
      { step: 0, at: 2 },
      { step: 1, at: 8 },
      { step: 2, at: 20 },
    ]);
    expect(set(film, [1, 8], [1, 9]).steps).toEqual([{ step: 1, at: 9 }]);
    expect(set(film, [1, 8], [2, 8]).steps).toEqual([{ step: 2, at: 8 }]);
    expect(set(film, [1, 8], [1, undefined])).toEqual(film);
    expect(footageTrouble([set(film, [0, 31])])).toBeDefined();
  });
  it('has chapters, each to the next within what is played; a step that is not there has none', () => {
    const { method } = drawnKnot('reef.json');
    const cut = { ...withCut(film, 3, 25), steps: [0, 1, 99].map((step) => ({ step, at: 10 * step })) };
    const times = filmChapters(cut, method, WORKSHOP_WORDS).match(/^step-.*\n.*$/gm);
    expect(times).toEqual(['step-1\n00:00:03.000 --> 00:00:10.000', 'step-2\n00:00:10.000 --> 00:00:25.000']);
  });
  it('follows its steps when they are split and joined', () => {
    const { method } = drawnKnot('reef.json');
    const layout = layoutsOf(method).length - 1;
    const steps = stepsOf(method).map(({ index }) => ({ step: index, at: index }));
    const shown = value(changeMethod(method, layout, { kind: 'show', shown: { footage: [{ ...film, steps }] } }));
    const [, second] = stepsOf(method);
    const { leader, from, to } = second!.stretch!;
    const split = value(changeMethod(shown, 0, { kind: 'place-halt', leader, at: (from + to) / 2 }));
    const now = (m: Method): (readonly [number, number])[] =>
      finishedLayout(m).footage![0]!.steps!.map((s) => [s.step, s.at] as const);
    // What begins after it is counted on; the second half of the step begins nowhere yet.
    expect(now(split)).toEqual(steps.map(({ at }) => [at <= 1 ? at : at + 1, at] as const));
    const joined = value(changeMethod(split, 0, { kind: 'join-step', index: 1 }));
    expect(now(joined)).toEqual(steps.filter((s) => s.at !== 1).map(({ at }) => [at, at] as const));
  });
});
