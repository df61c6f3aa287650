import { LRUCache } from 'lru-cache';
import * as client from 'openid-client';
import { cookieIn, cookieText } from '@/server/http';
import type { People } from './people';
import { hashOfSecret, newSecret } from './secrets';
import { fault } from '@/server/log';

/** How long signing in elsewhere may take, in milliseconds. */
const wayMs = 10 * 60 * 1000;
/** Who are on their way at once, at most: those who began last. */
const most = 1000;
/** How far the provider's clock may be off, in seconds. */
const clockSeconds = 60;

/** Where the provider sends back to. */
export const oidcBack = '/sign-in/provider/back';
export const oidcStart = '/sign-in/provider';

/** A provider of OpenID Connect, as the settings name it. */
export interface ProviderSettings {
  /** What it is called on the page to sign in. */
  called: string;
  issuer: string;
  clientId: string;
  clientSecret: string;
  /** The workbench's origin, as the provider knows it. */
  origin: string;
}

interface Begun {
  /** Hash of what the browser that began has in a cookie. */
  browser: string;
  verifier: string;
  nonce: string;
  to: string;
}

/**
 * Signing in by an OpenID Connect provider (OpenID Connect Core 1.0, authorization code flow, with PKCE, RFC 7636): whoever it says has the address of
 * an account that was invited. The first time, the account is bound to whom the provider means (`iss` and `sub`), and to nobody else any more.
 */
export class Provider {
  readonly #begun = new LRUCache<string, Begun>({ max: most, ttl: wayMs });
  #configuration: Promise<client.Configuration> | null = null;

  constructor(
    readonly settings: ProviderSettings,
    readonly people: People,
    readonly secure: boolean,
  ) {}

  /** Where whoever signs in goes, with what their browser is to keep. */
  async begin(to: string): Promise<{ to: string; cookies: string[] }> {
    const configuration = await this.#known();
    const [state, nonce, verifier, browser] = [
      client.randomState(),
      client.randomNonce(),
      client.randomPKCECodeVerifier(),
      newSecret(),
    ];
    this.#begun.set(state, { browser: hashOfSecret(browser), verifier, nonce, to });
    const address = client.buildAuthorizationUrl(configuration, {
      redirect_uri: this.settings.origin + oidcBack,
      scope: 'openid email',
      code_challenge: await client.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
      state,
      nonce,
    });
    return { to: address.href, cookies: [cookieText('provider', browser, wayMs / 1000, this.secure)] };
  }

  /** Who comes back, by the answer in the address: their account, or a sentence. An answer counts once, in the browser that began. */
  async back(url: string, cookies: string | undefined): Promise<{ account: number; to: string } | string> {
    const address = new URL(url, this.settings.origin);
    const state = address.searchParams.get('state') ?? '';
    const begun = this.#begun.get(state);
    this.#begun.delete(state);
    const browser = cookieIn('provider', this.secure, cookies) ?? '';
    if (!begun || begun.browser !== hashOfSecret(browser))
      return 'This answer was used, is too late, or was begun in another browser. Sign in again.';
    let claims: client.IDToken | undefined;
    try {
      const configuration = await this.#known();
      const tokens = await client.authorizationCodeGrant(configuration, address, {
        pkceCodeVerifier: begun.verifier,
        expectedState: state,
        expectedNonce: begun.nonce,
        idTokenExpected: true,
      });
      claims = tokens.claims();
    } catch (error) {
      fault(`Signing in by ${this.settings.issuer} failed: ${(error as Error).message}`);
      return `${this.settings.called} did not say who you are. Sign in again; if it stays so, ask an owner.`;
    }
    const account = claims && this.people.provided(claims.iss, claims.sub, { ...claims });
    if (!account) {
      this.people.log('', 'sign-in failed', `by ${this.settings.called}: someone without an account`);
      return `${this.settings.called} knows you, but nobody has invited you here: ask an owner.`;
    }
    return { account: account.id, to: begun.to };
  }

  /** What the provider says of itself; asked again where it could not be reached. */
  #known(): Promise<client.Configuration> {
    const { issuer, clientId, clientSecret } = this.settings;
    this.#configuration ??= client
      .discovery(
        new URL(issuer),
        clientId,
        { [client.clockTolerance]: clockSeconds },
        client.ClientSecretPost(clientSecret),
        {
          // Without HTTPS only a provider of this machine is asked.
          execute: /^http:\/\/(?:127\.|localhost[:/])/.test(issuer) ? [client.allowInsecureRequests] : [],
        },
      )
      .catch((error: unknown) => {
        this.#configuration = null;
        throw error;
      });
    return this.#configuration;
  }
}

/** The settings of a provider in the environment; null: none is named. Throws a RangeError where one is named by half. */
export function providerFrom(env: Record<string, string | undefined>, origin: string): ProviderSettings | null {
  const {
    LAST_OIDC_ISSUER: issuer,
    LAST_OIDC_CLIENT: clientId,
    LAST_OIDC_SECRET: clientSecret,
    LAST_OIDC_NAME: called,
  } = env;
  if (!issuer && !clientId && !clientSecret) return null;
  if (!issuer || !URL.canParse(issuer) || !clientId || !clientSecret)
    throw new RangeError(
      'To sign in by a provider, LAST_OIDC_ISSUER (an address), LAST_OIDC_CLIENT and LAST_OIDC_SECRET are needed.',
    );
  return { issuer, clientId, clientSecret, origin, called: called ?? new URL(issuer).hostname };
}
