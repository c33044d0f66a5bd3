/**
 * The panel of the laying tool in hand: what it goes round or follows, how often, which way.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatSliderModule } from '@angular/material/slider';
import { MOST_HALF_TURNS, MOST_TURNS, SPACINGS, type Letter, type Wrap } from '@foxtrail/core';
import { ChoiceRow, type Option } from './choice-row';
import { LayingTools } from './laying-tools';
import { HAND_MOVES } from './move-tool';

const options = <T>(...pairs: readonly (readonly [T, string])[]): readonly Option<T>[] =>
  pairs.map(([value, name]) => ({ value, name }));

@Component({
  selector: 'ft-tool-panel',
  imports: [MatButtonModule, ChoiceRow, MatIconModule, MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tool-panel.html',
  styleUrl: './tool-panel.scss',
})
export class ToolPanel {
  protected readonly tools = inject(LayingTools);
  protected readonly spacings = SPACINGS;
  protected readonly mostTurns = MOST_TURNS;
  protected readonly handMoves = HAND_MOVES;
  protected readonly passages = options<Letter>(['O', 'over'], ['U', 'under']);
  protected readonly onHost = options<Letter>(['O', 'over'], ['U', 'behind']);
  protected readonly along = options<Wrap['direction']>(['on', 'along'], ['back', 'back']);
  protected readonly lying = options<boolean>([false, 'side by side'], [true, 'riding']);
  protected readonly sides = options<'left' | 'right'>(['left', 'left'], ['right', 'right']);

  /** Turns as they are typed: halves at least, as many as can be laid. */
  protected turns(event: Event): void {
    const input = event.target as HTMLInputElement;
    const asked = Math.round(2 * input.valueAsNumber) / 2;
    if (Number.isFinite(asked)) this.tools.turns.set(Math.min(MOST_TURNS, Math.max(0.5, asked)));
    input.value = String(this.tools.turns());
  }

  protected more(by: number): void {
    this.tools.turns.update((n) => Math.min(MOST_TURNS, Math.max(0.5, n + by)));
  }

  /** A move's turns: whole ones where they are part of a knot, else halves too. */
  protected moveTurns(way: 1 | -1): void {
    const { moves } = this.tools;
    const least = moves.kind() === 'turns' ? 0.5 : 1;
    moves.turns.update((n) => Math.min(MOST_TURNS, Math.max(least, Math.round((n + way * least) / least) * least)));
  }

  protected twist(by: number): void {
    this.tools.halfTurns.update((n) => {
      const next = n + by === 0 ? n + 2 * by : n + by;
      return Math.min(MOST_HALF_TURNS, Math.max(-MOST_HALF_TURNS, next));
    });
  }

  protected readonly sayHalfTurns = (n: number): string =>
    `${Math.abs(n)} half ${Math.abs(n) === 1 ? 'turn' : 'turns'}, first leg ${n > 0 ? 'over' : 'under'}`;
}
