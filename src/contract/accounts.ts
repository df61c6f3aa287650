import { z } from 'zod';
import { endpoint } from './endpoint';

/** Who may work here: accounts, their sessions and tokens, and the log of what was done. */

export const role = z.enum(['owner', 'developer', 'staff', 'reader']);

/** What someone signs in with: an address or a short name, without blanks. */
export const accountName = z
  .string()
  .trim()
  .min(1, 'A name is needed: an address of e-mail, or a short name.')
  .max(120)
  .regex(/^\S+$/, 'A name to sign in with has no blanks.');

/** What colleagues read beside changes. */
export const calledName = z.string().trim().min(1, 'Say what colleagues call them.').max(60);

/** Bounds of a password, in characters (OWASP ASVS 4.0.3, 2.1.1 and 2.1.2, from memory). */
export const passwordLength = { least: 12, most: 128 };

export const newPassword = z
  .string()
  .min(passwordLength.least, `A password has at least ${passwordLength.least} characters.`)
  .max(passwordLength.most, `A password has at most ${passwordLength.most} characters.`);

const right = z.enum([
  'look',
  'arrange',
  'goods',
  'orders',
  'source',
  'drafts',
  'publish',
  'publishContent',
  'people',
  'self',
]);

const person = z.object({
  id: z.number(),
  name: z.string(),
  called: z.string(),
  role,
  /** When they were last here; null: never yet. */
  seenAt: z.string().nullable(),
  /** Whether they have a password; without one their link is still open. */
  joined: z.boolean(),
  sessions: z.number(),
});
export type PersonItem = z.output<typeof person>;

/** A one-time link: shown once, to who made it. */
const link = z.object({ path: z.string(), until: z.string() });
export type LinkItem = z.output<typeof link>;

const token = z.object({
  id: z.number(),
  name: z.string(),
  rights: z.array(right),
  madeAt: z.string(),
  until: z.string(),
  seenAt: z.string().nullable(),
});
export type TokenItem = z.output<typeof token>;

const entry = z.object({ id: z.number(), at: z.string(), by: z.string(), what: z.string(), about: z.string() });
export type LogEntry = z.output<typeof entry>;

const logQuery = {
  by: z.string().max(120).default(''),
  what: z.string().max(40).default(''),
  words: z.string().max(200).default(''),
};

const done = z.object({});

const settings = z.object({
  /** Staff may publish a draft in which only pieces and words differ from what is live. */
  staffPublish: z.boolean(),
});

export const accountEndpoints = {
  me: endpoint('GET', '/api/me', 'Says who asks, and what they may do', {
    answer: z.object({
      /** Whether people sign in here; if not, whoever is at this machine may do everything. */
      signedIn: z.boolean(),
      name: z.string(),
      called: z.string(),
      role,
      rights: z.array(right),
    }),
  }),
  password: endpoint('POST', '/api/me/password', 'Changes one’s own password', {
    body: z.strictObject({ was: z.string().max(passwordLength.most), now: newPassword }),
    answer: done,
  }),
  endMine: endpoint('DELETE', '/api/me/sessions', 'Ends one’s own sessions, on every device'),
  tokens: endpoint('GET', '/api/tokens', 'Lists one’s own tokens', {
    answer: z.object({ tokens: z.array(token) }),
  }),
  makeToken: endpoint('POST', '/api/tokens', 'Makes a token; it is shown this once', {
    body: z.strictObject({
      name: z.string().trim().min(1, 'Say what it is for.').max(60),
      rights: z.array(right).min(1, 'Say what it may do.'),
      /** For so many days. */
      days: z.number().int().min(1).max(366),
    }),
    answer: z.object({ token: z.string(), made: token }),
  }),
  endToken: endpoint('DELETE', '/api/tokens/{token}', 'Ends a token'),
  people: endpoint('GET', '/api/people', 'Lists who may work here', { answer: z.object({ people: z.array(person) }) }),
  invite: endpoint('POST', '/api/people', 'Makes an account, with a one-time link to come in by', {
    body: z.strictObject({ name: accountName, called: calledName, role }),
    answer: z.object({ person, link }),
  }),
  change: endpoint('PUT', '/api/people/{account}', 'Gives an account another role, or another name beside changes', {
    body: z.strictObject({ called: calledName.optional(), role: role.optional() }),
    answer: person,
  }),
  link: endpoint('POST', '/api/people/{account}/link', 'Makes a one-time link to a new password; earlier ones end', {
    answer: link,
  }),
  endSessions: endpoint('DELETE', '/api/people/{account}/sessions', 'Ends all sessions and links of an account'),
  remove: endpoint('DELETE', '/api/people/{account}', 'Removes an account with its sessions and tokens'),
  settings: endpoint('GET', '/api/settings', 'Gives what owners set for all who work here', {
    answer: settings,
  }),
  set: endpoint('PUT', '/api/settings', 'Sets it', { body: settings.partial().strict(), answer: settings }),
  log: endpoint('GET', '/api/log', 'Lists what was done, the latest first', {
    query: z.object({ ...logQuery, before: z.coerce.number().int().optional() }),
    answer: z.object({
      entries: z.array(entry),
      /** What kinds of entries there are, and who made them: to filter by. */
      kinds: z.array(z.string()),
      people: z.array(z.string()),
      more: z.boolean(),
    }),
  }),
  logSheet: endpoint('GET', '/api/log/sheet', 'Sends the log as CSV', { query: z.object(logQuery), sends: 'bytes' }),
};
