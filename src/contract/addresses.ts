/** Header that carries the token which only the workbench's pages have; whatever changes something needs it. */
export const tokenHeader = 'x-last-token';

/** Where the shop, drafts and releases are found, as the workbench's pages are told. */
export interface SiteAddresses {
  /** Base of the live shop's addresses, without a slash at its end. */
  shop: string;
  /** Base of a draft's addresses, with `*` in the place of its name. */
  drafts: string;
  /** Whether they have host names of their own; otherwise drafts and releases stand below one origin. */
  apart: boolean;
}

/** A draft's label among host names: it may be called as the shop is. Names of drafts have single hyphens only. */
const labelOf = (slug: string): string => (slug === 'shop' ? `draft--${slug}` : slug);

/** The draft that a label among host names is of. */
export const draftOfLabel = (label: string): string => label.replace(/^draft--/, '');

/** Base of a draft's addresses. */
export const draftBase = ({ drafts, apart }: SiteAddresses, slug: string): string =>
  drafts.replace('*', apart ? labelOf(slug) : slug);

/** Base of the addresses of a release as it was, live or not. */
export const releaseBase = ({ drafts, apart }: SiteAddresses, number: number): string =>
  apart ? drafts.replace('*', `release--${number}`) : drafts.replace('draft/*', `release/${number}`);

/** Base of the addresses of a state by its name: `live`, `draft/spring`, `release/3`. */
export function stateBase(addresses: SiteAddresses, name: string): string {
  const [kind, which = ''] = name.split('/');
  if (kind === 'live') return addresses.shop;
  return kind === 'draft' ? draftBase(addresses, which) : releaseBase(addresses, Number(which));
}
