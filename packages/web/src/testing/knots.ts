/**
 * Knots and stand-ins for web unit tests.
 */
import { EMPTY, type Observable } from 'rxjs';
import type { KnotCard, Session } from '@foxtrail/contract';
import {
  classLabel,
  readKnot,
  tailRuleId,
  USE_GRADES,
  WORKSHOP_WORDS,
  writeKnot,
  type FigureFile,
  type HousePractice,
  type KnotClass,
  type KnotDocument,
} from '@foxtrail/core';
import { signal, type Provider } from '@angular/core';
import type { Analysis } from '../data/analysis';
import type { IdentityReport } from '../data/identity';
import { SessionService } from '../data/session';

/** The Workshop's rules, but for tails of eight diameters. */
export const TESTS_PRACTICE: HousePractice = {
  school: 'workshop',
  changes: Object.fromEntries(
    USE_GRADES.map((g) => [
      tailRuleId(g),
      { value: { diameters: 8, millimetres: 0, palms: 0 }, reason: 'So the tests want it.' },
    ]),
  ),
};

/** An overhand with two halts, drawn with straight pieces. */
export const OVERHAND: FigureFile = {
  format: 'foxtrail-figure/1',
  name: 'Overhand',
  ropes: [
    {
      id: 'a',
      points: [
        [-20, 0],
        [8, 0],
        [8, -8],
        [-4, -8],
        [-4, 5],
        [3, 5],
        [3, -4],
        [20, -4],
      ],
      curve: 'straight',
      ends: ['standing', 'tail'],
      weave: 'UOUOUO',
    },
  ],
  hosts: [],
  method: {
    leaders: [{ kind: 'end', rope: 'a', from: 0 }],
    halts: [
      { leader: 0, at: 3.9 },
      { leader: 0, at: 7, text: 'Bring it up through and away.' },
    ],
  },
};

export function overhand(): KnotDocument {
  const read = readKnot(OVERHAND);
  if (!read.ok) throw new Error(`${read.place}: ${read.reason}`);
  return read.value;
}

export const KNOT_ID = '00000000-0000-4000-8000-000000000001';

export const cardOf = (more: Partial<KnotCard> = {}): KnotCard => ({
  id: KNOT_ID,
  name: 'Overhand',
  aliases: [],
  leftHandOf: null,
  class: 'stopper',
  family: '',
  useGrade: 'light duty',
  state: 'draft',
  revision: 1,
  errors: 0,
  examined: true,
  warnings: 0,
  crossings: 3,
  steps: 2,
  archived: false,
  updatedAt: '2026-05-01T10:00:00.000Z',
  updatedBy: 'Ada',
  slug: null,
  verdict: null,
  ...more,
});

export const knotAnswer = (revision = 1): object => ({
  card: cardOf({ revision }),
  document: writeKnot(overhand()),
  publication: null,
  clips: [],
  leftHanded: null,
});

export const SESSION: Session = {
  account: { id: KNOT_ID, name: 'Ada', role: 'author' },
  house: {
    name: 'Test house',
    classSchool: 'strict',
    revision: 1,
    practice: TESTS_PRACTICE,
    vocabulary: WORKSHOP_WORDS,
  },
  demo: false,
};

/** Somebody is signed in, and stays so. */
export const signedIn = (session = SESSION, more: object = {}): Provider => ({
  provide: SessionService,
  useValue: {
    session: () => session,
    mayWrite: () => session.account?.role === 'author',
    mayReview: () => true,
    className: (value: KnotClass) => classLabel(value, session.house.classSchool),
    ...more,
  },
});

/** Nothing is analysed. */
export class NoIdentity {
  readonly report = signal<IdentityReport | undefined>(undefined);
  readonly progress = signal(undefined);
  request(): void {
    // There is no worker in a unit test.
  }
  cancel(): void {
    // Nothing runs.
  }
}

export class NoAnalysis {
  readonly results: Observable<Analysis> = EMPTY;
  request(): void {
    // There is no worker in a unit test.
  }
}
