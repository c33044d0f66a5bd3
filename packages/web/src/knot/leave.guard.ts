/**
 * Leaving the bench saves first; what cannot be saved stays in the outbox and is taken up at the next visit.
 */
import type { CanDeactivateFn } from '@angular/router';
import type { KnotPage } from './knot';

export const leaveGuard: CanDeactivateFn<KnotPage> = async (page) => {
  await Promise.race([page.saving.flush(), new Promise((resolve) => setTimeout(resolve, 2000))]);
  return true;
};
