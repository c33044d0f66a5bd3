/** How a knot is dressed and set: what is pulled, how hard, in which order, what is nudged; the ways that are kept, the right one first. */
import { ChangeDetectionStrategy, Component, computed, input, model, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  capital,
  DRESSINGS,
  nameOfPlace,
  methodFor,
  STRENGTHS,
  type Dressing,
  type Figure,
  type Nudge,
  type Strength,
  type Vocabulary,
} from '@foxtrail/core';
import { lift, namesOfParts, partsPulled, spelledOut, type PulledPart } from '@foxtrail/core/form';

/** A dressing that is not kept yet. */
export const AS_IT_COMES: Dressing = { name: '' };

interface Row {
  readonly name: string;
  readonly part: PulledPart;
}

@Component({
  selector: 'ft-dressing-panel',
  imports: [MatButtonModule, MatButtonToggleModule, MatIconModule, MatSlideToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul class="ways" aria-label="Ways to dress it">
      <li>
        <button type="button" [attr.aria-pressed]="isPlain()" (click)="take(undefined)">
          <b>As it comes</b
          ><span>{{ kept().length === 0 && isShown() ? 'shown to learners' : 'all pulled at once' }}</span>
        </button>
      </li>
      @for (way of kept(); track way.name; let first = $first) {
        <li>
          <button type="button" [attr.aria-pressed]="chosen() === way" (click)="take(way)">
            <b>{{ way.name }}</b><span>{{ first ? (isShown() ? 'right: shown to learners' : 'right') : '' }}</span>
          </button>
          @if (mayKeep() && chosen() === way) {
            @if (!first) {
              <button mat-button type="button" (click)="keep.emit(rightIs(way))">This is the right one</button>
            }
            <button mat-icon-button type="button" [attr.aria-label]="'Let “' + way.name + '” go'" (click)="letGo(way)">
              <mat-icon svgIcon="remove" />
            </button>
          }
        </li>
      }
    </ul>

    @if (isOwn() && mayKeep()) {
      <form class="keep" (submit)="keepAs($event, called.value)">
        <input
          #called
          type="text"
          aria-label="Name of this way"
          placeholder="This way: “tail first”"
          maxlength="80"
          (keydown)="$event.stopPropagation()"
        />
        <button mat-flat-button type="submit">Keep</button>
      </form>
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
    }

    <h3>Pulled</h3>
    <mat-slide-toggle [checked]="inHand().inTurn === true" (change)="inTurn($event.checked)">
      one after another
    </mat-slide-toggle>
    <ol class="parts" [class.in-turn]="inHand().inTurn">
      @for (row of rows(); track row.name; let i = $index, first = $first) {
        <li>
          <span class="name">{{ row.name }}</span>
          <mat-button-toggle-group
            [value]="row.part.pulled"
            (change)="pull(i, $event.value)"
            hideSingleSelectionIndicator
            [attr.aria-label]="'How the ' + row.name + ' is pulled'"
          >
            @for (s of strengths; track s) {
              <mat-button-toggle [value]="s">{{ s }}</mat-button-toggle>
            }
          </mat-button-toggle-group>
          @if (inHand().inTurn && !first) {
            <button
              mat-icon-button
              type="button"
              [attr.aria-label]="'Pull the ' + row.name + ' earlier'"
              (click)="sooner(i)"
            >
              <mat-icon svgIcon="earlier" />
            </button>
          }
        </li>
      }
    </ol>

    <h3>Nudged</h3>
    <mat-slide-toggle [checked]="nudging()" [disabled]="full()" (change)="nudging.set($event.checked)">
      nudge strands by hand
    </mat-slide-toggle>
    @if (nudging()) {
      <p class="soft">
        Drag a strand; then all is pulled again. By keys: [ and ] choose a place, arrows push, Enter lets go.
      </p>
    }
    @if (nudges().length > 0) {
      <ol class="nudges">
        @for (n of nudges(); track $index; let i = $index) {
          <li>
            <span>{{ n }}</span>
            <button mat-icon-button type="button" [attr.aria-label]="'Take back: ' + n" (click)="takeBack(i)">
              <mat-icon svgIcon="undo" />
            </button>
          </li>
        }
      </ol>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 12px;
      color: var(--ink);
    }
    ul,
    ol {
      display: grid;
      gap: 4px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .ways li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
    }
    .ways li > button:first-child {
      display: flex;
      flex: 1 1 160px;
      gap: 2px 10px;
      flex-wrap: wrap;
      align-items: baseline;
      padding: 7px 10px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--card);
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    .ways li > button[aria-pressed='true'] {
      border-color: var(--fox-strong);
      box-shadow: inset 3px 0 var(--fox-strong);
    }
    .ways span {
      color: var(--ink-soft);
      font-size: 13px;
    }
    h3 {
      margin: 16px 0 4px;
      font-size: 16px;
    }
    .parts {
      margin-top: 6px;
      gap: 8px;
      counter-reset: part;
    }
    .parts li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto 36px;
      gap: 4px;
      align-items: center;
      min-height: 40px;
    }
    .parts .name {
      font-weight: 600;
      line-height: 1.25;
    }
    .parts.in-turn .name::before {
      counter-increment: part;
      content: counter(part) '. ';
    }
    .parts mat-button-toggle-group {
      --mat-button-toggle-height: 34px;
      background: var(--card);
    }
    .parts mat-icon-button,
    .parts button[mat-icon-button] {
      margin: -6px 0;
    }
    .nudges li {
      display: flex;
      align-items: center;
      justify-content: space-between;
    }
    .keep {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
    .keep input {
      flex: 1;
      min-width: 0;
      padding: 8px 10px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--card);
      color: inherit;
      font: inherit;
    }
    .trouble {
      min-height: 1.4em;
      margin: 4px 0 0;
      color: var(--plum);
    }
  `,
})
export class DressingPanel {
  readonly figure = input.required<Figure>();
  readonly vocabulary = input.required<Vocabulary>();
  readonly kept = input.required<readonly Dressing[]>();
  readonly mayKeep = input(true);
  /** The drawing is the one that learners are shown set. */
  readonly isShown = input(true);
  /** The way that is shown: one of those kept, or one in the making. */
  readonly inHand = model.required<Dressing>();
  readonly nudging = model(false);
  /** The ways that are to be kept, the right one first. */
  readonly keep = output<readonly Dressing[]>();

  protected readonly strengths = STRENGTHS;
  protected readonly trouble = signal('');
  protected readonly chosen = computed(() => this.kept().find((d) => d === this.inHand()));
  /** Something was changed that is not kept. */
  protected readonly isOwn = computed(() => !this.chosen() && !isPlain(this.inHand()));
  protected readonly isPlain = computed(() => isPlain(this.inHand()));
  protected readonly full = computed(() => (this.inHand().nudges?.length ?? 0) >= DRESSINGS.nudges);

  private readonly parts = computed(() => {
    const lifted = lift(this.figure());
    return lifted.ok ? partsPulled(this.figure(), lifted.value) : [];
  });
  protected readonly rows = computed((): readonly Row[] => {
    const [parts, named] = [this.parts(), namesOfParts(this.figure(), this.parts(), this.vocabulary())];
    return spelledOut(parts, this.inHand().pulls).map((part) => ({
      part,
      name: capital(named[parts.findIndex((p) => p.place === part.place)] ?? ''),
    }));
  });
  protected readonly nudges = computed(() => (this.inHand().nudges ?? []).map((n) => this.say(n)));

  private say({ place, by: [right, down, near] }: Nudge): string {
    const name = nameOfPlace(methodFor(this.figure()), place, this.vocabulary());
    const ways: readonly (readonly [number, string])[] = [
      [Math.abs(right), right > 0 ? 'to the right' : 'to the left'],
      [Math.abs(down), down > 0 ? 'down' : 'up'],
      [Math.abs(near), near > 0 ? 'toward you' : 'away from you'],
    ];
    const [far, way] = ways.reduce((a, b) => (b[0] > a[0] ? b : a));
    return `${capital(name)}, ${far.toFixed(1)} d ${way}`;
  }

  protected take(way: Dressing | undefined): void {
    this.trouble.set('');
    this.inHand.set(way ?? AS_IT_COMES);
  }

  /** The way in hand, changed; what is kept stays as it is. */
  private change(change: Partial<Dressing>): void {
    this.inHand.set({ ...this.inHand(), name: '', ...change });
  }

  private pulls(): { readonly place: PulledPart['place']; readonly pulled: Strength }[] {
    return this.rows().map(({ part: { place, pulled } }) => ({ place, pulled }));
  }

  protected inTurn(on: boolean): void {
    const { inTurn: _was, ...rest } = this.inHand();
    this.inHand.set({ ...rest, name: '', ...(on ? { inTurn: true } : {}), pulls: this.pulls() });
  }

  protected pull(row: number, pulled: Strength): void {
    this.change({ pulls: this.pulls().map((p, i) => (i === row ? { ...p, pulled } : p)) });
  }

  protected sooner(row: number): void {
    const pulls = this.pulls();
    const [own] = pulls.splice(row, 1);
    if (own) pulls.splice(row - 1, 0, own);
    this.change({ pulls });
  }

  protected takeBack(index: number): void {
    this.change({ nudges: (this.inHand().nudges ?? []).filter((_, i) => i !== index) });
  }

  protected rightIs(way: Dressing): readonly Dressing[] {
    return [way, ...this.kept().filter((d) => d !== way)];
  }

  protected letGo(way: Dressing): void {
    this.inHand.set(AS_IT_COMES);
    this.keep.emit(this.kept().filter((d) => d !== way));
  }

  protected keepAs(event: Event, name: string): void {
    event.preventDefault();
    const called = name.trim();
    const isTaken = this.kept().some((d) => d.name.toLowerCase() === called.toLowerCase());
    this.trouble.set(
      called === ''
        ? 'Give this way a name: how is it dressed?'
        : isTaken
          ? `There is a way “${called}” already. Call this one otherwise.`
          : this.kept().length >= DRESSINGS.most
            ? `A knot keeps ${DRESSINGS.most} ways at most. Let one go first.`
            : '',
    );
    if (this.trouble() !== '') return;
    const way = { ...this.inHand(), name: called };
    this.inHand.set(way);
    this.keep.emit([...this.kept(), way]);
  }
}

const isPlain = ({ inTurn, pulls, nudges }: Dressing): boolean =>
  inTurn !== true && (pulls ?? []).length === 0 && (nudges ?? []).length === 0;
