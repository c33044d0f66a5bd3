/**
 * A field for a length or a force as authors write it; what it is read as stands below it, and what is odd about it where it cannot be read.
 */
import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  model,
  output,
} from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { readForce, readLength, sayKn, type Person } from '@foxtrail/core/ropes';
import { lengthsSaid } from './lengths-said';

/** What stands below a field: its reading, or what is wrong. */
interface Told {
  readonly text: string;
  readonly wrong: boolean;
}

@Component({
  selector: 'ft-measure',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (compact()) {
      <input
        class="field"
        autocomplete="off"
        [class.bad]="told().wrong"
        [value]="text()"
        [disabled]="disabled()"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="told().wrong"
        [title]="told().text"
        (input)="write(short.value)"
        (change)="settled.emit()"
        #short
      />
      @if (told().text) {
        <span class="told" [class.wrong]="told().wrong" [attr.role]="told().wrong ? 'alert' : null">{{
          told().text
        }}</span>
      }
    } @else {
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>{{ label() }}</mat-label>
        <input
          matInput
          autocomplete="off"
          [value]="text()"
          [disabled]="disabled()"
          [attr.aria-invalid]="told().wrong"
          (input)="write(field.value)"
          (change)="settled.emit()"
          #field
        />
        <mat-hint [class.wrong]="told().wrong" [attr.role]="told().wrong ? 'alert' : null">{{ told().text }}</mat-hint>
      </mat-form-field>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    mat-form-field {
      width: 100%;
    }
    .field {
      width: 100%;
    }
    .field.bad {
      border-color: var(--plum);
    }
    .told {
      display: block;
      color: var(--ink-soft);
      font-size: 14px;
      line-height: 1.25;
    }
    .wrong {
      color: var(--plum);
    }
  `,
})
export class MeasureField {
  private readonly sayMm = lengthsSaid();
  readonly label = input.required<string>();
  /** In millimetres, or in kilonewtons; null where nothing is written or it cannot be read. */
  readonly value = model<number | null>(null);
  readonly kind = input<'length' | 'force'>('length');
  /** Nothing may be written. */
  readonly optional = input(false, { transform: booleanAttribute });
  readonly diameterMm = input<number>();
  readonly person = input<Person>();
  /** Why a body does not do here: such lengths are refused then. */
  readonly measured = input<string>();
  readonly disabled = input(false, { transform: booleanAttribute });
  /** In a row: its name is only said to screen readers. */
  readonly compact = input(false, { transform: booleanAttribute });
  /** What is said below it while nothing else is. */
  readonly hint = input('');
  /** It was left, or Enter was pressed. */
  readonly settled = output();
  /** Whether it holds what can be kept. */
  readonly fits = computed(() => !this.told().wrong);

  /** What is written; a value that comes from elsewhere is written anew, one that was read from the text leaves it. */
  protected readonly text = linkedSignal<number | null, string>({
    source: this.value,
    computation: (value, before) => {
      const read = before ? this.read(before.value) : undefined;
      if (before && (value === null ? read === undefined && before.value !== '' : read === value)) return before.value;
      return value === null ? '' : this.kind() === 'force' ? sayKn(value) : this.sayMm(value);
    },
  });

  private reading(text: string): { readonly value?: number; readonly told: Told } {
    if (text.trim() === '')
      return { told: this.optional() ? { text: this.hint(), wrong: false } : { text: 'It is needed.', wrong: true } };
    const read =
      this.kind() === 'force'
        ? readForce(text)
        : readLength(text, { diameterMm: this.diameterMm(), person: this.person() });
    if (!read.ok) return { told: { text: `${read.reason} ${read.remedy}`, wrong: true } };
    const why = this.measured();
    if (why !== undefined && 'spread' in read.value && read.value.spread) return { told: { text: why, wrong: true } };
    const value = 'mm' in read.value ? read.value.mm : read.value.kn;
    // What says it already need not be said again.
    const plain = text.trim().replace(/\s+/g, ' ') === read.value.says.split(' = ')[1];
    return { value, told: { text: plain ? this.hint() : read.value.says, wrong: false } };
  }

  private read = (text: string): number | undefined => this.reading(text).value;
  protected readonly told = computed(() => this.reading(this.text()).told);

  protected write(text: string): void {
    this.text.set(text);
    this.value.set(this.read(text) ?? null);
  }
}
