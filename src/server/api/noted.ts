import { draftEndpoints } from '@/contract/drafts';
import type { Endpoint } from '@/contract/endpoint';
import { fileEndpoints } from '@/contract/files';
import { goodsEndpoints } from '@/contract/goods';
import { layerEndpoints } from '@/contract/layers';
import { pictureEndpoints } from '@/contract/pictures';
import { recordEndpoints } from '@/contract/records';
import { releaseEndpoints } from '@/contract/releases';
import { People } from '@/server/accounts';
import type { Asking } from '@/server/http';
import type { Shop } from '@/server/shop';
import type { StateRow } from '@/store';

/** What a call that stands in the log was given. */
interface Done {
  shop: Shop;
  who: Asking;
  by: string;
  draft?: StateRow;
  body?: unknown;
  [named: string]: unknown;
}

/** Who works at a machine where nobody signs in, and said no name. */
export const hereName = 'this machine';

type Note = [what: string, about: (done: Done) => string | null];

const words = (body: unknown, key: string): string => {
  const value = (body as Record<string, unknown> | undefined)?.[key];
  return typeof value === 'string' ? value : '';
};
/** A draft with the note that came with it. */
const named = (draft: StateRow | undefined, body: unknown): string =>
  `${draft?.name ?? ''}${words(body, 'note') ? `: ${words(body, 'note')}` : ''}`;
const count = (many: number, one: string): string => `${many} ${one}${many === 1 ? '' : 's'}`;

/** Calls that stand in the log once they are done: publishing, imports, deletions. What is saved in drafts and goods has a history of its own. */
const noted = new Map<Endpoint, Note>([
  [draftEndpoints.publish, ['published', ({ draft, body }) => named(draft, body)]],
  [draftEndpoints.publishContent, ['published', ({ draft, body }) => named(draft, body)]],
  [releaseEndpoints.putLive, ['put live', ({ number }) => `release ${String(number)}`]],
  [draftEndpoints.remove, ['deleted', ({ draft }) => `draft ${draft?.name ?? ''}`]],
  [draftEndpoints.putBack, ['put back', ({ removed }) => `draft ${String(removed)}`]],
  [fileEndpoints.replaceAll, ['imported', ({ draft }) => `the shop’s files of ${draft?.name ?? ''}`]],
  [layerEndpoints.addVersion, ['imported', () => 'a version of a base or an add-on']],
  [goodsEndpoints.import, ['imported', () => 'goods']],
  [goodsEndpoints.undo, ['undone', ({ change }) => `change ${String(change)} of goods`]],
  [pictureEndpoints.remove, ['deleted', ({ body }) => count((body as { paths: string[] }).paths.length, 'picture')]],
  [
    recordEndpoints.save,
    [
      'deleted',
      ({ body }) => {
        const { changes } = body as { changes: { after: unknown }[] };
        const gone = changes.filter(({ after }) => after === null).length;
        return gone ? count(gone, 'record') : null;
      },
    ],
  ],
]);

/** Writes what was done into the log, where it stands there. */
export function noteDone(endpoint: Endpoint, given: object): void {
  const note = noted.get(endpoint);
  const done = given as Done;
  const about = note?.[1](done);
  if (note && about !== undefined && about !== null) new People(done.shop.sql).log(done.by || hereName, note[0], about);
}
