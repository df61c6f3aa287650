/** A shop as files that any web server serves. */
export { makeSite, type SiteMade, type SiteSetup } from './make';
