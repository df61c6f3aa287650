import { commentEndpoints, type CommentsAnswer, type HereAnswer } from '@/contract/comments';
import { People } from '@/server/accounts';
import { commentsOf, Presence, say } from '@/server/comments';
import { type Asking, may, refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { type CommentRow, Comments, type StateRow } from '@/store';
import { hereName } from './noted';
import { serveAll } from './serve';

const presence = new Presence();

const answerOf = async (shop: Shop, draft: StateRow, who: Asking): Promise<CommentsAnswer> => ({
  comments: await commentsOf(shop, draft, may(who, 'source')),
});

/** A comment of the draft that is no answer. */
function commentIn(shop: Shop, draft: StateRow, id: number): CommentRow {
  const row = new Comments(shop.sql).one(draft.id, id);
  if (!row || row.parent !== null) refuse(404, 'comment', 'This comment is not there any more: load the page again.');
  return row;
}

/** What is said, in a line of the log. */
const inShort = (text: string): string => (text.length > 80 ? `${text.slice(0, 79)}…` : text);

export const commentCalls = serveAll(commentEndpoints, {
  list: ({ shop, draft, who }) => answerOf(shop, draft, who),
  add: async ({ shop, draft, who, by, body: { place, ...said } }) => {
    if (place && !may(who, 'source')) refuse(403, 'right', `A ${who.role} does not comment on the source.`);
    say(shop, draft, { by: by || hereName, ...said, ...(place ? { path: place.path, ...place.anchor } : {}) });
    new People(shop.sql).log(by || hereName, 'commented', `${draft.name}: ${inShort(said.text)}`);
    return answerOf(shop, draft, who);
  },
  answer: async ({ shop, draft, who, by, comment, body: { text } }) => {
    const { id } = commentIn(shop, draft, comment);
    say(shop, draft, { by: by || hereName, text, parent: id });
    new People(shop.sql).log(by || hereName, 'commented', `${draft.name}: ${inShort(text)}`);
    return answerOf(shop, draft, who);
  },
  done: async ({ shop, draft, who, by, comment, body: { done } }) => {
    const { id } = commentIn(shop, draft, comment);
    new Comments(shop.sql).setDone(id, done ? by || hereName : null, new Date().toISOString());
    return answerOf(shop, draft, who);
  },
  remove: async ({ shop, draft, who, by, comment }) => {
    const row = commentIn(shop, draft, comment);
    const comments = new Comments(shop.sql);
    if (row.by !== (by || hereName)) refuse(403, 'comment', `${row.by} said this: only they can delete it.`);
    if (comments.of(draft.id).some(({ parent }) => parent === row.id))
      refuse(409, 'comment', 'It was answered meanwhile: say that it is done instead.');
    comments.remove(row.id);
    return answerOf(shop, draft, who);
  },
  here: ({ draft, who, by, body: { window, file, shelf, open } }): HereAnswer => {
    const { account } = who;
    if (open) presence.say(draft.id, { window, account, called: by || hereName, file, shelf });
    else presence.leave(draft.id, window, account);
    const source = may(who, 'source');
    const others = presence.others(draft.id, account).map((one) => ({
      called: one.called,
      at: one.shelf ?? (source || !one.file ? (one.file ?? '') : 'source'),
    }));
    return { others };
  },
});
