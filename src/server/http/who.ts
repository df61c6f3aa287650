import { refuse } from './refusal';
import { type Right, type Role, rights } from '@/contract/roles';

/** Who asks, as the door of the workbench found. */
export interface Asking {
  account: number;
  name: string;
  called: string;
  role: Role;
  /** What a token is bound to; null: whatever the role may. */
  rights: readonly Right[] | null;
  /** The hash of the session; '' for a token. */
  session: string;
}

/** The header by which the door tells the calls who asks. What a request brings under that name is dropped. */
export const whoHeader = 'x-last-who';

export const writeWho = (who: Asking): string => Buffer.from(JSON.stringify(who)).toString('base64url');

type Headers = Pick<globalThis.Headers, 'get'>;

const global = globalThis as { lastGuarded?: boolean; lastKnows?: (headers: Headers) => Asking | null };

/** Says that people sign in here: what nobody is known to have asked is answered to nobody. */
export const setGuarded = (guarded: boolean): void => void (global.lastGuarded = guarded);

/** Whoever is at a machine that nobody else reaches. */
const atThisMachine: Asking = { account: 0, name: '', called: '', role: 'owner', rights: null, session: '' };

/** Who asks; null: it is not known, where people sign in. */
export function whoAsks({ headers }: { headers: Headers }): Asking | null {
  const text = headers.get(whoHeader);
  if (!text) return global.lastGuarded ? null : atThisMachine;
  return JSON.parse(Buffer.from(text, 'base64url').toString()) as Asking;
}

/** Says who looks at sessions and tokens; null: nobody does. */
export function setKnowing(knows: ((headers: Headers) => Asking | null) | null): void {
  if (knows) global.lastKnows = knows;
  else delete global.lastKnows;
}

/**
 * Refuses a request whose body took so long to come that its session or token has ended meanwhile, or its account has another role. What was begun
 * once the body is there is finished.
 */
export function stillAsks(request: { headers: Headers }): void {
  const before = request.headers.get(whoHeader) && whoAsks(request);
  if (!before || !global.lastKnows) return;
  const now = global.lastKnows(request.headers);
  if (now?.account !== before.account)
    refuse(
      401,
      'sign-in',
      'You were signed out while this was being sent: nothing was done. Sign in, and send it again.',
    );
  if (now.role !== before.role)
    refuse(403, 'right', `You became ${now.role} while this was being sent: nothing was done. Load the page again.`);
}

/** Whether whoever asks may do something: by their role, and by what their token is bound to. */
export const may = ({ role, rights: bound }: Pick<Asking, 'role' | 'rights'>, right: Right): boolean =>
  (rights[right].roles as readonly Role[]).includes(role) && (bound === null || bound.includes(right));
