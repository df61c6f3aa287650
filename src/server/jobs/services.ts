import type { Question } from '@/core/language';
import type { StateRow } from '@/store/themes';
import { alternatesOf } from '../alternates';
import { explainAt } from '../explain';
import { openFile } from '../files';
import { layersOf } from '../layers';
import { fragmentOf, pageOf, pictureOf, type PageAsk } from '../page';
import { changeAt, reachAt, viewPage } from '../preview';
import { changesOf } from '../release';
import type { Shop } from '../shop';
import { updatePlan } from '../updates';
import type { Lane } from './pool';

/** A page as the server sends it. */
export interface SentPage {
  status: 200 | 404;
  html: string;
  questions: Question[];
  /** Whether the clock ended a part of it: such a page is not kept. */
  timedOut: boolean;
}

/**
 * What threads do: everything that reads, checks or renders templates. Each takes and gives plain data, and writes nothing.
 */
export const services = {
  page(shop: Shop, state: StateRow, ask: PageAsk): SentPage {
    // A large catalogue's index is no part of a page's time.
    shop.catalogue().index(null);
    const { status, html, questions, timedOut } = pageOf(shop, state, ask);
    return { status, html, questions, timedOut };
  },
  fragment(shop: Shop, state: StateRow, ask: PageAsk): string | null {
    return fragmentOf(shop, state, ask)?.html ?? null;
  },
  picture: pictureOf,
  view: viewPage,
  reach: reachAt,
  open: openFile,
  changes: changesOf,
  layers: layersOf,
  change: changeAt,
  update: updatePlan,
  alternates: alternatesOf,
  explain: explainAt,
};

type Services = typeof services;
type Rest<F> = F extends (shop: Shop, ...rest: infer R) => unknown ? R : never;

/** Runs a service in a thread; in the process itself where the shop has none, as in tests. */
export async function inThread<Name extends keyof Services>(
  shop: Shop,
  lane: Lane,
  name: Name,
  ...args: Rest<Services[Name]>
): Promise<ReturnType<Services[Name]>> {
  if (shop.jobs) return (await shop.jobs.run(lane, { name, args })) as ReturnType<Services[Name]>;
  const service = services[name] as (shop: Shop, ...args: unknown[]) => ReturnType<Services[Name]>;
  return service(shop, ...args);
}
