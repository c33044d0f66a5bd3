/**
 * What pages and the core's worker say to each other: the jobs there are, with what each is ordered with, tells on its way, and ends in.
 */
import type { Result } from '@foxtrail/core';
import type { Analysis, AnalysisOrder } from '../../data/analysis';
import type { ChooseOrder, KnownKnot } from '../../data/choose';
import type { IdentityOrder, IdentityReport } from '../../data/identity';
import type { DeriveOrder, DiscoverOrder, KinFound, TurnsOrder } from '../../data/kin-work';
import type { FlawsOrder, OnItsWay, SetOrder } from '../../data/forming';
import type { FootageOrder } from '../../film/verdict';
import type { DrawingRead, Laid, ReadOrder, LayOrder } from '../../data/placing';
import type { Figure, SetForm } from '@foxtrail/core';
import type { FootageVerdict } from '@foxtrail/core/footage';
import type { Flaw } from '@foxtrail/core/form';
import type { Tightening } from '@foxtrail/core/reel';

export interface Jobs {
  readonly analysis: { readonly order: AnalysisOrder; readonly told: never; readonly result: Analysis };
  readonly identity: {
    readonly order: IdentityOrder;
    readonly told: Partial<IdentityReport>;
    readonly result: undefined;
  };
  readonly lay: { readonly order: LayOrder; readonly told: Figure; readonly result: Laid };
  readonly set: { readonly order: SetOrder; readonly told: OnItsWay; readonly result: SetForm };
  readonly flaws: { readonly order: FlawsOrder; readonly told: never; readonly result: readonly Flaw[] };
  readonly tighten: { readonly order: SetOrder; readonly told: never; readonly result: Tightening };
  readonly footage: { readonly order: FootageOrder; readonly told: never; readonly result: FootageVerdict };
  readonly read: { readonly order: ReadOrder; readonly told: never; readonly result: DrawingRead };
  readonly derive: { readonly order: DeriveOrder; readonly told: KinFound; readonly result: undefined };
  readonly turns: { readonly order: TurnsOrder; readonly told: KinFound; readonly result: undefined };
  readonly discover: { readonly order: DiscoverOrder; readonly told: KinFound; readonly result: undefined };
  readonly choose: { readonly order: ChooseOrder; readonly told: never; readonly result: readonly KnownKnot[] };
}
export type JobName = keyof Jobs;

export type Order = { readonly id: number; readonly job: JobName; readonly order: unknown } | { readonly stop: true };

export type Report =
  | { readonly kind: 'progress'; readonly id: number; readonly share: number; readonly doing: string }
  | { readonly kind: 'told'; readonly id: number; readonly what: unknown }
  | { readonly kind: 'done'; readonly id: number; readonly result: Result<unknown> };

/** What a job is done with: it tells what it finds, says how far it is, and lets go when it is stopped. */
export interface Bench<Told> {
  readonly tell: (what: Told) => void;
  readonly share: (share: number, doing?: string) => void;
  /** Lets messages in; throws `Stopped` when the order is not wanted any more. */
  readonly pause: () => Promise<void>;
  /**
   * Runs work that yields how far it is to its end, pausing often. What is sent back at every yield is whether time is left of its
   * budget: work that can leave something unfinished does so when it is not.
   */
  readonly drive: <Y, T>(
    work: Generator<Y, T, boolean | undefined>,
    share: (yielded: Y) => number,
    on?: { readonly doing?: string; readonly seen?: (yielded: Y) => void },
  ) => Promise<T>;
}

export class Stopped extends Error {}

export type Job<J extends JobName> = (
  order: Jobs[J]['order'],
  bench: Bench<Jobs[J]['told']>,
) => Promise<Result<Jobs[J]['result']>> | Result<Jobs[J]['result']>;
