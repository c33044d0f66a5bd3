/** The inspection card on the knot as it lies in the hand: front and back, the marks of each face numbered as on the card. */
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import {
  DARK_LOOK,
  finishedLayout,
  howToSet,
  layoutToSet,
  numbersAcross,
  sameSetting,
  sayRefusal,
  type Method,
  type SetForm,
} from '@foxtrail/core';
import { cardFaceSvg, cardLayout, heatFaceSvg, type Heat } from '@foxtrail/core/form';
import { FormingService } from '../data/forming';
import { Theme } from '../data/theme';

const SIDES = [
  { side: 'front', name: 'Front' },
  { side: 'back', name: 'Back' },
] as const;

/** Plum, as it is on the page. */
const HEAT_COLOUR = { light: '#7c2752', dark: '#eea3c8' } as const;

@Component({
  selector: 'ft-hand-card',
  imports: [MatButtonModule, MatProgressBarModule],
  providers: [FormingService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>In the hand</h2>
    @if (elsewhere(); as name) {
      <p class="soft">
        {{ heat() ? 'Crossings' : 'The card’s marks' }} are of the layout “{{ name }}”, and not all of them have a place
        on the one that is set. They are shown on the drawing above.
      </p>
    } @else if (forming.share(); as share) {
      <mat-progress-bar mode="determinate" [value]="100 * share" aria-label="Set so far" />
    } @else if (trouble()) {
      <p class="soft">{{ trouble() }}</p>
    } @else if (stopped()) {
      <button mat-stroked-button type="button" (click)="begin()">Set it</button>
    }
    <div class="faces">
      @for (face of faces(); track face.name) {
        <figure>
          <img
            [src]="face.url"
            [alt]="
              name() +
              ', ' +
              face.name.toLowerCase() +
              ', set, with ' +
              (heat() ? 'what was missed' : 'the card’s marks')
            "
          />
          <figcaption>{{ face.name }}</figcaption>
        </figure>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      margin-top: 18px;
    }
    .faces {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
      gap: 14px;
    }
    figure {
      margin: 0;
    }
    img {
      display: block;
      width: 100%;
      max-height: 420px;
      object-fit: contain;
      border-radius: 10px;
      background: var(--paper);
    }
    figcaption {
      color: var(--ink-soft);
    }
  `,
})
export class HandCard {
  readonly method = input.required<Method>();
  readonly name = input.required<string>();
  /** What is shown at its crossings in place of the card's marks. */
  readonly heat = input<Heat>();

  protected readonly forming = inject(FormingService);
  private readonly theme = inject(Theme);
  protected readonly trouble = signal('');
  protected readonly stopped = signal(false);
  private readonly form = signal<SetForm | undefined>(undefined);
  /** The heat by the numbers of the layout that is set; nothing where its lines are others. */
  private readonly heatHere = computed((): Heat | undefined => {
    const heat = this.heat();
    const numbers = numbersAcross(finishedLayout(this.method()).figure, layoutToSet(this.method()).figure);
    return (
      heat && numbers && new Map([...heat].flatMap(([n, share]) => (numbers.has(n) ? [[numbers.get(n)!, share]] : [])))
    );
  });
  private readonly layout = computed(() => {
    if (!this.heat()) return cardLayout(this.method());
    return this.heatHere() ? layoutToSet(this.method()) : undefined;
  });
  private readonly setting = computed(() => howToSet(this.method()), { equal: sameSetting });
  /** The layout of the card's marks, where they have no place on the one that is set. */
  protected readonly elsewhere = computed(() => {
    return this.layout() ? undefined : (finishedLayout(this.method()).name ?? 'the last');
  });
  protected readonly faces = signal<readonly { readonly name: string; readonly url: string }[]>([]);

  constructor() {
    // Marks that are chosen do not set it anew, unless the card had none before that could be shown.
    const isHere = computed(() => this.layout() !== undefined);
    effect(() => {
      this.setting();
      isHere();
      untracked(() => this.begin());
    });
    effect((clean) => {
      const form = this.form();
      const [layout, title, look, heat] = [this.layout(), this.name(), this.theme.look(), this.heatHere()];
      const faces =
        form && layout
          ? SIDES.map(({ side, name }) => {
              const options = { title, description: `${title}, ${side}`, look, width: 700, background: false };
              const svg = heat
                ? heatFaceSvg(
                    layout.figure,
                    form,
                    side,
                    heat,
                    HEAT_COLOUR[look === DARK_LOOK ? 'dark' : 'light'],
                    options,
                  )
                : cardFaceSvg(layout, form, side, options);
              return { name, url: URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })) };
            })
          : [];
      this.faces.set(faces);
      clean(() => {
        for (const { url } of faces) URL.revokeObjectURL(url);
      });
    });
  }

  protected begin(): void {
    const setting = this.setting();
    this.form.set(undefined);
    this.trouble.set('');
    this.stopped.set(false);
    if (!this.layout() || setting.figure.ropes.length === 0) return;
    void this.forming
      .set(setting, () => undefined)
      .then((done) => {
        if (this.setting() !== setting) return;
        if (!done) this.stopped.set(true);
        else if (done.ok) this.form.set(done.value);
        else this.trouble.set(sayRefusal(done));
      });
  }
}
