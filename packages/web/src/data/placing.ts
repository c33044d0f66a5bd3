/**
 * Laying a figure anew and reading a drawing, in a worker: one order at a time, told how far it is, stopped at once.
 */
import { computed, DestroyRef, inject, Injectable } from '@angular/core';
import {
  accept,
  type Figure,
  type FigureFile,
  type Mapping,
  type ReadDrawing,
  type Result,
  type SpanMap,
} from '@foxtrail/core';
import { WorkDesk } from './work-desk';

/** Laid as rope lies; evenly; or flat and close. */
export type LayWay = 'settle' | 'tidy' | 'tighten';

export interface LayOrder {
  readonly document: FigureFile;
  readonly way: LayWay;
}
export interface ReadOrder {
  readonly text: string;
  readonly name: string;
}
/** A figure laid otherwise, and where its trail positions went. */
export interface Laid {
  readonly figure: Figure;
  readonly mapping: readonly (readonly [string, readonly SpanMap[]])[];
}
export interface DrawingRead {
  readonly document: FigureFile;
  readonly from: ReadDrawing['from'];
  readonly toWalk: boolean;
}

@Injectable()
export class PlacingService {
  private readonly desk = new WorkDesk();
  /** Share of the work done; nothing while none is in hand. */
  readonly share = computed(() => this.desk.progress()?.share);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  /** Lays a figure anew, its crossings kept; `show` is given the figure on its way. Resolves to nothing when it was cancelled. */
  async lay(
    document: FigureFile,
    way: LayWay,
    show: (figure: Figure) => void,
  ): Promise<Result<{ readonly figure: Figure; readonly mapping: Mapping }> | undefined> {
    const done = await this.desk.order('lay', { document, way }, show);
    return done?.ok ? accept({ figure: done.value.figure, mapping: new Map(done.value.mapping) }) : done;
  }

  /** Reads a file or a pasted text of any kind. */
  read(text: string, name: string): Promise<Result<DrawingRead> | undefined> {
    return this.desk.order('read', { text, name });
  }

  cancel(): void {
    this.desk.stop();
  }
}
