import type { BringAnswer } from '@/contract/drafts';
import type { UpdateAnswer } from '@/contract/layers';
import { applyBring } from './compare';
import { applyEdit, type Edit, type Edited } from './edits';
import { draftNow } from '@/server/shop';
import { refuse } from '@/server/http';
import { type Shop, stateOf, inThread, type ShopJob } from '@/server/shop';
import { applyUpdate } from './updates';
import { draftJobs } from './jobs';
import type { StateRow } from '@/store';

/** How often something is planned again because what it was planned on changed meanwhile. */
const maxTries = 5;

/**
 * Plans a change in a thread, where themes are read, parsed, checked and merged, and writes it here: visitors wait for neither.
 * `write` gives null where what was read is not as it was; then it is planned again.
 */
async function planned<Plan, Done>(
  shop: Shop,
  plan: () => Promise<Plan>,
  write: (plan: Plan) => Done | null,
): Promise<Done> {
  for (let tries = 0; tries < maxTries; tries++) {
    const planned = await plan();
    const done = shop.themes.transaction(() => write(planned));
    if (done !== null) return done;
  }
  return refuse(
    409,
    'busy',
    'Nothing was changed: this draft is being changed from elsewhere all the time. Try again.',
  );
}

/** An edit of a draft, by the job that plans it. */
export const editInThread = <Asked>(
  shop: Shop,
  draft: StateRow,
  plan: ShopJob<[draft: StateRow, asked: Asked], Edit>,
  asked: Asked,
  by: string,
) =>
  planned<Edit, Edited>(
    shop,
    () => inThread(shop, 'preview', plan, draftNow(shop, draft), asked),
    (edit) => {
      const now = draftNow(shop, draft);
      return now.revision === edit.revision ? applyEdit(shop, now, edit, by) : null;
    },
  );

/** A move of a draft to another version of what it stands on, as a draft of its own. */
export const updateInThread = (shop: Shop, draft: StateRow, versionId: number, by: string) =>
  planned<Awaited<ReturnType<typeof planUpdate>>, { slug: string; plan: UpdateAnswer }>(
    shop,
    () => planUpdate(shop, draft, versionId),
    (plan) => {
      const now = draftNow(shop, draft);
      return now.revision === plan.revision ? applyUpdate(shop, now, plan, by) : null;
    },
  );

const planUpdate = (shop: Shop, draft: StateRow, versionId: number) =>
  inThread(shop, 'preview', draftJobs.planUpdate, draftNow(shop, draft), versionId);

/** Changes of another state, brought into a draft. */
export const bringInThread = (
  shop: Shop,
  draft: StateRow,
  other: string,
  paths: readonly string[] | undefined,
  by: string,
) =>
  planned<Awaited<ReturnType<typeof planBring>>, BringAnswer>(
    shop,
    () => planBring(shop, draft, other, paths),
    (plan) => {
      const [into, from] = [draftNow(shop, draft), stateOf(shop, other)];
      const same = into.revision === plan.revisions[0] && from.revision === plan.revisions[1];
      return same ? applyBring(shop, into, from, plan, by) : null;
    },
  );

const planBring = (shop: Shop, draft: StateRow, other: string, paths: readonly string[] | undefined) =>
  inThread(shop, 'preview', draftJobs.planBringing, draftNow(shop, draft), stateOf(shop, other), paths);
