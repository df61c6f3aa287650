import type { endpoints } from './endpoints';

/** Who may do what: the one table that the server, its tests, the screens and docs/security.md go by. */

export const roles = ['owner', 'developer', 'staff', 'reader'] as const;
export type Role = (typeof roles)[number];

/** What each role is for, as people read it. */
export const roleSays: Record<Role, string> = {
  owner: 'all of it, and who else may work here',
  developer: 'templates, alternates, drafts and releases, and all that staff may',
  staff: 'arranges pages, changes words and goods; sees no source',
  reader: 'looks at pages, goods and releases, and changes nothing',
};

const everyone = roles;
const builders = ['owner', 'developer'] as const;
const workers = ['owner', 'developer', 'staff'] as const;

/** What can be done, and by whom. */
export const rights = {
  look: { says: 'Look at pages, goods, drafts and releases', roles: everyone },
  arrange: { says: 'Arrange pages and change words, in drafts', roles: workers },
  goods: { says: 'Change goods and pictures, bring them in and take them along', roles: workers },
  orders: { says: 'See orders, and say what became of them', roles: workers },
  source: { says: 'See and change templates, alternates and what was changed in them', roles: builders },
  drafts: { says: 'Make, name and delete drafts', roles: builders },
  publish: { says: 'Publish a draft, and put an earlier release live', roles: builders },
  publishContent: { says: 'Publish pieces and words alone, where an owner allows it', roles: workers },
  people: { says: 'Say who may work here, and read the log', roles: ['owner'] },
  self: { says: 'Change one’s own password, sessions and tokens', roles: everyone },
} as const satisfies Record<string, { says: string; roles: readonly Role[] }>;
export type Right = keyof typeof rights;
export const allRights = Object.keys(rights) as Right[];

export const mayRole = (role: Role, right: Right): boolean => (rights[right].roles as readonly Role[]).includes(role);

type RightsOf<Table> = { [Resource in keyof Table]: { [Name in keyof Table[Resource]]: Right } };

/** The right that each call of the server needs. A call without one does not compile. */
export const rightOf: RightsOf<typeof endpoints> = {
  start: { demo: 'people', shop: 'people' },
  accounts: {
    ...{ me: 'self', password: 'self', endMine: 'self', tokens: 'self', makeToken: 'self', endToken: 'self' },
    ...{ people: 'people', invite: 'people', change: 'people', link: 'people', endSessions: 'people' },
    ...{ remove: 'people', log: 'people', logSheet: 'people', settings: 'people', set: 'people' },
  },
  drafts: {
    ...{ list: 'look', one: 'look', copy: 'drafts', rename: 'drafts', close: 'drafts', remove: 'drafts' },
    putBack: 'drafts',
    ...{
      changes: 'source',
      publish: 'publish',
      content: 'publishContent',
      publishContent: 'publishContent',
      planBring: 'source',
      bring: 'source',
    },
    ...{ compare: 'source', comparePages: 'source' },
  },
  files: {
    ...{ list: 'source', saveAll: 'source', open: 'source', save: 'source', revert: 'source', rename: 'source' },
    ...{ drop: 'source', zip: 'source', replaceAll: 'source' },
  },
  history: {
    ...{ list: 'source', rename: 'source', undo: 'source', restore: 'source', content: 'source', bytes: 'source' },
    versions: 'source',
  },
  layers: {
    ...{ all: 'source', look: 'source', drift: 'source', settle: 'source', planUpdate: 'source', update: 'source' },
    ...{ updatedPages: 'source', versions: 'source', addVersion: 'source' },
  },
  alternates: {
    ...{ list: 'source', make: 'source', edit: 'source', rename: 'source', retire: 'source', makeFile: 'source' },
    ...{ facts: 'arrange', match: 'arrange', explain: 'source', problems: 'source', cover: 'source', who: 'source' },
    fall: 'source',
  },
  bench: { view: 'look', change: 'source', reach: 'source', survey: 'source', theme: 'source' },
  arrange: { page: 'arrange', open: 'arrange', save: 'arrange' },
  phrases: { all: 'arrange', save: 'arrange', uses: 'source', sheet: 'arrange', takeSheet: 'arrange' },
  catalogue: { subjects: 'look', emptiness: 'source' },
  goods: {
    ...{ upload: 'goods', look: 'goods', dryRun: 'goods', changes: 'goods', issues: 'goods', import: 'goods' },
    ...{ history: 'look', changed: 'look', undo: 'goods', export: 'goods' },
  },
  feed: {
    ...{ take: 'goods', figures: 'look', changes: 'look', record: 'look' },
    ...{ put: 'goods', patch: 'goods', remove: 'goods' },
  },
  records: {
    ...{ list: 'look', counts: 'look', misfits: 'goods', record: 'look', save: 'goods', usedBy: 'source' },
    ...{ valueUses: 'source', follow: 'source', players: 'look', page: 'goods', table: 'look', columns: 'look' },
    ...{ cells: 'goods', bulk: 'goods' },
  },
  orders: {
    ...{ list: 'orders', one: 'orders', set: 'orders', sheet: 'orders', send: 'orders', hurry: 'orders' },
    ...{ receiver: 'people', setReceiver: 'people' },
  },
  pictures: { list: 'look', take: 'goods', one: 'look', remove: 'goods' },
  releases: { list: 'look', putLive: 'publish' },
  reviews: { last: 'arrange', ask: 'arrange', answer: 'source' },
  status: { now: 'people' },
  description: { openApi: 'look' },
  comments: { list: 'arrange', add: 'arrange', answer: 'arrange', done: 'arrange', remove: 'arrange', here: 'arrange' },
};
