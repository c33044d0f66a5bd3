/** Putting knots into an assembly: what each of their ropes eats, and where they go. */
import { inject, Injectable } from '@angular/core';
import {
  assemblyKnotSchema,
  freeId,
  freeSpot,
  knotStop,
  stopsOf,
  withKnotReplaced,
  withNextStop,
  type Assembly,
  type AssemblyKnot,
  type AssemblyRope,
  type Stop,
  type StrandUse,
} from '@foxtrail/core/assembly';
import { accept, type Result } from '@foxtrail/core';
import { eatsOfPattern } from '@foxtrail/pattern-book/assemblies';
import { firstValueFrom } from 'rxjs';
import { AssembliesService } from '../data/assemblies';
import { KinService } from '../data/kin';
import { Eats } from '../ropes/eats';

/** Where a loop is not told, a hand goes through it; in millimetres, all round. */
const LOOP_MM = 300;

@Injectable()
export class Laying {
  private readonly known = inject(AssembliesService);
  private readonly kin = inject(KinService);
  private readonly eats = inject(Eats);
  /** Share of a setting that is done; nothing while none is in hand. */
  readonly share = this.eats.share;
  stop = (): void => this.eats.stop();

  /** What each rope of a knot eats: of one that is a pattern by computation as the book has it; else it is set. */
  private async strandsOf(ref: string): Promise<Result<readonly StrandUse[]> | undefined> {
    const asked = this.known.ask([ref]);
    if (asked) await firstValueFrom(asked);
    const [own] = this.known.facts()(ref)?.is ?? [];
    const pattern = ref.startsWith('pattern:') ? ref.slice('pattern:'.length) : own?.id;
    const found = pattern === undefined ? [] : eatsOfPattern(pattern);
    if (found.length > 0) return accept(found);
    const set = await this.eats.of(ref);
    return set?.ok ? accept(set.value.strands.map((s) => ({ set: s.set, host: s.host ?? null }))) : set;
  }

  /** An assembly with one more knot, last in the order of tying, at the end of a rope. */
  async add(a: Assembly, ref: string, rope: number): Promise<Result<Assembly> | undefined> {
    const strands = await this.strandsOf(ref);
    if (!strands?.ok) return strands;
    const name = this.kin.nameOf(ref);
    const [own] = this.known.facts()(ref)?.is ?? [];
    const knot: AssemblyKnot = assemblyKnotSchema.parse({
      id: freeId('k', a.knots),
      role: name,
      ref,
      name,
      shouldBe: own?.id ?? null,
      ...freeSpot(a),
    });
    const withIt = { ...a, knots: [...a.knots, knot] };
    const ropes = withIt.ropes.map((r, i) =>
      i === rope ? withNextStop(r, this.stopOf(r, knot, strands.value, 0)) : r,
    );
    return accept({ ...withIt, ropes });
  }

  /** A knot of an assembly put on a rope, too: its next rope, where it has another. */
  async putOn(a: Assembly, rope: AssemblyRope, id: string): Promise<Result<AssemblyRope> | undefined> {
    const knot = a.knots.find((k) => k.id === id);
    if (!knot) return undefined;
    const strands = await this.strandsOf(knot.ref);
    if (!strands?.ok) return strands;
    const strand = Math.min(stopsOf(a, id).length, Math.max(0, strands.value.length - 1));
    return accept(withNextStop(rope, this.stopOf(rope, knot, strands.value, strand)));
  }

  /** Another knot in the place of one: what its ropes eat follows. */
  async replace(a: Assembly, id: string, ref: string): Promise<Result<Assembly> | undefined> {
    const strands = await this.strandsOf(ref);
    if (!strands?.ok) return strands;
    return accept(withKnotReplaced(a, id, { ref, name: this.kin.nameOf(ref) }, strands.value));
  }

  private stopOf(rope: AssemblyRope, knot: AssemblyKnot, strands: readonly StrandUse[], strand: number): Stop {
    const isLoop = this.kin.node(knot.ref)?.class.includes('loop') === true;
    return knotStop(rope, knot.id, strands, { strand, loopMm: isLoop && strand === 0 ? LOOP_MM : 0 });
  }
}
