/**
 * What a scene points out: each with its words, moved along the rope here, or by a press in the picture.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSliderModule } from '@angular/material/slider';
import { lastAt, REELS, SCENE_CALLOUTS, type Rope, type SceneCallout, type TrailPosition } from '@foxtrail/core';
import { Select } from '../ui/select';

const NAMES: Readonly<Record<SceneCallout['kind'], string>> = {
  label: 'Words',
  ring: 'Ring',
  arrow: 'Arrow',
  cross: 'Cross out',
  ruler: 'Ruler',
};
/** How much of the trail a ruler is laid along at first. */
const FIRST_RULER = 2;
/** What words say until their author says something else. */
const FIRST_WORDS = 'Look here';

@Component({
  selector: 'ft-scene-callouts',
  imports: [MatButtonModule, MatFormFieldModule, MatIconModule, MatInputModule, MatSliderModule, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scene-callouts.html',
  styleUrl: './scene-callouts.scss',
})
export class SceneCallouts {
  readonly callouts = input.required<readonly SceneCallout[]>();
  /** The ropes that are shown. */
  readonly ropes = input.required<readonly Rope[]>();
  /** Where something new is pointed out at first. */
  readonly first = input.required<TrailPosition>();
  /** Which of them is put where the picture is pressed; none. */
  readonly placing = input<number | undefined>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<readonly SceneCallout[]>();
  readonly place = output<number | undefined>();

  protected readonly kinds = SCENE_CALLOUTS;
  protected readonly names = NAMES;
  protected readonly longest = REELS.callout;
  protected readonly isFull = computed(() => this.callouts().length >= REELS.callouts);
  protected readonly choices = computed(() =>
    this.ropes().map((rope, i) => ({ value: rope.id, name: `Rope ${i + 1}` })),
  );

  protected end(strand: string): number {
    const rope = this.ropes().find((r) => r.id === strand);
    return rope ? lastAt(rope) : 0;
  }

  protected begin(kind: SceneCallout['kind']): void {
    const { strand, at } = this.first();
    const [last, on] = [this.end(strand), at + FIRST_RULER];
    const made: SceneCallout = {
      kind,
      strand,
      at,
      ...(kind === 'label' ? { text: FIRST_WORDS } : {}),
      ...(kind === 'ruler' ? { to: on <= last ? on : Math.max(0, at - FIRST_RULER) } : {}),
    };
    this.changed.emit([...this.callouts(), made]);
    this.place.emit(this.callouts().length);
  }

  protected change(index: number, some: Partial<SceneCallout>): void {
    this.changed.emit(this.callouts().map((c, i) => (i === index ? { ...c, ...some } : c)));
  }

  /** On another rope it is put in the middle of that. */
  protected onRope(index: number, strand: string): void {
    const [at, to] = [0.5 * this.end(strand), 0.6 * this.end(strand)];
    const isRuler = this.callouts()[index]?.kind === 'ruler';
    this.change(index, { strand, at, ...(isRuler ? { to } : {}) });
  }

  protected say(index: number, words: string): void {
    const text = words.trim();
    this.changed.emit(
      this.callouts().map((c, i) => {
        if (i !== index) return c;
        const { text: _before, ...rest } = c;
        return text === '' && c.kind !== 'label' ? rest : { ...rest, text: text === '' ? FIRST_WORDS : text };
      }),
    );
  }

  protected drop(index: number): void {
    this.place.emit(undefined);
    this.changed.emit(this.callouts().filter((_, i) => i !== index));
  }
}
