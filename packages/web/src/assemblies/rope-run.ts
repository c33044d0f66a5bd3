/**
 * The run of a rope through an assembly: what it is cut from, where it goes from its first end to its last, and how far it is from one
 * stop to the next.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import {
  ROUND_WAYS,
  sayRound,
  sayThe,
  withNextStop,
  withStopsExchanged,
  withoutStops,
  type Assembly,
  type AssemblyRope,
  type Stop,
} from '@foxtrail/core/assembly';
import { uncapital } from '@foxtrail/core';
import { PLAN_LIMITS } from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { MeasureField } from '../ropes/measure-field';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Laying } from './laying';

@Component({
  selector: 'ft-rope-run',
  imports: [MatButtonModule, MatIconModule, MatMenuModule, MeasureField, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rope-run.html',
  styleUrl: './rope-run.scss',
})
export class RopeRun {
  readonly assembly = input.required<Assembly>();
  readonly rope = input.required<AssemblyRope>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<AssemblyRope>();
  readonly removed = output();
  private readonly kept = inject(RopesService);
  private readonly laying = inject(Laying);
  protected readonly attempt = new Attempt();

  protected readonly stock = computed(() => this.kept.ropes.list().map((k) => ({ value: k.id, name: k.is.name })));
  protected readonly firsts = [
    { value: 'standing part' as const, name: 'standing part' },
    { value: 'tail' as const, name: 'tail' },
  ];
  protected readonly ways = ROUND_WAYS.map((w) => ({ value: w, name: w }));
  protected readonly turns = [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6].map((n) => ({
    value: n,
    name: n === 0.5 ? 'half a turn' : n === 1 ? 'one turn' : `${n} turns`,
  }));

  protected readonly rows = computed(() => {
    const a = this.assembly();
    const { stops } = this.rope();
    return stops.map((stop, i) => ({
      stop,
      last: i === stops.length - 1,
      says: sayStop(a, stop),
      isLeg: stop.kind === 'round' && a.things.find((t) => t.id === stop.thing)?.kind === 'thigh',
    }));
  });

  protected change(more: Partial<AssemblyRope>): void {
    this.changed.emit({ ...this.rope(), ...more });
  }
  protected changeStop(at: number, to: (s: Stop) => Stop): void {
    this.change({ stops: this.rope().stops.map((s, i) => (i === at ? to(s) : s)) });
  }
  protected setAfter(at: number, afterMm: number | null): void {
    if (afterMm !== null) this.changeStop(at, (s) => ({ ...s, afterMm }));
  }
  protected setLoop(at: number, loopMm: number | null): void {
    if (loopMm !== null) this.changeStop(at, (s) => (s.kind === 'knot' ? { ...s, loopMm } : s));
  }
  protected setTurns(at: number, turns: number): void {
    this.changeStop(at, (s) => (s.kind === 'round' ? { ...s, turns } : s));
  }
  protected setWay(at: number, way: string): void {
    this.changeStop(at, (s) => (s.kind === 'round' ? { ...s, way: ROUND_WAYS.find((w) => w === way) ?? null } : s));
  }
  protected removeStop(at: number): void {
    this.changed.emit(withoutStops(this.rope(), (_, i) => i === at));
  }
  protected moveStop(at: number, by: 1 | -1): void {
    this.changed.emit(withStopsExchanged(this.rope(), Math.min(at, at + by)));
  }
  protected readonly mostCopies = PLAN_LIMITS.copies;
  protected setCopies(field: HTMLInputElement): void {
    const copies = Math.min(PLAN_LIMITS.copies, Math.max(1, Math.round(Number(field.value)) || 1));
    field.value = String(copies);
    this.change({ copies });
  }
  protected cutFrom(id: string): void {
    const rope = this.kept.ropes.find(id);
    this.change({ rope: rope ? rope.id : null, ...(rope ? { diameterMm: rope.is.diameterMm } : {}) });
  }

  protected addRound(thing: string): void {
    this.changed.emit(withNextStop(this.rope(), { kind: 'round', thing, turns: 0.5, way: null, afterMm: 0 }));
  }
  protected addThrough(knot: string): void {
    this.changed.emit(withNextStop(this.rope(), { kind: 'through', knot, afterMm: 0 }));
  }
  protected async addKnot(id: string): Promise<void> {
    await this.attempt.run(this.laying.putOn(this.assembly(), this.rope(), id), (found) => {
      if (found?.ok === false) this.attempt.trouble.set(`${found.reason} ${found.remedy}`);
      else if (found) this.changed.emit(found.value);
    });
  }
}

/** Where a rope goes, as a row says it. */
function sayStop(a: Assembly, stop: Stop): string {
  if (stop.kind === 'round') return sayRound(a.things.find((t) => t.id === stop.thing)?.name ?? '', stop.turns);
  const knot = a.knots.find((k) => k.id === stop.knot);
  const role = knot?.role ?? '';
  if (stop.kind === 'through') return `through the loop of ${uncapital(sayThe(role))}`;
  return `${a.knots.findIndex((k) => k.id === stop.knot) + 1} ${role}`;
}
