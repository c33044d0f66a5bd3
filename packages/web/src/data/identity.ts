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

export interface IdentityRequest {
  readonly kind: 'request';
  readonly id: number;
  readonly document: FigureFile;
  /** Index of the method that is worked on. */
  readonly method: number;
  readonly practice: HousePractice;
}
export interface IdentityCancel {
  readonly kind: 'cancel';
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
  readonly id: number;
  readonly verdict?: Verdict;
  /** Why there is no verdict. */
  readonly declined?: string;
  readonly finding?: Finding | undefined;
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

export type IdentityMessage =
  | { readonly kind: 'report'; readonly report: IdentityReport }
  | { readonly kind: 'progress'; readonly id: number; readonly doing: string; readonly share: number }
  | { readonly kind: 'done'; readonly id: number };

export interface IdentityProgress {
  readonly doing: string;
  readonly share: number;
}

/** Work shorter than this shows no progress; in milliseconds. */
const PATIENCE = 500;

@Injectable()
export class IdentityService {
  private readonly worker = new Worker(new URL('../workers/identity.worker', import.meta.url), { type: 'module' });
  private next = 0;
  private began = 0;
  readonly report = signal<IdentityReport | undefined>(undefined);
  /** Set while work goes on for longer than half a second. */
  readonly progress = signal<IdentityProgress | undefined>(undefined);

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<IdentityMessage>): void => this.take(data);
    // Work that fails is a bug; the next request still has to be answered, and this one is said to have no answer.
    this.worker.onerror = (): void => {
      this.progress.set(undefined);
      this.report.set({ id: this.next, declined: 'The comparison stopped with an error of its own.' });
    };
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  private take(message: IdentityMessage): void {
    if (message.kind === 'report') {
      if (message.report.id === this.next) this.report.set(message.report);
    } else if (message.id === this.next) {
      if (message.kind === 'done') this.progress.set(undefined);
      else if (performance.now() - this.began > PATIENCE)
        this.progress.set({ doing: message.doing, share: message.share });
    }
  }

  request(document: FigureFile, method = 0, practice: HousePractice = WORKSHOP_PRACTICE): void {
    this.began = performance.now();
    this.worker.postMessage({
      kind: 'request',
      id: (this.next += 1),
      document,
      method,
      practice,
    } satisfies IdentityRequest);
  }

  /** Stops the work; what is known so far stays. */
  cancel(): void {
    this.progress.set(undefined);
    this.worker.postMessage({ kind: 'cancel' } satisfies IdentityCancel);
  }
}
