import { hash, verify } from '@node-rs/argon2';
import { refuse } from '@/server/http';

/** argon2id, which the package takes where nothing is said, with 19 MiB, 2 passes, 1 lane: the least that OWASP's Password Storage Cheat Sheet names (from memory). Memory in KiB. */
export const parameters = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

/** Passwords that are worked out at once, and that wait for it: each needs a processor and 19 MiB. */
const most = { atOnce: 2, waiting: 40 };

let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= most.atOnce) {
    if (waiting.length >= most.waiting) refuse(503, 'busy', 'Too many sign in just now. Try again in a minute.');
    await new Promise<void>((go) => waiting.push(go));
  }
  running++;
  try {
    return await work();
  } finally {
    running--;
    waiting.shift()?.();
  }
}

export const hashPassword = (password: string): Promise<string> =>
  inTurn(() => hash(password.normalize('NFC'), parameters));

/** The hash of no password: who has no account waits as long as who has one. */
let none: Promise<string> | null = null;

/** Whether a password is the one that was kept; `kept` null: nobody has it. */
export async function isPassword(password: string, kept: string | null): Promise<boolean> {
  const against = kept ?? (await (none ??= hash('no password is this one', parameters)));
  const right = await inTurn(() => verify(against, password.normalize('NFC')));
  return right && kept !== null;
}
