/**
 * A field for an author's text that grows with it, and underlines what is to be said of it: a contradiction of the picture, a word that
 * is not the house's.
 */
import { ChangeDetectionStrategy, Component, computed, input, numberAttribute, output, signal } from '@angular/core';

/** A stretch of the text that is underlined. */
export interface Underlined {
  readonly from: number;
  readonly to: number;
  /** Plain wrong, or to be said otherwise. */
  readonly wrong: boolean;
}

interface Run {
  readonly text: string;
  readonly mark?: 'wrong' | 'word';
}

/** A text in runs; of stretches that overlap the first counts. */
export function runsOf(text: string, marks: readonly Underlined[]): Run[] {
  const runs: Run[] = [];
  let at = 0;
  for (const { from, to, wrong } of [...marks].sort((a, b) => a.from - b.from || Number(b.wrong) - Number(a.wrong))) {
    if (from < at) continue;
    if (from > at) runs.push({ text: text.slice(at, from) });
    runs.push({ text: text.slice(from, to), mark: wrong ? 'wrong' : 'word' });
    at = to;
  }
  return at < text.length ? [...runs, { text: text.slice(at) }] : runs;
}

/** A text without what no database keeps: the character of nothing, and halves of characters, as a paste that was cut may have. */
export const storable = (text: string): string => text.replace(/\0|\p{Surrogate}/gu, '');

@Component({
  selector: 'ft-checked-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="beneath" aria-hidden="true">
      @for (run of runs(); track $index) {
        @if (run.mark; as mark) {
          <mark [class]="mark">{{ run.text }}</mark>
        } @else {
          <span>{{ run.text }}</span>
        }
      }
    </div>
    <textarea
      [rows]="rows()"
      [attr.maxlength]="limit()"
      [attr.aria-label]="label()"
      [attr.aria-invalid]="marks().length > 0 ? true : null"
      [readonly]="readonly()"
      [value]="text()"
      (focus)="focused.emit()"
      (input)="type(area)"
      (keydown)="$event.stopPropagation()"
      #area
    ></textarea>
    @if (isLeftOut()) {
      <p role="status">A character that cannot be kept was left out.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
    }
    /* The same text beneath the field, unseen: it gives the field its height, and carries the underlines. */
    .beneath {
      border: 1px solid transparent;
      color: transparent;
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    mark {
      background: none;
      color: transparent;
      text-decoration: underline wavy var(--plum) 2px;
      text-underline-offset: 3px;
    }
    mark.word {
      text-decoration: underline dotted var(--fox) 3px;
    }
    .beneath,
    textarea {
      grid-area: 1 / 1;
      min-height: 50px;
      padding: 4px 6px;
      font: inherit;
      font-size: 15px;
      line-height: 1.35;
    }
    textarea {
      overflow: hidden;
      width: 100%;
      border: 1px solid var(--checked-line, transparent);
      border-radius: 8px;
      background: transparent;
      color: inherit;
      resize: none;
    }
    p {
      margin: 2px 6px;
      color: var(--plum);
      font-size: 14px;
    }
    textarea:hover {
      border-color: var(--line);
    }
    textarea:focus {
      border-color: var(--fox);
    }
  `,
})
export class CheckedText {
  readonly text = input.required<string>();
  readonly label = input.required<string>();
  readonly marks = input<readonly Underlined[]>([]);
  readonly limit = input<number>();
  readonly readonly = input(false);
  readonly rows = input(2, { transform: numberAttribute });
  readonly changed = output<string>();
  readonly focused = output();
  /** Something of what was typed last cannot be kept. */
  protected readonly isLeftOut = signal(false);

  protected type(area: HTMLTextAreaElement): void {
    const kept = storable(area.value);
    this.isLeftOut.set(kept !== area.value);
    if (kept !== area.value) area.value = kept;
    this.changed.emit(kept);
  }

  // A last blank keeps the height of a line that was just begun.
  protected readonly runs = computed(() => runsOf(`${this.text()} `, this.marks()));
}
