/**
 * The house, its accounts and sessions.
 */
import { CLASS_SCHOOLS, vocabularySchema, NAME_LIMIT, nameSchema, practiceSchema } from '@foxtrail/core/documents';
import * as z from 'zod';
import { fromRevision, route } from './route.js';

/** An owner invites people; an author writes; a reviewer reads drafts and says what is wrong with them; a reader reads them. */
export const ROLES = ['owner', 'author', 'reviewer', 'reader'] as const;
export type Role = (typeof ROLES)[number];

/** Fewest characters of a password. */
export const PASSWORD_LEAST = 12;
const PASSWORD_MOST = 200;
const CODE_MOST = 40;

export const healthSchema = z.object({ ok: z.boolean(), database: z.enum(['up', 'down']), version: z.string() });

export const accountSchema = z.object({ id: z.uuid(), name: z.string(), role: z.enum(ROLES) });
export type Account = z.infer<typeof accountSchema>;

export const houseSchema = z.object({
  name: z.string(),
  /** The revision of its rules. */
  revision: z.number().int(),
  /** Which words the house has for classes: see `classLabel` in the core. */
  classSchool: z.enum(CLASS_SCHOOLS),
  /** The rules it keeps to. */
  practice: practiceSchema,
  /** The words composed texts are written in. */
  vocabulary: vocabularySchema,
});
export type House = z.infer<typeof houseSchema>;

/** What an author may change of the house. */
export const houseChangeSchema = z.object({ ...fromRevision, name: nameSchema, practice: practiceSchema });
export type HouseChange = z.infer<typeof houseChangeSchema>;

/** How many knots are still to be counted by the present rules. */
export const houseCountSchema = z.object({ left: z.number().int() });

export const sessionSchema = z.object({
  account: accountSchema.nullable(),
  house: houseSchema,
  /** Whether this is the made-up demo. */
  demo: z.boolean(),
});
export type Session = z.infer<typeof sessionSchema>;

export const signInSchema = z.object({
  name: z.string().trim().min(1, 'a name is needed').max(NAME_LIMIT),
  password: z.string().min(1, 'a password is needed').max(PASSWORD_MOST),
  /** Of an authenticator, or a spare one: where the account asks for it. */
  code: z.string().max(CODE_MOST).optional(),
});

/** Somebody who has an account. */
export const personSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  role: z.enum(ROLES),
  closed: z.boolean(),
  /** Whether a code is asked for beside the password. */
  second: z.boolean(),
  /** When a session of theirs was last used; null: none is open. */
  usedAt: z.string().nullable(),
});
export type Person = z.infer<typeof personSchema>;

/** Somebody who is invited, and until when. */
export const invitedSchema = z.object({ name: z.string(), role: z.enum(ROLES), endsAt: z.string() });
export type Invited = z.infer<typeof invitedSchema>;

export const peopleSchema = z.object({ people: z.array(personSchema), invited: z.array(invitedSchema) });
export type People = z.infer<typeof peopleSchema>;

/** What a house holds, and what is still to be done in it. */
export const heldSchema = z.object({
  knots: z.number().int(),
  archived: z.number().int(),
  revisions: z.number().int(),
  films: z.number().int(),
  /** Bytes of films and clips, and of all of the database. */
  mediaBytes: z.number(),
  databaseBytes: z.number(),
  /** What servers do by themselves: how much of it is left, how much of that is in hand, and of how many servers. */
  jobs: z.array(
    z.object({
      kind: z.enum(['count', 'kin', 'form', 'slips']),
      left: z.number().int(),
      inHand: z.number().int(),
      servers: z.number().int(),
    }),
  ),
  /** Days after which only the last save of a day is kept; null: every save is. */
  keepDays: z.number().int().nullable(),
  /** The role by which the server is in the database may do anything there; one that owns its database is enough. */
  superuser: z.boolean(),
  /** When it was last backed up, and how large that was; null: never, by this program. */
  backup: z.object({ at: z.string(), bytes: z.number() }).nullable(),
});
export type Held = z.infer<typeof heldSchema>;

/** The least and the most days after which saves may go. */
export const KEEP_DAYS = { least: 30, most: 36_500 } as const;
const keepDaysSchema = z.number().int().min(KEEP_DAYS.least).max(KEEP_DAYS.most);
const keepSchema = z.object({
  days: keepDaysSchema.nullable(),
  /** Only tells how many would go. */
  look: z.boolean().default(false),
});

const trueOrFalse = z.enum(['true', 'false']).default('false');
const archiveQuerySchema = z.object({
  /** Takes it; else only tells what would become of what is in it. */
  take: trueOrFalse,
  /** Its rules of the house, and its words, too. */
  house: trueOrFalse,
  words: trueOrFalse,
});
/** What becomes of each part of an archive. */
export const archiveToldSchema = z.object({
  house: z.string(),
  made: z.string(),
  told: z.array(
    z.object({
      what: z.string(),
      becomes: z.enum(['new', 'there already', 'left', 'refused']),
      why: z.string().optional(),
    }),
  ),
});
export type ArchiveTold = z.infer<typeof archiveToldSchema>;
/** Most bytes of an archive that is sent. */
export const ARCHIVE_LIMIT = 4 * 1024 ** 3;

