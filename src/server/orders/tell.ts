import { createHash, randomBytes } from 'node:crypto';
import { createSigner, httpbis } from 'http-message-signatures';
import type { OrderBody, OrderEvent, Receiver } from '@/store';

/** A receiver has so long to answer, in milliseconds. */
const answerMs = 10_000;

/** A message about an order: its number, what happened, and all of it as the customer made it. */
export interface Told {
  /** The same however often it is told. */
  id: string;
  what: OrderEvent['what'];
  at: string;
  order: OrderBody;
}

/** What of a request is signed (RFC 9421), in this order. */
export const signedParts = ['@method', '@target-uri', 'content-type', 'content-digest', 'idempotency-key'];
export const keyName = 'orders';

export const newSecret = (): string => randomBytes(32).toString('base64');

/** The digest of a body as its header has it (RFC 9530). */
export const digestOf = (body: string): string => `sha-256=:${createHash('sha256').update(body).digest('base64')}:`;

/**
 * Tells a receiver of an event, signed with its secret.
 *
 * @returns what it answered, as a sentence
 * @throws Error that says what is wrong, where it has not taken it
 */
export async function tell(
  { url, secret }: Receiver,
  event: OrderEvent,
  order: OrderBody,
  timeoutMs = answerMs,
): Promise<string> {
  const { key: id, what, at } = event;
  const body = JSON.stringify({ id, what, at, order } satisfies Told);
  const request = {
    method: 'POST',
    url,
    headers: {
      'content-type': 'application/json',
      'content-digest': digestOf(body),
      'idempotency-key': `"${id}"`,
    },
  };
  const key = createSigner(Buffer.from(secret, 'base64'), 'hmac-sha256', keyName);
  const { headers } = await httpbis.signMessage(
    { key, name: 'last', fields: signedParts, params: ['created', 'keyid', 'alg'] },
    request,
  );
  let answer: Response;
  try {
    const sent = { method: 'POST', headers: headers as Record<string, string>, body };
    answer = await fetch(url, { ...sent, redirect: 'manual', signal: AbortSignal.timeout(timeoutMs) });
  } catch (error) {
    const { name, message, cause } = error as Error;
    throw new Error(
      name === 'TimeoutError'
        ? `It did not answer within ${timeoutMs / 1000} seconds.`
        : `It cannot be reached: ${cause instanceof Error ? cause.message : message}.`,
    );
  }
  // What it says besides is not read: whether it has taken the order is its status alone.
  await answer.body?.cancel().catch(() => {});
  if (answer.ok) return `It answered ${answer.status}.`;
  const to = answer.headers.get('location');
  if (answer.status >= 300 && answer.status < 400 && to)
    throw new Error(`It answered ${answer.status} and leads to ${to}: give that address, if it is right.`);
  throw new Error(`It answered ${answer.status}.`);
}
