import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Provider } from 'oidc-provider';

export interface Subject {
  sub: string;
  email: string;
  email_verified: boolean;
}

/** A provider of OpenID Connect for tests: whoever comes is the subject that was set last, without being asked. */
export class StandIn {
  subject: Subject = { sub: '1', email: 'robin@example.org', email_verified: true };
  readonly clientId = 'last';
  readonly clientSecret = 'a secret of the stand-in';
  #server: Server | null = null;
  issuer = '';

  /** Starts it for a workbench at this origin. */
  async start(workbench: string): Promise<void> {
    let answer: ReturnType<Provider['callback']> | null = null;
    const server = createServer((request, response) => void answer?.(request, response));
    this.#server = server;
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    this.issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const provider = new Provider(this.issuer, {
      clients: [
        {
          client_id: this.clientId,
          client_secret: this.clientSecret,
          redirect_uris: [`${workbench}/sign-in/provider/back`],
          token_endpoint_auth_method: 'client_secret_post',
        },
      ],
      claims: { openid: ['sub'], email: ['email', 'email_verified'] },
      conformIdTokenClaims: false,
      features: { devInteractions: { enabled: false } },
      cookies: { keys: ['stand-in'] },
      findAccount: (_, sub) => ({ accountId: sub, claims: () => ({ ...this.subject, sub }) }),
      interactions: { url: (_, { uid }) => `/interaction/${uid}` },
    });
    provider.use(async (context, next) => {
      if (!context.path.startsWith('/interaction/')) return next();
      const { prompt, params, session } = await provider.interactionDetails(context.req, context.res);
      if (prompt.name === 'login') {
        const result = { login: { accountId: this.subject.sub } };
        return provider.interactionFinished(context.req, context.res, result, { mergeWithLastSubmission: false });
      }
      const grant = new provider.Grant({ accountId: session?.accountId ?? '', clientId: String(params.client_id) });
      grant.addOIDCScope('openid email');
      const result = { consent: { grantId: await grant.save() } };
      return provider.interactionFinished(context.req, context.res, result, { mergeWithLastSubmission: true });
    });
    answer = provider.callback();
  }

  async stop(): Promise<void> {
    await new Promise((resolve) => this.#server?.close(resolve));
  }
}
