/** A worker's place taken: it tells where the ropes are once, and answers when it is let. */
import { signal } from '@angular/core';
import { type Figure, type Result, type SetForm, type Setting } from '@foxtrail/core';
import { lift } from '@foxtrail/core/form';
import type { Flaw } from '@foxtrail/core/form';
import type { OnItsWay } from '../data/forming';

export class FakeForming {
  readonly share = signal<number | undefined>(undefined);
  /** What was asked for, in order. */
  readonly settings: Setting[] = [];
  get asked(): Figure[] {
    return this.settings.map((s) => s.figure);
  }
  private answer: (done: Result<SetForm> | undefined) => void = () => undefined;
  set(setting: Setting, seen: (form: OnItsWay) => void): Promise<Result<SetForm> | undefined> {
    this.settings.push(setting);
    const lifted = lift(setting.figure);
    if (lifted.ok) seen(lifted.value);
    this.share.set(0.4);
    return new Promise((done) => (this.answer = done));
  }
  /** What is found not dressed. */
  found: readonly Flaw[] = [];
  flaws(): Promise<readonly Flaw[]> {
    return Promise.resolve(this.found);
  }
  end(done: Result<SetForm> | undefined): void {
    this.share.set(undefined);
    this.answer(done);
  }
  stop(): void {
    this.end(undefined);
  }
}
