/**
 * What the open knot is: verdict, repair and mistake atlas, computed in a worker a piece at a time. The latest request wins; a
 * request can be cancelled; progress is told.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { Identify } from '@foxtrail/contract';
import { WORKSHOP_PRACTICE } from '@foxtrail/core';
import type {
  Atlas,
  Classified,
  FigureFile,
  Finding,
  HousePractice,
  Mark,
  MethodProof,
  Pairing,
  RelayProof,
  Repairs,
  Spill,
  Verdict,
} from '@foxtrail/core';
import { WorkDesk, type Progress } from './work-desk';

export type IdentityProgress = Progress;

export interface IdentityOrder {
  readonly document: FigureFile;
  /** Index of the method that is worked on. */
  readonly method: number;
  readonly practice: HousePractice;
}

/** A pattern that the figure is shown beside. */
export interface Beside {
  readonly id: string;
  readonly name: string;
  readonly document: FigureFile;
  /** Crossings paired one with one, when both are drawn with the same lines. */
  readonly pairing?: Pairing | undefined;
  /** The facts that agree and those that do not. */
  readonly marks: readonly Mark[];
}

/** What is known so far of one request. */
export interface IdentityReport {
  readonly verdict?: Verdict;
  /** Why there is no verdict. */
  readonly declined?: string;
  readonly finding?: Finding | undefined;
  /** What else is found of its identity. */
  readonly more?: readonly Finding[];
  /** Against the grade it is given, when it is not suitable for it. */
  readonly grade?: Finding | undefined;
  /** Against the rules of the house. */
  readonly practice?: readonly Finding[];
  /** Whether the layouts of the method are one knot, and whether the other methods end in the same one. */
  readonly layouts?: {
    readonly relaid: readonly RelayProof[];
    readonly methods: readonly MethodProof[];
    readonly findings: readonly Finding[];
  };
  /** Wrong ways shown to learners that are not what they are called. */
  readonly exhibits?: readonly Finding[];
  readonly keys?: Omit<Identify, 'except'>;
  readonly classified?: Classified;
  readonly spills?: readonly Spill[];
  readonly beside?: readonly Beside[];
  /** What it becomes by one change of its structure, in sentences. */
  readonly kinship?: readonly string[];
  readonly repairs?: Repairs;
  readonly atlas?: Atlas;
  /** Why there is no atlas. */
  readonly atlasDeclined?: string;
  /** Every pattern that can be claimed. */
  readonly patterns?: readonly { readonly id: string; readonly name: string }[];
}

@Injectable()
export class IdentityService {
  private readonly desk = new WorkDesk();
  readonly report = signal<IdentityReport | undefined>(undefined);
  /** Set while work goes on for longer than half a second. */
  readonly progress = this.desk.slow;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  request(document: FigureFile, method = 0, practice: HousePractice = WORKSHOP_PRACTICE): void {
    // What was known of the knot before is shown until something is known of it as it is now.
    let report: IdentityReport = {};
    const say = (more: Partial<IdentityReport>): void => this.report.set((report = { ...report, ...more }));
    void this.desk.order('identity', { document, method, practice }, say).then((done) => {
      if (done && !done.ok) say({ declined: `${done.reason} ${done.remedy}` });
    });
  }

  /** Stops the work; what is known so far stays. */
  cancel(): void {
    this.desk.stop();
  }
}
