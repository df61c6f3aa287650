import type { JsonLdDocument } from 'jsonld';
import {
  linkedBase,
  rowsOfLinked,
  type LinkedContext,
  type LinkedNode,
  type LinkedRow,
  type PlacedNode,
} from '@/core/exchange';
import type { Staging } from '@/store';
import type { ReadJson } from './read-json';

/** What schema.org's own context says of the terms that goods are read from: those whose values are addresses. Nothing is fetched. */
const schemaContext = {
  '@context': {
    '@vocab': 'http://schema.org/',
    ...Object.fromEntries(
      ['url', 'image', 'contentUrl', 'availability', 'priceType', 'isVariantOf', 'hasVariant', 'isRelatedTo'].map(
        (term) => [term, { '@id': `http://schema.org/${term}`, '@type': '@id' }],
      ),
    ),
  },
};

/** Whether JSON is linked data, and no catalogue file: it says what its terms mean, or what its nodes are. */
export function isLinked(value: unknown): boolean {
  if (Array.isArray(value)) return value.some(isLinked);
  return (
    typeof value === 'object' &&
    value !== null &&
    ['@context', '@graph', '@type'].some((key) => Object.hasOwn(value, key))
  );
}

const documentLoader = (url: string) => {
  if (/^https?:\/\/(?:www\.)?schema\.org\/?(?:docs\/jsonldcontext\.jsonl?d?)?$/.test(url))
    return Promise.resolve({ contextUrl: undefined, documentUrl: url, document: schemaContext });
  return Promise.reject(new Error(`Its context ${url} is not fetched: only that of https://schema.org is known here`));
};

type Graph = Record<string, unknown>;

/** Each node of a document with the context that it is read by, and its path in there. */
function* nodesOf(
  value: unknown,
  context: unknown[],
  path: (string | number)[],
): Generator<{ node: Graph; path: (string | number)[] }> {
  if (Array.isArray(value)) {
    for (const [at, one] of value.entries()) yield* nodesOf(one, context, [...path, at]);
    return;
  }
  if (typeof value !== 'object' || value === null) return;
  const { '@context': own = [], '@graph': graph, ...node } = value as Graph;
  const contexts = [...context, ...(Array.isArray(own) ? own : [own])];
  if (graph !== undefined) yield* nodesOf(graph, contexts, [...path, '@graph']);
  if (Object.keys(node).some((key) => key !== '@id')) yield { node: { '@context': contexts, ...node }, path };
}

/**
 * The products of linked data (JSON-LD 1.1, schema.org's vocabulary) as rows of our own table. What cannot be read is put by as an issue, with
 * its line.
 */
export async function rowsOfLinkedFile(
  { value, at }: ReadJson,
  context: LinkedContext,
  staging: Staging,
): Promise<LinkedRow[]> {
  // Read where it is wanted: it is large, and no server needs it to start.
  const { default: jsonld } = await import('jsonld');
  const placed: PlacedNode[] = [];
  for (const { node, path } of nodesOf(value, [], [])) {
    const { line } = at(path);
    try {
      const expanded = (await jsonld.expand(node as JsonLdDocument, {
        base: linkedBase,
        documentLoader,
      })) as unknown as LinkedNode[];
      placed.push(...expanded.map((one) => ({ node: one, line })));
    } catch (error) {
      const { message, details } = error as Error & { details?: { cause?: Error } };
      staging.putIssue({
        ...{ line, column: '', value: '', severity: 'error' },
        message: `This is not valid JSON-LD: ${(details?.cause?.message ?? message).split('\n')[0]}`,
      });
    }
  }
  const rows = rowsOfLinked(placed, context, (issue) => staging.putIssue(issue));
  if (placed.length && !rows.length)
    staging.putIssue({
      ...{ line: 1, column: '', value: '', severity: 'error' },
      message: 'The file is linked data, and holds no Product or ProductGroup of schema.org',
    });
  return rows;
}
