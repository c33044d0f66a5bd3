/** What shows a knot in space: fetched when one is first shown. */
import { Injectable } from '@angular/core';
import type { Figure, Look, RopeForm } from '@foxtrail/core';
import type { Turntable, TurntableOptions } from '@foxtrail/lesson/turntable';

/** A knot in space. */
export interface InSpace extends Turntable {
  /** Paints it in other colours. */
  readonly paint: (look: Look) => void;
}

@Injectable({ providedIn: 'root' })
export class Space {
  /** Stands a form in an element; nothing where this browser draws nothing in space, or what draws it cannot be fetched. */
  async stand(
    within: HTMLElement,
    { figure, form, look }: { readonly figure: Figure; readonly form: RopeForm; readonly look: Look },
    options: Omit<TurntableOptions, 'ink'>,
  ): Promise<InSpace | undefined> {
    const fetched = await Promise.all([import('@foxtrail/lesson/turntable'), import('@foxtrail/core/mesh')]).catch(
      () => undefined,
    );
    if (!fetched || !within.isConnected) return undefined;
    const [{ turntable }, { meshesOf }] = fetched;
    const table = turntable(within, meshesOf(figure.ropes, form, look), { ...options, ink: look.ink });
    let worn = look;
    return (
      table && {
        ...table,
        paint: (other) => {
          if (other === worn) return;
          worn = other;
          table.show(meshesOf(figure.ropes, form, other), other.ink);
        },
      }
    );
  }
}
