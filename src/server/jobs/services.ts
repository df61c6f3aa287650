import type { PageAsk } from '../ask';
import type { Question } from '@/core/language';
import type { StateRow } from '@/store/themes';
import { alternatesOf, planAlternate, planEdit, planFile, planRename, planRetirement } from '../alternates';
import { compareStates, planBring, planBringing } from '../compare';
import { explainAt } from '../explain';
import { listFiles, openFile, themeSnapshot } from '../files';
import { cleanIcon, spriteOf } from '../icons';
import { driftOf, layersOf, lookBelow } from '../layers';
import { etagOf, fragmentOf, pageOf, pictureOf } from '../page';
import type { MadePage } from '../pages';
import { changeAt, reachAt, viewPage } from '../preview';
import { changesOf, checkedFor } from '../release';
import { isBlank } from '../rehearse';
import { planFileRename } from '../rename';
import type { Shop } from '../shop';
import { shownHash } from '../shown';
import { planDraftUpdate, updatePlan } from '../updates';
import type { Lane } from './pool';

/** A page as the server sends it. */
export interface SentPage {
  status: 200 | 404;
  html: string;
  questions: Question[];
  /** Whether the clock ended a part of it: such a page is not kept. */
  timedOut: boolean;
}

/** A page's bytes, with their ETag. */
export interface ReadyPage extends MadePage {
  status: 200 | 404;
  timedOut: boolean;
  /** Nothing of it is left to be shown. */
  blank: boolean;
}

/** Puts the script that talks with the Bench at the top of a page's head. */
function withBenchScript(html: string, view: string, shown: string): string {
  const benchScript = `<script src="/bench-frame.js" data-view="${view}" data-shown="${shown}"></script>`;
  const at = html.search(/<head[\s>]/i);
  const end = at < 0 ? 0 : html.indexOf('>', at) + 1;
  return html.slice(0, end) + benchScript + html.slice(end);
}

/** Edits of a draft, as they are planned: what is to be written comes back, and is written where the database may be. */
const edits = { planEdit, planAlternate, planFile, planRename, planRetirement, planFileRename };
export type EditName = keyof typeof edits;

/**
 * What threads do: everything that reads, checks or renders templates. Each takes and gives plain data, and writes nothing.
 */
export const services = {
  page(shop: Shop, state: StateRow, ask: PageAsk): SentPage {
    // A large catalogue's index is not part of a page's time.
    shop.catalogue().index(null);
    const { status, html, questions, timedOut } = pageOf(shop, state, ask);
    return { status, html, questions, timedOut };
  },
  /** The same ready to send; with a `view`, for the Bench's frame of that number. */
  sent(shop: Shop, state: StateRow, ask: PageAsk, view: string | null): ReadyPage {
    const { status, html, timedOut } = services.page(shop, state, ask);
    const whole = view === null ? html : withBenchScript(html, view, shownHash(html));
    return { status, bytes: new TextEncoder().encode(whole), etag: etagOf(whole), timedOut, blank: isBlank(html) };
  },
  problems: (shop: Shop, draft: StateRow, path: string) => openFile(shop, draft, path).problems,
  fragment(shop: Shop, state: StateRow, ask: PageAsk): string | null {
    return fragmentOf(shop, state, ask)?.html ?? null;
  },
  picture: pictureOf,
  icon: (_: Shop, path: string, text: string) => cleanIcon(path, text),
  sprite: (shop: Shop, state: StateRow) => spriteOf(shop.theme(state).theme),
  compare: compareStates,
  view: viewPage,
  reach: reachAt,
  open: openFile,
  changes: changesOf,
  checked: checkedFor,
  layers: layersOf,
  change: changeAt,
  update: updatePlan,
  alternates: alternatesOf,
  ...edits,
  planDraftUpdate,
  planBringing,
  bringing: (shop: Shop, into: StateRow, from: StateRow) => planBring(shop, into, from).answer,
  drift: driftOf,
  look: lookBelow,
  snapshot: themeSnapshot,
  files: listFiles,
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

/** The answer of a service in a thread, as JSON to send. */
export async function sendFromThread<Name extends keyof Services>(
  shop: Shop,
  name: Name,
  ...args: Rest<Services[Name]>
): Promise<Response> {
  const headers = { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' };
  if (!shop.jobs) return Response.json(await inThread(shop, 'preview', name, ...args), { headers });
  const bytes = (await shop.jobs.run('preview', { name, args, asJson: true })) as Uint8Array<ArrayBuffer>;
  return new Response(bytes, { headers });
}
