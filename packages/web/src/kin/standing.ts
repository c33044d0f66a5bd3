/**
 * How a relation stands, in a word and a colour.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { KinRelation } from '@foxtrail/contract';
import { standingOf } from '@foxtrail/core';

const WORDS = {
  proved: 'proved',
  judged: 'judged',
  refuted: 'refuted',
  open: 'not proved',
  waiting: 'being tried',
} as const;

@Component({
  selector: 'ft-standing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span class="chip" [class.holds]="standing() === 'proved'" [class.fails]="standing() === 'refuted'">{{
    words[standing()]
  }}</span>`,
})
export class Standing {
  readonly of = input.required<Pick<KinRelation, 'proof' | 'judged'>>();
  protected readonly standing = computed(() => standingOf(this.of()));
  protected readonly words = WORDS;
}
