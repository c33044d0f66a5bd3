/** What the marks of the film in hand say of the knot, worked out in a worker at every mark. */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { FigureFile } from '@foxtrail/core';
import type { FootageVerdict } from '@foxtrail/core/footage';
import { WorkDesk } from '../data/work-desk';

export interface FootageOrder {
  readonly document: FigureFile;
  readonly method: number;
  /** The film's name by its contents. */
  readonly film: string;
}

@Injectable()
export class FootageJudge {
  private readonly desk = new WorkDesk();
  /** The newest verdict; while a newer one is worked out, the one before. */
  readonly verdict = signal<FootageVerdict | undefined>(undefined);
  readonly trouble = signal<string | undefined>(undefined);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  async judge(order: FootageOrder | undefined): Promise<void> {
    if (!order) {
      this.desk.stop();
      this.verdict.set(undefined);
      return;
    }
    const found = await this.desk.order('footage', order);
    if (!found) return;
    this.verdict.set(found.ok ? found.value : undefined);
    this.trouble.set(found.ok ? undefined : `${found.reason} ${found.remedy}`);
  }
}
