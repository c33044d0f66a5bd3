/**
 * The order of tying: every knot with what it is there, whether it is the knot that it ought to be, and, of the chosen one, what can be said
 * of it. Dragged, or moved with its buttons.
 */
import { CdkDrag, CdkDragHandle, CdkDropList, moveItemInArray, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { sameName, type Result } from '@foxtrail/core';
import {
  withoutKnot,
  type Assembly,
  type AssemblyFinding,
  type AssemblyKnot,
  type FactsOf,
} from '@foxtrail/core/assembly';
import { patterns } from '@foxtrail/pattern-book';
import { Attempt } from '../data/attempt';
import { KinService } from '../data/kin';
import { Notices } from '../ui/notices';
import { Select, type Choice } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import type { Chosen } from './board';
import { Laying } from './laying';

/** Most names that are offered. */
const OFFERED = 40;

@Component({
  selector: 'ft-tying-order',
  imports: [
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    MatAutocompleteModule,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    RouterLink,
    Select,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tying-order.html',
  styleUrl: './tying-order.scss',
})
export class TyingOrder {
  readonly assembly = input.required<Assembly>();
  readonly facts = input.required<FactsOf>();
  readonly findings = input.required<readonly AssemblyFinding[]>();
  readonly chosen = input<string>();
  readonly mayWrite = input.required<boolean>();
  readonly choose = output<Chosen | undefined>();
  readonly changed = output<Assembly>();
  private readonly kin = inject(KinService);
  private readonly notices = inject(Notices);
  protected readonly laying = inject(Laying);
  protected readonly attempt = new Attempt();
  protected readonly asked = signal('');
  protected readonly another = signal('');

  protected readonly rows = computed(() =>
    this.assembly().knots.map((knot) => {
      const own = this.findings().filter((f) => f.about === knot.id);
      const known = this.facts()(knot.ref);
      return {
        knot,
        known,
        finding: own.find((f) => f.severity === 'error') ?? own[0],
        bad: own.some((f) => f.severity === 'error'),
        link: knot.ref.startsWith('knot:') ? ['/knot', knot.ref.slice('knot:'.length), 'draft'] : undefined,
      };
    }),
  );

  protected readonly shouldBe: readonly Choice<string>[] = patterns().map(({ id, knot }) => ({
    value: id,
    name: knot.name,
  }));
  protected readonly keepers = [0, 1, 2].map((n) => ({
    value: n,
    name: ['no keeper is asked', 'one keeper is asked', 'two keepers are asked'][n]!,
  }));
  protected readonly others = computed(() =>
    this.assembly()
      .knots.filter((k) => k.id !== this.chosen())
      .map((k) => ({ value: k.id, name: `keeper of: ${k.role}` })),
  );
  protected readonly things = computed(() =>
    this.assembly().things.map((t) => ({ value: t.id, name: `on: ${t.name}` })),
  );

  protected offered(text: string): ReturnType<KinService['nodes']> {
    const wanted = sameName(text);
    return this.kin
      .nodes()
      .filter((n) => sameName(n.name).includes(wanted))
      .slice(0, OFFERED);
  }
  protected readonly found = computed(() => this.offered(this.asked()));
  protected readonly instead = computed(() => this.offered(this.another()));

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }
  protected move(from: number, to: number): void {
    if (from === to) return;
    const knots = [...this.assembly().knots];
    moveItemInArray(knots, from, to);
    this.changed.emit({ ...this.assembly(), knots });
  }

  protected changeKnot(id: string, more: Partial<AssemblyKnot>): void {
    const a = this.assembly();
    this.changed.emit({ ...a, knots: a.knots.map((k) => (k.id === id ? { ...k, ...more } : k)) });
  }
  protected remove(knot: AssemblyKnot): void {
    const before = this.assembly();
    this.changed.emit(withoutKnot(before, knot.id));
    this.notices.done(`“${knot.role}” is taken away.`, () => this.changed.emit(before));
  }

  protected async add(ref: string): Promise<void> {
    const a = this.assembly();
    const rope = Math.max(0, a.ropes.length - 1);
    await this.lay(this.laying.add(a, ref, rope), (done) => {
      this.changed.emit(done);
      const last = done.knots.at(-1);
      if (last) this.choose.emit({ kind: 'knot', id: last.id });
    });
  }
  protected async replace(knot: AssemblyKnot, ref: string): Promise<void> {
    await this.lay(this.laying.replace(this.assembly(), knot.id, ref), (done) => this.changed.emit(done));
  }

  private async lay(work: Promise<Result<Assembly> | undefined>, then: (a: Assembly) => void): Promise<void> {
    await this.attempt.run(work, (found) => {
      if (found?.ok === false) this.attempt.trouble.set(`${found.reason} ${found.remedy}`);
      else if (found) then(found.value);
    });
  }
}
