/**
 * What is said in a film: its captions in time, taken in from a file or written here, cleaned one remark after another, and taken out
 * again.
 */
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { sayRefusal, type LessonCheck, type Mend } from '@foxtrail/core';
import { FOOTAGE, type FilmCue } from '@foxtrail/core/footage';
import {
  cueRemarks,
  filmSubRip,
  filmWebVtt,
  mended,
  readCaptions,
  retimed,
  withCue,
  type CaptionTrouble,
  type CueRemark,
} from '@foxtrail/core/reel';
import { fileName, saveFile } from '../ui/save-file';

/** Largest file of captions that is looked at, in bytes. */
const LARGEST = 1024 * 1024;
/** So many places of a file are told by their lines. */
const MOST_TOLD = 50;
/** What a caption written anew says at first. */
const NEW = 'New caption';

const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;

/** Text of a file in the encodings that captions come in: UTF-8, UTF-16 where it says so, else Western European. */
function decoded(bytes: ArrayBuffer): string {
  const [a, b] = new Uint8Array(bytes);
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

interface Row {
  readonly cue: FilmCue;
  readonly index: number;
  readonly remarks: readonly CueRemark[];
  readonly now: boolean;
}

@Component({
  selector: 'ft-film-captions',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <h2>Captions</h2>
      @if (left() > 0) {
        <p class="left" role="status">{{ left() }} {{ left() === 1 ? 'thing' : 'things' }} to look at</p>
      }
      <span class="room"></span>
      @if (cues().length > 0) {
        <button mat-button type="button" (click)="save('vtt')"><mat-icon svgIcon="download" />WebVTT</button>
        <button mat-button type="button" (click)="save('srt')"><mat-icon svgIcon="download" />SubRip</button>
      }
      @if (mayWrite()) {
        <button mat-stroked-button type="button" (click)="file.click()">
          <mat-icon svgIcon="upload" />Take in a file
        </button>
        <button mat-stroked-button type="button" (click)="add()">
          <mat-icon svgIcon="plus" />Write one at {{ clock(time()) }}
        </button>
      }
      <input #file type="file" accept=".vtt,.srt,text/vtt" hidden (change)="take($event)" />
    </header>
    @if (trouble(); as text) {
      <p class="warn" role="alert">{{ text }}</p>
    }
    @if (replaced() > 0) {
      <p class="none" role="status">
        It stands in place of {{ replaced() }} that were here; Undo in Draft brings them back.
      </p>
    }
    @if (troubles().length > 0) {
      <details class="warn">
        <summary>
          {{ troubles().length }} {{ troubles().length === 1 ? 'place was' : 'places were' }} read otherwise than
          written
        </summary>
        <ul>
          @for (t of troubles().slice(0, most); track $index) {
            <li>Line {{ t.line }}: {{ t.says }}</li>
          }
          @if (troubles().length > most) {
            <li>… and {{ troubles().length - most }} more.</li>
          }
        </ul>
      </details>
    }
    @if (cues().length === 0) {
      <p class="none">
        What is said in the film, to be read by those who do not hear it. Take in the file that another program made
        (WebVTT or SubRip), or write captions here.
      </p>
    }
    <ol>
      @for (row of rows(); track row.index) {
        <li [class.now]="row.now">
          <button
            type="button"
            class="at"
            (click)="wanted.emit(row.cue.start)"
            [attr.aria-label]="'Go to ' + clock(row.cue.start)"
          >
            {{ clock(row.cue.start) }}<span>–{{ clock(row.cue.end) }}</span>
          </button>
          <input
            #text
            type="text"
            [value]="row.cue.text"
            [maxLength]="longest"
            [readOnly]="!mayWrite()"
            [attr.aria-label]="'Caption at ' + clock(row.cue.start)"
            (change)="write(row.index, text)"
          />
          @if (mayWrite()) {
            <span class="tools">
              <button
                type="button"
                (click)="retime(row.index, 'start')"
                [title]="'Begins at ' + clock(time())"
                aria-label="Begins at the frame shown"
              >
                ⇤
              </button>
              <button
                type="button"
                (click)="retime(row.index, 'end')"
                [title]="'Ends at ' + clock(time())"
                aria-label="Ends at the frame shown"
              >
                ⇥
              </button>
              <button type="button" (click)="remove(row.index)" title="Remove it" aria-label="Remove this caption">
                ✕
              </button>
            </span>
          }
          @for (r of row.remarks; track $index) {
            <p class="remark">
              <span
                ><strong>{{ r.kind === 'quick' ? 'Too quick.' : '“' + r.words + '”' }}</strong> {{ r.says }}</span
              >
              @if (mayWrite()) {
                @for (m of r.mends; track m.instead) {
                  <button mat-stroked-button type="button" (click)="mend(row.index, m)">
                    {{ m.instead === '' ? 'Leave it out' : 'Write “' + m.instead + '”' }}
                  </button>
                }
              }
            </p>
          }
        </li>
      }
    </ol>
  `,
  styleUrl: './captions.scss',
})
export class FilmCaptions {
  readonly cues = input.required<readonly FilmCue[]>();
  /** The name of the film. */
  readonly name = input.required<string>();
  readonly duration = input.required<number>();
  /** The time of the frame that is shown, in seconds. */
  readonly time = input.required<number>();
  readonly mayWrite = input.required<boolean>();
  readonly check = input.required<LessonCheck>();
  /** The most characters that are read in a second, and in a line. */
  readonly reading = input.required<number>();
  readonly perLine = input.required<number>();
  readonly changed = output<readonly FilmCue[]>();
  /** A place in the film, in seconds. */
  readonly wanted = output<number>();

  protected readonly longest = FOOTAGE.caption;
  protected readonly most = MOST_TOLD;
  protected readonly clock = clock;
  protected readonly trouble = signal<string | undefined>(undefined);
  /** How many captions the file that was taken in last has replaced. */
  protected readonly replaced = signal(0);
  protected readonly troubles = signal<readonly CaptionTrouble[]>([]);
  private readonly remarks = computed(() => cueRemarks(this.cues(), this.check(), this.reading()));
  protected readonly left = computed(() => this.remarks().reduce((sum, r) => sum + r.length, 0));
  protected readonly rows = computed((): readonly Row[] =>
    this.cues().map((cue, index) => ({
      cue,
      index,
      remarks: this.remarks()[index] ?? [],
      now: this.time() >= cue.start && this.time() < cue.end,
    })),
  );

  protected take(event: Event): void {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (file) void this.read(file);
  }

  private async read(file: File): Promise<void> {
    this.trouble.set(undefined);
    this.troubles.set([]);
    this.replaced.set(0);
    if (file.size > LARGEST) {
      this.trouble.set(
        `${file.name}: it has more than a megabyte, and is no file of captions. Choose a .vtt or .srt file.`,
      );
      return;
    }
    const read = readCaptions(decoded(await file.arrayBuffer()));
    if (!read.ok) {
      this.trouble.set(`${file.name}, ${sayRefusal(read)}`);
      return;
    }
    this.troubles.set(read.value.troubles);
    this.replaced.set(this.cues().length);
    this.changed.emit(read.value.cues);
  }

  protected add(): void {
    const next = withCue(this.cues(), this.time(), this.duration(), NEW);
    this.say(next, 'A caption stands there already. Go to where nothing is said yet.');
  }

  protected retime(index: number, which: 'start' | 'end'): void {
    const next = retimed(this.cues(), index, { [which]: this.time() });
    this.say(next, 'It, or the one beside it, would not stand long enough to be read. Go to another frame first.');
  }

  private say(next: readonly FilmCue[] | undefined, otherwise: string): void {
    this.trouble.set(next ? undefined : otherwise);
    if (next) this.changed.emit(next);
  }

  protected write(index: number, input: HTMLInputElement): void {
    const text = input.value
      .replace(/[<>\p{Cc}]+/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim();
    if (text === '') {
      this.remove(index);
      return;
    }
    input.value = text;
    this.replace(index, text);
  }

  private replace(index: number, text: string): void {
    this.changed.emit(this.cues().map((c, i) => (i === index ? { ...c, text } : c)));
  }

  protected mend(index: number, mend: Mend): void {
    const text = mended(this.cues()[index]?.text ?? '', mend);
    this.trouble.set(
      text.length > FOOTAGE.caption
        ? `With that it has more than ${FOOTAGE.caption} characters: shorten it first.`
        : undefined,
    );
    if (text === '') this.remove(index);
    else if (text.length <= FOOTAGE.caption) this.replace(index, text);
  }

  protected remove(index: number): void {
    this.changed.emit(this.cues().filter((_, i) => i !== index));
  }

  protected save(kind: 'vtt' | 'srt'): void {
    const [cues, perLine] = [this.cues(), this.perLine()];
    const text = kind === 'vtt' ? filmWebVtt(cues, this.name(), perLine) : filmSubRip(cues, perLine);
    const type = kind === 'vtt' ? 'text/vtt' : 'application/x-subrip';
    saveFile(new Blob([text], { type }), `${fileName(this.name())}.${kind}`);
  }
}
