/** Classes of learners: fetched once, kept as they change. */
import { inject, Injectable, signal } from '@angular/core';
import { CLASS_ROUTES, type LearnerClass } from '@foxtrail/contract/classes';
import { tap, type Observable } from 'rxjs';
import { Api } from './api';

@Injectable({ providedIn: 'root' })
export class ClassesService {
  private readonly api = inject(Api);
  /** Nothing while they have not been fetched. */
  readonly classes = signal<readonly LearnerClass[] | undefined>(undefined);

  load(): Observable<unknown> {
    return this.api.call(CLASS_ROUTES.list).pipe(tap(({ classes }) => this.classes.set(classes)));
  }
  make(name: string, course: string): Observable<LearnerClass> {
    return this.api
      .call(CLASS_ROUTES.make, { body: { name, course } })
      .pipe(tap((made) => this.classes.update((all) => [...(all ?? []), made])));
  }
  remove(id: string): Observable<unknown> {
    return this.api
      .call(CLASS_ROUTES.remove, { parameters: { group: id } })
      .pipe(tap(() => this.classes.update((all) => all?.filter((c) => c.id !== id))));
  }
}
