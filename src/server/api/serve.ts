import { isDeepStrictEqual } from 'node:util';
import type { z } from 'zod';
import {
  pathParameters,
  type AnswerOf,
  type Endpoint,
  type ParametersOf,
  type PathParameter,
} from '@/contract/endpoint';
import { rightOf, type Right, rights } from '@/contract/roles';
import { endpoints } from '@/contract/endpoints';
import { type Asking, authorOf, bodyOf, byContract, may, refuse, refusing, whoAsks } from '@/server/http';
import { draftOf, shop, type Shop } from '@/server/shop';
import { noteDone } from './noted';
import { ClosedDrafts, type StateRow } from '@/store';
import { requestIdHeader } from '@/server/log';

/** What a call is given: what its address, query and body say, and who asks. */
export type Given<One extends Endpoint> = {
  request: Request;
  shop: Shop;
  /** Who asks, as they call themselves. */
  by: string;
  who: Asking;
  query: z.output<One['query']>;
  body: z.output<One['body']>;
} & {
  [Name in Exclude<ParametersOf<One>, 'draft'>]: z.output<(typeof pathParameters)[Name]>;
} & ('draft' extends ParametersOf<One> ? { draft: StateRow } : unknown);

/** An answer, one that a thread wrote already, or lines as they are found. */
type Work<One extends Endpoint> = (
  given: Given<One>,
) =>
  | AnswerOf<One>
  | Response
  | ReadableStream<Uint8Array>
  | Promise<AnswerOf<One> | Response | ReadableStream<Uint8Array>>;

/** A call with what answers it; `named` is what its path says. */
export interface Served {
  endpoint: Endpoint;
  handle(request: Request, named: Record<string, string>): Promise<Response>;
}

/** In tests and in development every answer is held to its schema. */
const checksAnswers = process.env.NODE_ENV !== 'production' || process.env.LAST_CHECK_ANSWERS === '1';

const noStore = { 'Cache-Control': 'no-store' };

/** The right that each call needs, by the call itself. */
const needed = new Map<Endpoint, Right>(
  Object.entries(endpoints).flatMap(([resource, table]) =>
    Object.entries(table).map(([name, one]) => [
      one,
      (rightOf as Record<string, Record<string, Right>>)[resource]?.[name] as Right,
    ]),
  ),
);

/** Who asks; refused where that is nobody, or someone who may not. */
function allowed(right: Right | undefined, request: Request): Asking {
  const who = whoAsks(request) ?? refuse(401, 'sign-in', 'You are not signed in any more: load the page again.');
  // What no right is given for is for nobody.
  if (right === undefined) refuse(403, 'right', 'Nobody may do this.');
  if (!may(who, right)) {
    const does = rights[right].says;
    const why = who.rights && may({ role: who.role, rights: null }, right) ? 'This token' : `A ${who.role}`;
    refuse(403, 'right', `${why} may not do this: “${does}”. An owner can change that.`);
  }
  return who;
}

/** Answers a call: reads what it is given by its contract, does the work, and sends JSON, lines, bytes, or a refusal in words. */
export function serve<const One extends Endpoint>(
  endpoint: One,
  work: Work<One>,
  /** What whoever asks must have a right to. */
  right: Right | undefined = needed.get(endpoint),
): Served {
  const handle = (request: Request, named: Record<string, string>): Promise<Response> =>
    refusing(async () => {
      const who = allowed(right, request);
      if (endpoint.method !== 'GET') await shop().writable();
      const given = await readGiven(endpoint, request, named, who);
      const answer = await work(given as Given<One>);
      noteDone(endpoint, given);
      if (answer instanceof ReadableStream) {
        const lines = checksAnswers ? answer.pipeThrough(checkedLines(endpoint)) : answer;
        return new Response(lines, { headers: { ...noStore, 'Content-Type': 'application/x-ndjson' } });
      }
      if (endpoint.sends === 'json' && checksAnswers)
        checkAnswer(endpoint, answer instanceof Response ? await answer.clone().json() : answer);
      return answer instanceof Response ? answer : Response.json(answer, { headers: noStore });
    }, request.headers.get(requestIdHeader));
  return { endpoint, handle };
}

