/** The served shop: pages, cart, pictures, sitemap. */
export { everyPage, listOf, SentPages } from './groups';
export { cleanIcon } from './icons';
export { storefrontJobs } from './jobs';
export { fragmentOf, pageOf, prefixOf, requestOf, shownHash, today, togetherVariable, tracedTimeoutMs } from './page';
export { errorPagesOf, type PageFault, rehearse } from './rehearse';
export { cartDays, tokenIn } from './cart';
export { type Elsewhere, goTo, knockOf, siteListener } from './site';
export { robots, sitemap } from './machines';
export { encodings, shorter } from './shorter';
export { playerPage } from './player';
export { serveContent, serveMedia } from './files';
export { serveState } from './storefront';
