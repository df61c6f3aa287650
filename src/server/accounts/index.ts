/** Who may use the workbench: accounts, sessions, one-time links, tokens, and the way in. */
export { Door, formOf, isDoor, safeTarget, sendAnswer } from './door';
export { lookPath, Looks } from './look';
export { providerFrom } from './oidc';
export { type Link, People } from './people';
