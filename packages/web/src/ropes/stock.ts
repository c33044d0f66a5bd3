/**
 * The stock: ropes with their pieces, what they are tied to, and people whose palms and arms are known. It goes in and out as a table.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import type { Kept } from '@foxtrail/contract/ropes';
import {
  ADULTS,
  BODY_MEASURES,
  HOW_TAKEN,
  sayKn,
  sayPieces,
  toStockCsv,
  unfit,
  type Person,
  type StockRope,
  type Thing,
} from '@foxtrail/core/ropes';
import { RopesService, today } from '../data/ropes';
import { SessionService } from '../data/session';
import { saveFile } from '../ui/save-file';
import { SearchField } from '../ui/search-field';
import { RopeSwatch } from './rope-swatch';
import { lengthsSaid } from './lengths-said';

@Component({
  selector: 'ft-stock',
  imports: [MatButtonModule, MatIconModule, RopeSwatch, SearchField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stock.html',
  styleUrl: './stock.scss',
})
export class StockPage {
  private readonly sayMm = lengthsSaid();
  private readonly kept = inject(RopesService);
  private readonly dialog = inject(MatDialog);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly search = signal('');
  protected readonly all = this.kept.ropes.list;
  protected readonly things = this.kept.things.list;
  protected readonly bodies = this.kept.bodies.list;
  protected readonly measures = BODY_MEASURES;
  protected readonly adults = BODY_MEASURES.map((name) => ({
    name,
    how: HOW_TAKEN[name],
    says: `${this.sayMm(ADULTS[name].least)} to ${this.sayMm(ADULTS[name].most)}`,
  }));

  protected readonly rows = computed(() => {
    const wanted = this.search().trim().toLowerCase();
    const [now, own] = [today(), this.all()];
    return own
      .filter(({ is }) => `${is.name} ${is.construction} ${is.material} ${is.remarks}`.toLowerCase().includes(wanted))
      .map((kept) => ({
        kept,
        is: kept.is,
        size:
          kept.is.thicknessMm === null
            ? `${kept.is.diameterMm} mm`
            : `${kept.is.diameterMm} × ${kept.is.thicknessMm} mm`,
        load: kept.is.breakingKn === null ? undefined : sayKn(kept.is.breakingKn),
        pieces: sayPieces(kept.is.pieces),
        whole: this.sayMm(kept.is.pieces.reduce((sum, mm) => sum + mm, 0)),
        unfit: unfit(kept.is, now),
      }));
  });

  protected sayOf = ({ mm }: Person, measure: (typeof BODY_MEASURES)[number]): string =>
    mm[measure] === undefined ? '' : this.sayMm(mm[measure]);

  protected async edit(kept?: Kept<StockRope>): Promise<void> {
    const { StockRopeDialog } = await import('./stock-rope.dialog');
    this.dialog.open(StockRopeDialog, { width: '920px', maxWidth: '94vw', data: { kept } });
  }
  protected async editThing(kept?: Kept<Thing>): Promise<void> {
    const { ThingDialog } = await import('./thing.dialog');
    this.dialog.open(ThingDialog, { width: '560px', maxWidth: '94vw', data: { kept } });
  }
  protected async editBody(kept?: Kept<Person>): Promise<void> {
    const { BodyDialog } = await import('./body.dialog');
    this.dialog.open(BodyDialog, { width: '620px', maxWidth: '94vw', data: { kept } });
  }
  protected async takeIn(): Promise<void> {
    const { TakeStockDialog } = await import('./take-stock.dialog');
    this.dialog.open(TakeStockDialog, { width: '860px', maxWidth: '94vw' });
  }
  protected save(): void {
    const text = toStockCsv(this.all().map((k) => k.is));
    saveFile(new Blob([text], { type: 'text/csv;charset=utf-8' }), 'rope-stock.csv');
  }
}
