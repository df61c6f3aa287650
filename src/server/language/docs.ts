import { z } from 'zod';
import { catalogueFile } from '@/contract/catalogue-file';
import { endpoints } from '@/contract/endpoints';
import { mayRole, type Right, rightOf, rights, roles, roleSays } from '@/contract/roles';
import { objectSchema, pageSchema } from '@/core/catalogue';
import { problemKinds, filterTable, functionTable, filterSignatures, functionSignatures } from '@/core/language';

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('<', '&lt;');
const code = (text: string): string => `\`${text.replaceAll('|', '\\|')}\``;
const table = (head: string[], rows: string[][]): string =>
  [
    `| ${head.join(' | ')} |`,
    `| ${head.map(() => '---').join(' | ')} |`,
    ...rows.map((row) => `| ${row.join(' | ')} |`),
  ].join('\n');
const notice = '<!-- Made by `npm run docs` from the code; change it there. -->';

/** The pages of docs/ that list things, each made from the one place in the code where those things stand. */
export function generatedDocs(): Record<string, string> {
  return {
    'objects.md': objects(),
    'problems.md': problems(),
    'filters.md': filters(),
    'catalogue-file.md': catalogue(),
    'roles.md': rolesPage(),
  };
}

function rolesPage(): string {
  const calls = Object.entries(endpoints).flatMap(([resource, of]) =>
    Object.entries(of).map(([name, one]) => ({
      ...one,
      right: (rightOf as Record<string, Record<string, Right>>)[resource]?.[name] as Right,
    })),
  );
  const says = Object.entries(rights).map(([right, { says: what }]) => [
    code(right),
    what,
    ...roles.map((role) => (mayRole(role, right as Right) ? 'yes' : '–')),
  ]);
  const lists = Object.keys(rights).map((right) => {
    const of = calls.filter((one) => one.right === right);
    return `## ${right}\n\n${table(
      ['call', 'what it does'],
      of.map(({ method, path, does }) => [code(`${method} ${path}`), cell(does)]),
    )}`;
  });
  return `${notice}
# Roles, and what each may do

Who may do what stands in one table, \`src/contract/roles.ts\`: the server holds each call to it, a test asks each call as every role, and screens show
only what one may do. How that is kept and tested: [security.md](security.md#accounts-sessions-and-access).

${roles.map((role) => `- **${role}**: ${roleSays[role]}`).join('\n')}

${table(['right', 'what it allows', ...roles], says)}

Each call needs one right:

${lists.join('\n\n')}
`;
}

function objects(): string {
  const pages = Object.entries(pageSchema).map(([kind, names]) => [
    code(`${kind}/`),
    Object.entries(names)
      .map(([name, type]) => `${code(name)} (${link(type)})`)
      .join(', ') || '—',
  ]);
  const sections = Object.entries(objectSchema).map(
    ([name, fields]) =>
      `## ${name}\n\n${table(
        ['field', 'type', 'can be empty', 'what it is'],
        Object.entries(fields).map(([field, { type, says, sure, options }]) => [
          code(field),
          link(type),
          sure ? '' : 'yes',
          cell(options && !says.includes(options[0] as string) ? `${says}: ${options.join(', ')}` : says),
        ]),
      )}`,
  );
  return `${notice}
# Objects

What templates reach. Checker, renderer, data view and this page share one schema: \`src/core/catalogue/schema.ts\`.

Every template sees \`shop\` (${link('Shop')}), \`look\` (the settings that the theme’s \`look.json\` declares) and \`visit\`
(${link('Visit')}); a piece besides only what it \`<takes>\`. A page sees, by its folder:

${table(['folder', 'names'], pages)}

\`ProductFields\` and \`CategoryFields\` are the custom fields that the shop defines, by key: texts, rich texts, numbers, flags, days,
links and pictures’ addresses, each of which can be empty. A field that “can be empty” is none or empty on some subject; a condition
on one that cannot always holds, and the checker says so.

${sections.join('\n\n')}
`;
}

function link(type: string): string {
  const item = type.replace(/^List of /, '');
  const list = type === item ? '' : 'List of ';
  return item in objectSchema ? `${list}[${item}](#${item.toLowerCase()})` : type;
}

function problems(): string {
  const bySeverity = (severity: string) =>
    Object.entries(problemKinds).filter(([, kind]) => kind.severity === severity);
  const sections = (['error', 'warning', 'note'] as const).map(
    (severity) =>
      `## ${{ error: 'Errors', warning: 'Warnings', note: 'Notes' }[severity]}\n\n${bySeverity(severity)
        .map(
          ([name, { explanation, howToFix }]) => `### ${code(name)}\n\n${explanation}\n\n*How to fix it:* ${howToFix}`,
        )
        .join('\n\n')}`,
  );
  return `${notice}
