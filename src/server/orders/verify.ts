import { createVerifier, httpbis } from 'http-message-signatures';
import { digestOf, keyName, signedParts } from './tell';

/** A request older than this is not believed, in seconds: whoever has heard it could send it again. */
const maxAge = 300;

/** Whether a request was signed with a secret, all of it, a moment ago: as a receiver of orders is to check. */
export async function verified(
  request: { method: string; url: string; headers: Record<string, string | string[]>; body: string },
  secret: string,
): Promise<boolean> {
  const { body, ...message } = request;
  if (request.headers['content-digest'] !== digestOf(body)) return false;
  const verify = createVerifier(Buffer.from(secret, 'base64'), 'hmac-sha256');
  try {
    return (
      (await httpbis.verifyMessage(
        {
          keyLookup: ({ keyid }) => Promise.resolve(keyid === keyName ? { verify, algs: ['hmac-sha256'] } : null),
          requiredFields: signedParts,
          requiredParams: ['created', 'keyid', 'alg'],
          maxAge,
        },
        message,
      )) === true
    );
  } catch {
    return false;
  }
}
