import { readFileSync } from 'node:fs';
import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it } from 'vitest';
import { addressOf, type Endpoint } from './endpoint';
import { endpoints } from './endpoints';
import { fileEndpoints } from './files';
import { historyEndpoints } from './history';
import { openApi } from './openapi';

const all = Object.values(endpoints).flatMap((table): Endpoint[] => Object.values(table));

describe('the OpenAPI document', () => {
  it('is valid by the published schema of OpenAPI 3.1 (@seriousme/openapi-schema-validator)', async () => {
    const result = await new Validator().validate(openApi());
    expect(result.errors ?? []).toEqual([]);
    expect(result.valid).toBe(true);
  });
  it('is the one in docs (npm run docs writes it)', () => {
    expect(JSON.parse(readFileSync('docs/openapi.json', 'utf8'))).toEqual(openApi());
  });
  it('refers to nothing that it lacks', () => {
    const document = openApi() as { components: { schemas: object; responses: object } };
    const asked = [...JSON.stringify(document).matchAll(/"\$ref":"#\/components\/(\w+)\/([^"]+)"/g)];
    expect(asked.length).toBeGreaterThan(all.length);
    for (const [, kind = '', name = ''] of asked)
      expect([name, name in document.components[kind as 'schemas' | 'responses']]).toEqual([name, true]);
  });
});

describe('the endpoint table', () => {
  it('has each method of each path once', () => {
    const calls = all.map(({ method, path }) => `${method} ${path}`);
    expect(calls).toEqual([...new Set(calls)]);
  });
});

describe('the address of a call', () => {
  it.each([
    [addressOf(fileEndpoints.open, { draft: 'spring', path: 'look.json' }), '/api/drafts/spring/file?path=look.json'],
    [
      addressOf(fileEndpoints.open, { draft: 'spring', path: 'a/b.html', layer: 'Quay & Co' }),
      '/api/drafts/spring/file?path=a%2Fb.html&layer=Quay+%26+Co',
    ],
    [addressOf(fileEndpoints.zip, { draft: 'spring', layer: undefined }), '/api/drafts/spring/zip'],
    [addressOf(historyEndpoints.undo, { draft: 'spring', change: 12 }), '/api/drafts/spring/history/12'],
    [addressOf(historyEndpoints.undo, { draft: '../x', change: 1 }), '/api/drafts/..%2Fx/history/1'],
  ])('%s', (made, expected) => expect(made).toBe(expected));
});