# Problems

What Last reports about a theme, by code. An **error** means that something of the page will be missing or wrong, and keeps a draft
from being published; a **warning**, that something is very likely not meant; a **note**, that something deserves a look. Each comes
with file, line, column and layer, and with a fix where only one is possible: \`last check --fix\` applies those.

${sections.join('\n\n')}
`;
}

function filters(): string {
  const rows = (
    entries: Iterable<[string, { signature: string; says: string }]>,
    signatures: typeof filterSignatures,
    on: boolean,
  ) =>
    [...entries].map(([name, { signature, says }]) => [
      code(signature),
      ...(on ? [worksOn(name, signatures[name]?.on ?? [])] : []),
      cell(says),
    ]);
  return `${notice}
# Filters and functions

A filter follows a value: \`{product.name | shorten(20)}\`. One that is given another kind than it works on gives none. Where
\`e\` stands, an expression over \`it\` is worked out for each item: \`products | keep(it.stock > 0)\`. Arguments may be named:
\`shorten(20, tail: '')\`.

## Filters

${table(['filter', 'works on', 'gives'], rows(filterTable, filterSignatures, true))}

## Functions

${table(['function', 'gives'], rows(functionTable, functionSignatures, false))}
`;
}

function worksOn(name: string, kinds: readonly string[]): string {
  if (kinds.includes('Any')) return 'anything';
  if (name === 'sized') return 'Media';
  if (name === 'split_by') return 'List of Product';
  return kinds.length > 6 ? 'what can be printed' : kinds.join(', ');
}

interface Schema {
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  prefixItems?: Schema[];
  additionalProperties?: Schema | boolean;
  anyOf?: Schema[];
  pattern?: string;
  format?: string;
  minimum?: number;
  default?: unknown;
  $ref?: string;
}

function catalogue(): string {
  const schema = z.toJSONSchema(catalogueFile, { io: 'input', unrepresentable: 'any' }) as Schema;
  const sections: string[] = [];
  const walk = (node: Schema, path: string): void => {
    const rows = Object.entries(node.properties ?? {}).map(([name, inner]) => {
      const must = node.required?.includes(name) ? 'yes' : '';
      return [
        code(name),
        cell(kind(inner)),
        must,
        inner.default === undefined ? '' : code(JSON.stringify(inner.default)),
      ];
    });
    sections.push(`## ${path || 'The file'}\n\n${table(['key', 'value', 'needed', 'otherwise'], rows)}`);
    for (const [name, inner] of Object.entries(node.properties ?? {})) {
      const deep = inner.items ?? inner;
      if (deep.properties) walk(deep, path ? `${path}.${name}` : name);
    }
  };
  walk(schema, '');
  return `${notice}
# The catalogue file

A shop’s goods as one JSON file: what \`last export FILE\` writes, \`last import FILE\` reads, and \`last check\` and \`last render\`
take with \`--catalogue FILE\`. Everything is named by its slug (small letters, digits, single hyphens); prices are whole minor units
(pence) of the shop’s currency; days are ISO 8601; rich text is cleaned when it comes in; texts are in the shop’s first language.
Pictures are named by their path, and travel beside the file with \`--pictures FOLDER\`.

${sections.join('\n\n')}
`;
}

function kind(node: Schema): string {
  if (node.$ref) return 'the same again, below it';
  if (node.enum) return `one of ${node.enum.map((one) => JSON.stringify(one)).join(', ')}`;
  if (node.anyOf) return [...new Set(node.anyOf.map(kind))].join(', or ');
  if (node.prefixItems) return `[${node.prefixItems.map(kind).join(', ')}]`;
  if (node.type === 'array') return `list of ${node.items?.properties ? 'objects, below' : kind(node.items ?? {})}`;
  if (node.properties) return 'object, below';
  if (node.type === 'object')
    return `object of ${kind(typeof node.additionalProperties === 'object' ? node.additionalProperties : {})} by key`;
  if (node.type === 'integer') return node.minimum === 0 ? 'whole number from 0' : 'whole number';
  if (node.type === 'string') {
    if (node.format === 'date') return 'day';
    if (node.pattern?.startsWith('^[a-z0-9]+(?:-')) return 'slug';
    return node.const === '' ? 'empty' : node.pattern?.startsWith('^#') ? 'colour, #rrggbb' : 'text';
  }
  return Array.isArray(node.type) ? node.type.join(' or ') : (node.type ?? 'list of objects');
}
