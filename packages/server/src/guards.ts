/**
 * What routes in files of their own need of the application: its database, who asks, and how a request is checked.
 */
import type { Account } from '@foxtrail/contract';
import type { Request } from 'express';
import type pg from 'pg';
import type * as z from 'zod';

export interface Guards {
  readonly pool: pg.Pool;
  readonly signedIn: (req: Request) => Promise<Account>;
  readonly author: (req: Request) => Promise<Account>;
  readonly check: <T>(type: z.ZodType<T>, data: unknown) => T;
}
