/**
 * The ways to tie the knot: which is in hand, how it is called, and whether it ends in the same knot as the first.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { NAME_LIMIT } from '@foxtrail/core';
import { BenchStore } from '../../knot/bench-store';
import { Insight } from '../../knot/insight';
import { TabList } from '../../ui/tab-list';
import { DraftState } from '../draft-state';
import { StepTools } from './step-tools';

@Component({
  selector: 'ft-method-head',
  imports: [MatButtonModule, MatIconModule, MatMenuModule, TabList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-tab-list
      label="Ways to tie it"
      [names]="names()"
      [chosen]="store.inHand()"
      [panel]="panel()"
      (choose)="tools.takeMethod($event)"
    />
    <div class="head">
      <input
        type="text"
        aria-label="Name of this method"
        [attr.maxlength]="nameLimit"
        [readonly]="!store.mayWrite()"
        [value]="inHand()?.name ?? ''"
        (keydown)="$event.stopPropagation()"
        (change)="nameMethod(name)"
        #name
      />
      @if (inHand(); as m) {
        @if (m.proof; as p) {
          <span class="chip" [class.holds]="p.same" [class.fails]="!p.same && !p.undecided">{{
            p.same ? 'same knot' : p.undecided ? 'not decided' : 'not the same'
          }}</span>
        } @else if (m.index === 0) {
          <span class="chip">first</span>
        }
        @if (store.mayWrite()) {
          <button mat-icon-button type="button" [matMenuTriggerFor]="methodMenu" aria-label="This method">
            <mat-icon svgIcon="more" />
          </button>
          <mat-menu #methodMenu>
            @if (m.index > 0) {
              <button mat-menu-item type="button" (click)="state.do({ kind: 'first-method' }, { method: m.index })">
                Show it to learners first
              </button>
            }
            <button mat-menu-item type="button" (click)="removeMethod(m.index)">Remove this method</button>
          </mat-menu>
        }
      }
    </div>
    @if (inHand()?.proof; as p) {
      <p class="proof">{{ p.evidence }} {{ p.differ.slice(0, 2).join(' ') }}</p>
    }
  `,
  styleUrl: './heads.scss',
})
export class MethodHead {
  protected readonly store = inject(BenchStore);
  protected readonly state = inject(DraftState);
  protected readonly tools = inject(StepTools);
  private readonly insight = inject(Insight);
  /** Id of what shows the method in hand. */
  readonly panel = input.required<string>();
  protected readonly nameLimit = NAME_LIMIT;
  protected readonly names = computed(() => this.store.methods().map((m) => m.name));
  protected readonly inHand = computed(() => {
    const index = this.store.inHand();
    const method = this.store.methods()[index];
    return method && { index, name: method.name, proof: this.insight.identity()?.layouts?.methods[index - 1] };
  });

  /** Names the method in hand; a name that cannot be used leaves the old one in the field. */
  protected nameMethod(field: HTMLInputElement): void {
    if (!this.state.do({ kind: 'name-method', name: field.value })) field.value = this.inHand()?.name ?? '';
  }

  protected removeMethod(index: number): void {
    if (this.state.do({ kind: 'remove-method' }, { method: index })) this.tools.takeMethod(0);
  }
}
