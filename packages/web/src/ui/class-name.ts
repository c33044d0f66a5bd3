/**
 * A knot's class in the words of the house's school.
 */
import { inject, Pipe, type PipeTransform } from '@angular/core';
import type { KnotClass } from '@foxtrail/core';
import { SessionService } from '../data/session';

@Pipe({ name: 'className', pure: false })
export class ClassName implements PipeTransform {
  private readonly sessions = inject(SessionService);

  transform(value: KnotClass): string {
    return this.sessions.className(value);
  }
}
