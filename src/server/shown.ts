import { etagOf } from './page';

/** Names a page as it was made: two with the same name are the same, byte for byte. */
export const shownHash = (html: string): string => etagOf(html).slice(1, -1);
