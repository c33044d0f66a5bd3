/**
 * What is known of every knot of the shelf and the pattern book, for choosing among them: worked out in a worker when it is wanted.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import type { BehaviourRow, Choosable, KnotClass, UseGrade } from '@foxtrail/core';
import { firstValueFrom } from 'rxjs';
import { KinService, type KinEntryFile } from './kin';
import { inWords } from './problem';
import { WorkDesk } from './work-desk';

export interface KnownKnot extends Choosable {
  readonly name: string;
  readonly class: KnotClass;
  readonly useGrade: UseGrade;
  readonly crossings: number;
  /** Rope in the knot as it is drawn, in diameters. */
  readonly rope: number;
  readonly behaviour: readonly BehaviourRow[];
  readonly cautions: readonly string[];
}

export interface ChooseOrder {
  readonly entries: readonly KinEntryFile[];
}
@Injectable({ providedIn: 'root' })
export class ChooseService {
  private readonly kin = inject(KinService);
  private readonly desk = new WorkDesk();
  private readonly reading = signal(false);
  readonly known = signal<readonly KnownKnot[] | undefined>(undefined);
  /** Share of the work done; nothing while none is in hand. */
  readonly share = computed(() => this.desk.progress()?.share ?? (this.reading() ? 0 : undefined));
  readonly trouble = signal<string | undefined>(undefined);

  /** Reads the shelf and works everything out anew. */
  async load(): Promise<void> {
    this.stop();
    this.trouble.set(undefined);
    this.reading.set(true);
    try {
      await firstValueFrom(this.kin.load());
      const entries = await this.kin.entries(() => this.reading());
      if (!this.reading()) return;
      const done = await this.desk.order('choose', { entries });
      if (done?.ok) this.known.set(done.value);
      else if (done) this.trouble.set(`${done.reason} ${done.remedy}`);
    } catch (error) {
      this.trouble.set(inWords(error));
    } finally {
      this.reading.set(false);
    }
  }

  stop(): void {
    this.reading.set(false);
    this.desk.stop();
  }
}