/** Answers every call of a resource. */
export const serveAll = <Table extends Record<string, Endpoint>>(
  table: Table,
  works: { [Name in keyof Table]: Work<Table[Name]> },
): Served[] => Object.entries(works).map(([name, work]) => serve(table[name] as Endpoint, work as Work<Endpoint>));

/** What answers a request: the call of its method and path; where there is none, a refusal. */
export function dispatcher(calls: readonly Served[]): (request: Request) => Promise<Response> {
  /** `/api/orders/sheet` comes before `/api/orders/{order}`, which would match it too. */
  const names = ({ endpoint }: Served) => endpoint.path.split('{').length;
  const patterns = [...calls]
    .sort((a, b) => names(a) - names(b))
    .map((call) => ({
      call,
      pattern: new RegExp(`^${call.endpoint.path.replace(/\{(\w+)\}/g, '(?<$1>[^/]+)')}$`),
    }));
  return (request) => {
    const { pathname } = new URL(request.url);
    let found = false;
    for (const { call, pattern } of patterns) {
      const match = pattern.exec(pathname);
      if (!match) continue;
      found = true;
      if (call.endpoint.method === request.method) return call.handle(request, match.groups ?? {});
    }
    return refusing(async () =>
      found
        ? refuse(405, 'method', `${pathname} does not answer ${request.method}.`)
        : refuse(404, 'call', `There is no ${pathname} here.`),
    );
  };
}

async function readGiven(endpoint: Endpoint, request: Request, names: Record<string, string>, who: Asking) {
  const named = Object.entries(names).map(([name, text]) => [
    name,
    byContract<string | number>(decoded(text), pathParameters[name as PathParameter]),
  ]);
  const query = byContract(Object.fromEntries(new URL(request.url).searchParams), endpoint.query);
  const body = endpoint.takes === 'json' ? await bodyOf(request, endpoint.body) : undefined;
  const given = { ...Object.fromEntries(named), request, shop: shop(), by: authorOf(request), who, query, body };
  return 'draft' in given ? { ...given, draft: draftFor(given.shop, given.draft as string, who) } : given;
}

/** The draft of that name; one that is kept to developers is not there for others. */
function draftFor(shop: Shop, slug: string, who: Asking): StateRow {
  const draft = draftOf(shop, slug);
  if (!may(who, 'source') && new ClosedDrafts(shop.sql).has(draft.id))
    refuse(404, 'draft', `There is no draft “${slug}”.`);
  return draft;
}

/** A part of an address as it was meant; as it stands, where it is not encoded as it should be. */
function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** Throws where an answer is not what its contract says, or says more. */
function checkAnswer({ method, path, answer }: Endpoint, made: unknown): void {
  const sent: unknown = JSON.parse(JSON.stringify(made));
  const read = answer.safeParse(sent);
  if (!read.success) throw new TypeError(`The answer of ${method} ${path} breaks its contract: ${read.error.message}`);
  if (!isDeepStrictEqual(read.data, sent))
    throw new TypeError(
      `The answer of ${method} ${path} says more than its contract: ${JSON.stringify(sent).slice(0, 400)}`,
    );
}

/** The same for an answer in lines; a line that says that the work failed is none. */
function checkedLines(endpoint: Endpoint): TransformStream<Uint8Array, Uint8Array> {
  const decoder = new TextDecoder();
  let rest = '';
  return new TransformStream({
    transform(chunk, controller) {
      const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) {
        const read = JSON.parse(line) as object;
        if (!('failed' in read)) checkAnswer(endpoint, read);
      }
      controller.enqueue(chunk);
    },
  });
}
