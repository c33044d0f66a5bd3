/**
 * Who is signed in, and the house they work in.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import {
  HOUSE_ROUTES,
  type BodySent,
  type House,
  type HouseChange,
  type Session,
  type SignIn,
} from '@foxtrail/contract';
import { classLabel, type KnotClass } from '@foxtrail/core/documents';
import { catchError, finalize, map, of, share, switchMap, takeWhile, tap, timer, type Observable } from 'rxjs';
import { Api } from './api';

const COUNT_EVERY_MS = 700;

@Injectable({ providedIn: 'root' })
export class SessionService {
  private readonly api = inject(Api);
  private readonly state = signal<Session | undefined>(undefined);
  readonly session = this.state.asReadonly();
  /** An author or an owner changes what the house has; others read it. */
  readonly mayWrite = computed(() => {
    const role = this.state()?.account?.role;
    return role === 'author' || role === 'owner';
  });
  /** Who may not review reads only. */
  readonly mayReview = computed(() => (this.state()?.account?.role ?? 'reader') !== 'reader');

  /** A knot's class in the words of the house's school. */
  className(value: KnotClass): string {
    return classLabel(value, this.session()?.house.classSchool ?? 'strict');
  }

  /** Asks who is signed in; who asks while it is being asked is answered with it. */
  load(): Observable<Session> {
    return (this.underWay ??= this.api.session().pipe(
      tap((s) => this.state.set(s)),
      finalize(() => (this.underWay = undefined)),
      share(),
    ));
  }
  private underWay: Observable<Session> | undefined;

  signIn(body: SignIn): Observable<Session> {
    return this.api.signIn(body).pipe(tap((s) => this.state.set(s)));
  }

  changeHouse(change: HouseChange): Observable<House> {
    return this.api.changeHouse(change).pipe(tap((house) => this.takeHouse(house)));
  }

  /** The house as it is now, without taking it up here. */
  presentHouse(): Observable<House> {
    return this.api.session().pipe(map((s) => s.house));
  }

  takeHouse(house: House): void {
    this.state.update((s) => s && { ...s, house });
  }

  /** How many knots are still to be counted by the present rules, asked again and again until none is. */
  counting(): Observable<number> {
    return timer(0, COUNT_EVERY_MS).pipe(
      switchMap(() => this.api.leftToCount()),
      takeWhile((left) => left > 0, true),
    );
  }

  signOut(): Observable<unknown> {
    return this.api.signOut().pipe(tap(() => this.signedOut()));
  }

  signOutEverywhere(): Observable<unknown> {
    return this.api.call(HOUSE_ROUTES.signOutEverywhere).pipe(tap(() => this.signedOut()));
  }

  private signedOut(): void {
    this.state.update((s) => s && { ...s, account: null });
  }

  /** Takes up an invitation. */
  join(body: BodySent<typeof HOUSE_ROUTES.join>): Observable<Session> {
    return this.api.call(HOUSE_ROUTES.join, { body }).pipe(tap((s) => this.state.set(s)));
  }

  changePassword(body: BodySent<typeof HOUSE_ROUTES.changePassword>): Observable<unknown> {
    return this.api.call(HOUSE_ROUTES.changePassword, { body });
  }
}

/** Lets the signed-in pass; others sign in first and come back. With no server to ask, whoever was signed in goes on. */
export const signedInGuard: CanActivateFn = (_route, target) => {
  const service = inject(SessionService);
  const router = inject(Router);
  const toSignIn = router.createUrlTree(['/sign-in'], { queryParams: { to: target.url } });
  return service.load().pipe(
    map((s) => (s.account ? true : toSignIn)),
    catchError(() => of(service.session()?.account ? true : toSignIn)),
  );
};