const inviteSchema = z.object({ name: nameSchema, role: z.enum(ROLES) });
const joinSchema = z.object({ token: z.string().min(1).max(100), password: z.string().min(1).max(PASSWORD_MOST) });
const passwordSchema = z.object({
  present: z.string().min(1, 'the present password is needed').max(PASSWORD_MOST),
  wanted: z.string().min(1, 'a password is needed').max(PASSWORD_MOST),
});
/** What an authenticator is given: typed, or read by its camera from a picture of squares, a row a text, dark ones `1`. */
export const secondFactorBegunSchema = z.object({ secret: z.string(), squares: z.array(z.string()) });
export type SecondFactorBegun = z.infer<typeof secondFactorBegunSchema>;
const presentSchema = passwordSchema.pick({ present: true });
export type SignIn = z.infer<typeof signInSchema>;

export const HOUSE_ROUTES = {
  health: route({
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server and its database answer',
    answer: healthSchema,
    access: 'anyone',
  }),
  alive: route({
    method: 'get',
    path: '/api/alive',
    summary: 'Whether the server answers, whatever its database does: one that does not is to be started anew',
    answer: z.object({ ok: z.literal(true) }),
    access: 'anyone',
  }),
  session: route({
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in, the house, and the demo sign-ins',
    answer: sessionSchema,
    access: 'anyone',
  }),
  signIn: route({
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    body: signInSchema,
    answer: sessionSchema,
    access: 'anyone',
    refusals: [400, 401, 429, 503],
  }),
  people: route({
    method: 'get',
    path: '/api/people',
    access: 'owner',
    summary: 'Who has an account, and who is invited',
    answer: peopleSchema,
    refusals: [401, 403],
  }),
  held: route({
    method: 'get',
    path: '/api/house/held',
    access: 'owner',
    summary: 'What the house holds, what is still to be done, and its last backup',
    answer: heldSchema,
    refusals: [401, 403],
  }),
  keep: route({
    method: 'put',
    path: '/api/house/keep',
    access: 'owner',
    summary: 'Choose how long every save is kept, or ask how many would go; afterwards only the last save of a day is',
    body: keepSchema,
    answer: z.object({ goes: z.number().int() }),
    refusals: [400, 401, 403],
  }),
  writeArchive: route({
    method: 'get',
    path: '/api/house/archive.zip',
    access: 'owner',
    summary: 'The whole library as one open archive',
    media: 'application/zip',
    refusals: [401, 403, 503],
  }),
  readArchive: route({
    method: 'post',
    path: '/api/house/archive',
    access: 'owner',
    summary: 'Look an archive through, or take it: films, knots and their kin, and what is asked for beside them',
    query: archiveQuerySchema,
    answer: archiveToldSchema,
    costly: 'sending',
    refusals: [400, 401, 403, 413, 503],
  }),
  invite: route({
    method: 'post',
    path: '/api/people/invitations',
    access: 'owner',
    status: 201,
    summary: 'Invite somebody; the token of the link is told this once',
    body: inviteSchema,
    answer: z.object({ token: z.string() }),
    refusals: [400, 401, 403, 409],
  }),
  uninvite: route({
    method: 'put',
    path: '/api/people/invitations',
    access: 'owner',
    summary: 'Take an invitation back',
    body: z.object({ name: nameSchema }),
    refusals: [400, 401, 403],
  }),
  join: route({
    method: 'post',
    path: '/api/join',
    access: 'anyone',
    summary: 'Take an invitation up, with a password of one’s own',
    body: joinSchema,
    answer: sessionSchema,
    refusals: [400, 404, 409, 503],
  }),
  changePerson: route({
    method: 'put',
    path: '/api/people/{person}',
    access: 'owner',
    summary: 'Change what somebody may do, or close and open their account',
    body: z.object({ role: z.enum(ROLES), closed: z.boolean() }),
    refusals: [400, 401, 403, 404, 409],
  }),
  changePassword: route({
    method: 'put',
    path: '/api/session/password',
    summary: 'Another password; every other session ends',
    body: passwordSchema,
    refusals: [400, 401, 403, 503],
  }),
  secondFactor: route({
    method: 'get',
    path: '/api/session/second',
    summary: 'Whether a code is asked for beside the password',
    answer: z.object({ on: z.boolean() }),
    refusals: [401],
  }),
  beginSecondFactor: route({
    method: 'post',
    path: '/api/session/second',
    summary: 'Begin a second factor: what an authenticator is given',
    body: presentSchema,
    answer: secondFactorBegunSchema,
    refusals: [400, 401, 403, 409, 429, 503],
  }),
  confirmSecondFactor: route({
    method: 'put',
    path: '/api/session/second',
    summary: 'Show that it works, by a code; answered with spare codes',
    body: z.object({ code: z.string().min(1, 'a code is needed').max(CODE_MOST) }),
    answer: z.object({ spare: z.array(z.string()) }),
    refusals: [400, 401, 403, 409],
  }),
  endSecondFactor: route({
    method: 'put',
    path: '/api/session/second/end',
    summary: 'Ask for no code beside the password any more',
    body: presentSchema,
    refusals: [400, 401, 403, 429, 503],
  }),
  signOutEverywhere: route({
    method: 'delete',
    path: '/api/session/all',
    summary: 'Sign out wherever one is signed in',
    refusals: [401],
  }),
  signOut: route({ method: 'delete', path: '/api/session', summary: 'Sign out', access: 'anyone' }),
  change: route({
    method: 'put',
    path: '/api/house',
    access: 'author',
    summary: 'Change the house’s name and the rules it keeps to',
    body: houseChangeSchema,
    answer: houseSchema,
    refusals: [400, 401, 403, 412],
  }),
  leftToCount: route({
    method: 'get',
    path: '/api/house/count',
    summary: 'How many knots are still to be counted by the present rules',
    answer: houseCountSchema,
    refusals: [401],
  }),
} as const;
