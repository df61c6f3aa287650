import { z, type ZodType } from 'zod';
import { slug } from './shared';

/** Names in the braces of a path: `/api/drafts/{draft}/file` has `draft`. */
type NamesIn<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | NamesIn<Rest> : never;

/** How the value of each name in a path is read. */
export const pathParameters = {
  /** A draft that there is. */
  draft: slug,
  /** A draft that there may have been. */
  removed: slug,
  /** Number of a change. */
  change: z.coerce.number().int(),
  /** A file that came. */
  upload: z.string().regex(/^[0-9a-f]{16}$/),
  /** Number of an account. */
  account: z.coerce.number().int(),
  /** Number of a token. */
  token: z.coerce.number().int(),
  /** Number of a comment. */
  comment: z.coerce.number().int(),
  /** Number of an order. */
  order: z.coerce.number().int(),
  /** Number of a release. */
  number: z.coerce.number().int(),
};
export type PathParameter = keyof typeof pathParameters;

/** How a body travels: JSON by its schema, a ZIP, a form with files, or the bytes of any file. */
type Takes = 'nothing' | 'json' | 'zip' | 'form' | 'bytes';
/** How an answer travels: JSON by its schema, `lines` of such JSON as they are found, or the bytes of a file. */
type Sends = 'json' | 'lines' | 'bytes';

/** Headers that say more of a request than its address and body. */
export const requestHeaders = {
  'Idempotency-Key': 'Who sends the same again under the same key is answered as before, and nothing is done twice',
  'If-Match': 'Only if the record has one of these entity tags, or `*`: if there is one (RFC 9110, 13.1.1)',
  'If-None-Match': 'Only if the record has none of these entity tags, or `*`: if there is none (RFC 9110, 13.1.2)',
};

/** One call of the workbench's server. Its adapter, its client and docs/openapi.json come from this alone. */
export interface Endpoint<
  Path extends string = string,
  Query extends ZodType = ZodType,
  Body extends ZodType = ZodType,
  Answer extends ZodType = ZodType,
> {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  path: Path;
  /** What it does, in a line. */
  does: string;
  query: Query;
  takes: Takes;
  body: Body;
  sends: Sends;
  answer: Answer;
  headers: readonly (keyof typeof requestHeaders)[];
}

/** Names in the path of an endpoint. */
export type ParametersOf<One extends Endpoint> = Extract<NamesIn<One['path']>, PathParameter>;
export type AnswerOf<One extends Endpoint> = z.output<One['answer']>;

/** An answer that says no more than that it is done. */
const done = z.object({});
const noQuery = z.object({});
const noBody = z.undefined();

/** Declares a call: `endpoint('GET', '/api/drafts', 'Lists drafts', { answer })`. */
export function endpoint<
  const Path extends string,
  Query extends ZodType = typeof noQuery,
  Body extends ZodType = typeof noBody,
  Answer extends ZodType = typeof done,
>(
  method: Endpoint['method'],
  path: Path,
  does: string,
  {
    query,
    body,
    answer,
    takes,
    sends = 'json',
    headers = [],
  }: Partial<
    Pick<Endpoint<Path, Query, Body, Answer>, 'query' | 'body' | 'answer' | 'takes' | 'sends' | 'headers'>
  > = {},
): Endpoint<Path, Query, Body, Answer> {
  return {
    method,
    path,
    does,
    query: query ?? (noQuery as ZodType as Query),
    takes: takes ?? (body ? 'json' : 'nothing'),
    body: body ?? (noBody as ZodType as Body),
    sends,
    answer: answer ?? (done as ZodType as Answer),
    headers,
  };
}

/** What goes into the address of a call: the names in its path, and its query. */
export type AddressOf<One extends Endpoint> = { [Name in ParametersOf<One>]: string | number } & (z.input<
  One['query']
> extends Record<string, never>
  ? unknown
  : z.input<One['query']>);

/** The body of a call: what its schema reads, or a ZIP or form as it is. */
export type BodyOf<One extends Endpoint> =
  undefined extends z.input<One['body']> ? [body?: Blob | FormData] : [body: z.input<One['body']>];

/** The address of a call, without the server's origin. */
export function addressOf<const One extends Endpoint>({ path }: One, given: AddressOf<One>): string {
  const query = new URLSearchParams();
  let address: string = path;
  for (const [name, value] of Object.entries(given as Record<string, string | number | undefined>)) {
    if (value === undefined) continue;
    if (address.includes(`{${name}}`)) address = address.replace(`{${name}}`, encodeURIComponent(value));
    else query.set(name, String(value));
  }
  return query.size ? `${address}?${query}` : address;
}
