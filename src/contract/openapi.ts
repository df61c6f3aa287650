import { z, type ZodType } from 'zod';
import { tokenHeader } from './addresses';
import { pathParameters, requestHeaders, type Endpoint, type PathParameter } from './endpoint';
import { endpoints } from './endpoints';
import { authorHeader, refusal } from './shared';

type Json = { [name: string]: unknown };

const mediaTypes = {
  json: 'application/json',
  lines: 'application/x-ndjson',
  bytes: 'application/octet-stream',
  zip: 'application/zip',
  form: 'multipart/form-data',
};

/** Every call of the workbench's server as an OpenAPI 3.1 document: docs/openapi.json. */
export function openApi(): Json {
  const schemas: Json = {};
  /** A schema as JSON Schema 2020-12; what it defines for itself goes among the document's schemas. */
  const schemaOf = (name: string, type: ZodType, io: 'input' | 'output'): Json => {
    const whole = z.toJSONSchema(type, { io, unrepresentable: 'any', target: 'draft-2020-12' }) as Json;
    const { $schema: _, $defs = {}, ...schema } = whole;
    const recursive = JSON.stringify(whole).includes('"$ref":"#"');
    const moved = <T>(value: T): T =>
      JSON.parse(
        JSON.stringify(value)
          .replaceAll('"$ref":"#"', `"$ref":"#/components/schemas/${name}"`)
          .replaceAll('"$ref":"#/$defs/__', `"$ref":"#/components/schemas/${name}.__`)
          .replaceAll('"$ref":"#/$defs/', '"$ref":"#/components/schemas/'),
      ) as T;
    for (const [inner, definition] of Object.entries($defs as Json)) {
      const { id: _id, ...rest } = moved(definition) as Json;
      schemas[inner.startsWith('__') ? `${name}.${inner}` : inner] = rest;
    }
    if (!recursive) return moved(schema);
    schemas[name] = moved(schema);
    return { $ref: `#/components/schemas/${name}` };
  };

  const paths: Record<string, Json> = {};
  for (const [resource, table] of Object.entries(endpoints))
    for (const [name, endpoint] of Object.entries<Endpoint>(table)) {
      const id = `${resource}.${name}`;
      const { method, path, does, takes, sends, query, body, answer, headers } = endpoint;
      const { properties, required = [] } = z.toJSONSchema(query, { io: 'input', unrepresentable: 'any' }) as {
        properties: Json;
        required?: string[];
      };
      const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, one = '']) => one as PathParameter);
      const mediaOut = mediaTypes[sends];
      const said =
        sends === 'bytes' ? { type: 'string', format: 'binary' } : schemaOf(`${id}.answer`, answer, 'output');
      (paths[path] ??= {})[method.toLowerCase()] = {
        operationId: id,
        tags: [resource],
        summary: does,
        parameters: [
          ...named.map((one) => ({
            name: one,
            in: 'path',
            required: true,
            schema: schemaOf(`${id}.${one}`, pathParameters[one], 'output'),
          })),
          ...Object.entries(properties).map(([one, schema]) => ({
            name: one,
            in: 'query',
            required: required.includes(one),
            schema,
          })),
          ...headers.map((one) => ({
            ...{ name: one, in: 'header', required: false, description: requestHeaders[one] },
            schema: { type: 'string' },
          })),
        ],
        ...(takes === 'nothing'
          ? {}
          : {
              requestBody: {
                required: true,
                content: {
                  [mediaTypes[takes]]: {
                    schema: takes === 'json' ? schemaOf(`${id}.body`, body, 'input') : { type: 'object' },
                  },
                },
              },
            }),
        security: method === 'GET' ? [{}, { bearer: [] }] : [{ token: [] }, { bearer: [] }],
        responses: {
          200: {
            description: sends === 'lines' ? 'Lines of JSON, each what was found so far' : 'Done',
            content: { [mediaOut]: { schema: said } },
          },
          default: { $ref: '#/components/responses/Refused' },
        },
      };
    }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Last: the workbench’s server',
      version: '1',
      description: `What the workbench’s own pages call. Whatever changes something carries the pages’ token in \`${tokenHeader}\`; \`${authorHeader}\` says who asks, their name escaped as in an address.`,
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: '/' }],
    tags: Object.keys(endpoints).map((name) => ({ name })),
    paths,
    components: {
      schemas,
      responses: {
        Refused: {
          description: 'A sentence for people, and for some codes what they need to go on',
          content: { [mediaTypes.json]: { schema: schemaOf('refusal', refusal, 'output') } },
        },
      },
      securitySchemes: {
        token: {
          ...{ type: 'apiKey', in: 'header', name: tokenHeader },
          description: 'Of the workbench’s own pages, on this machine: the file `token` in the data folder',
        },
        bearer: {
          ...{ type: 'http', scheme: 'bearer' },
          description: 'Of a program, where people sign in: made under My account, with the rights that it is given',
        },
      },
    },
  };
}
