import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { afterAll, describe, expect, it } from 'vitest';

/** The project's root and the language's folder. */
const root = fileURLToPath(new URL('../../../..', import.meta.url));
const core = 'src/core';

/** A hole put back: in each file, what stands there and what stood there without the fix. */
interface Mutant {
  name: string;
  edits: [file: string, fixed: string, open: string][];
  /** Values that could go through it, where few can: only those are tried. */
  values?: string[];
}

const language = (file: string) => `language/${file}`;
const template = language('1-parse/template.ts');
const generate = language('3-compile/generate.ts');
const address = language('values/address.ts');
const rawAsOthers: Mutant['edits'][0] = [
  generate,
  'else if (raw) this.#raw(element, place);',
  'else if (false) this.#raw(element, place);',
];

const mutants: Mutant[] = [
  {
    name: 'amendments put values into scripts and styles',
    edits: [
      [
        'theme/amend.ts',
        'else if (rawElements.has(node.name.toLowerCase()) && !node.own) this.#writeRaw',
        'else if (false as boolean) this.#writeRaw',
      ],
      rawAsOthers,
    ],
  },
  {
    name: 'a move puts values into scripts and styles',
    edits: [
      [
        'theme/amend.ts',
        "where === 'into' && !target.node.own && rawElements.has",
        "where === 'into' && (false as boolean) && rawElements.has",
      ],
      rawAsOthers,
    ],
  },
  {
    name: 'a bare “<” is printed as it is',
    edits: [[template, 'if (!open && bareIsPlain(', 'if (!open || bareIsPlain(']],
  },
  {
    name: 'a comment or declaration without an end is printed as it is',
    values: ['--', '--x', '!--', '--!>'],
    edits: [[template, 'if (!this.#literal || open) this.#bare', 'if (!this.#literal && !open) this.#bare']],
  },
  {
    name: 'what comes after a comment without an end is not read',
    edits: [
      [
        template,
        'this.#sign(true);\n        return;',
        'this.#sign(true);\n        this.#at = text.length;\n        return;',
      ],
    ],
  },
  {
    name: 'an entity may be completed in text',
    values: ['lt;b', '#60;', 'amp;'],
    edits: [[language('1-parse/loose.ts'), 'loose: [...node.loose, offset]', 'loose: node.loose']],
  },
  {
    name: 'an entity may be completed in text after amendments',
    values: ['lt;b', '#60;', 'amp;'],
    edits: [
      ['theme/amend.ts', 'settle(this.#children, (node, at) => this.#settle(node, node.from + at))', 'this.#children'],
    ],
  },
  {
    name: 'an entity may be completed in an attribute',
    values: ['lt;b', '34', 'amp;'],
    edits: [
      [
        language('1-parse/loose.ts'),
        'const loose = [openEntity(text), openEndTag(text)]',
        'const loose = [openEndTag(text)]',
      ],
    ],
  },
  {
    name: 'an element that is not closed is left open',
    edits: [
      [template, 'plainEnd: true, unsound: directives.asWritten', 'plainEnd: false, unsound: directives.asWritten'],
    ],
  },
  {
    name: 'an element that closes itself is left open',
    edits: [[template, '((looksClosed || perhapsOpen) && !this.#literal)', 'false']],
  },
  {
    name: 'a script that closes itself is taken for closed in what is printed as written',
    edits: [[template, 'tag.selfClosing && !((looksClosed || perhapsOpen) && this.#literal)', 'tag.selfClosing']],
  },
  {
    name: 'a start tag without its “>” is printed as it is',
    edits: [
      [generate, "(element.unfinished ? '>' : '')", "''"],
      [template, '(tag.unfinished && !isVoid) ||', ''],
    ],
  },
  {
    name: 'an entity put together in an address is not judged',
    values: ['58alert(1)', '3aalert(1)', 'colon;alert(1)'],
    edits: [
      [
        language('1-parse/loose.ts'),
        'const loose = [openEntity(text), openEndTag(text)]',
        'const loose = [openEndTag(text)]',
      ],
      [address, 'const read = decodeHTMLAttribute(out);', 'const read = before;'],
    ],
  },
  {
    name: 'an end tag may be completed in an attribute',
    values: ['le ', 'cript ', 'area ', 'script '],
    edits: [
      [
        language('1-parse/loose.ts'),
        'const loose = [openEntity(text), openEndTag(text)]',
        'const loose = [openEntity(text)]',
      ],
    ],
  },
  {
    name: 'an address without slashes is taken for one of this site',
    values: ['https:evil.example', 'http:evil.example'],
    edits: [
      [address, "['http://a.this-site.invalid/', 'https://b.this-site.invalid/']", "['https://b.this-site.invalid/']"],
    ],
  },
  {
    name: 'two slashes may be put together',
    values: ['evil.example', 'evil.example/x', '/evil.example'],
    edits: [[address, 'if (slashes > 0) return', 'if (slashes > 9) return']],
  },
  {
    name: 'any scheme is allowed',
    edits: [[address, 'if (scheme === null || linkSchemes.has(scheme)) return true;', 'return true;']],
  },
  {
    name: 'what is loaded may come from anywhere',
    edits: [[address, '(!loads || loadable(read, pieces, loads))', 'true']],
  },
  {
    name: 'a value joins the name of a function in a style',
    values: ['url', 'l(//evil.example)', 'url(//evil.example)', 'rl(//evil.example/x)'],
    edits: [
      [
        language('values/style.ts'),
        'if (!whole && values.some(({ from, to }) => from < end && to > index)) return false;',
        'void whole;',
      ],
      [
        language('values/style.ts'),
        'if (count(unescapeCss(declaration), loading) !== count(unescapeCss(bare), loading)) return false;',
        '',
      ],
    ],
  },
  {
    name: 'what is printed as written need not nest',
    edits: [[generate, 'element.unsound ? escapeText(contents) : contents', 'contents']],
  },
  {
    name: 'data for scripts may stand in any script',
    edits: [[generate, 'if (holdsData(element)) this', 'this']],
  },
  {
    name: 'a script whose tags are absent is printed as text',
    edits: [[generate, 'directives.wrapWhen && !raw ?', 'directives.wrapWhen ?'], rawAsOthers],
  },
  {
    name: 'attributes that run take values',
    edits: [[language('3-compile/attributes.ts'), "if (place === 'script' || place === 'fixed') return;", '']],
  },
  {
    name: 'attributes that run take values from whole records',
    edits: [[language('4-render/runtime.ts'), "if (place === 'script' || place === 'fixed') continue;", '']],
  },
  {
    name: 'the text of a script may run on after it',
    edits: [[generate, "return staysRaw(name.toLowerCase(), text) ? text : '';", 'return text;']],
  },
  {
    name: 'values are printed as they are',
    edits: [
      [
        language('values/escape.ts'),
        'return special.test(text) ? escapeSigns(wellFormed(text)) : text;',
        'return text;',
      ],
    ],
  },
];

const folder = mkdtempSync(join(root, 'node_modules/.mutants-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The differential test with these edits in the code that it tests. */
async function withEdits(name: string, edits: Mutant['edits']) {
  const outfile = join(folder, `${name.replace(/[^a-z]+/gi, '-')}.mjs`);
  const done = new Set<number>();
  await build({
    entryPoints: [join(root, core, 'language/testing/differential.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    alias: { '@': join(root, 'src') },
    plugins: [
      {
        name: 'edits',
        setup(builder) {
          builder.onLoad({ filter: /\.ts$/ }, ({ path }) => {
            let contents = readFileSync(path, 'utf8');
            const file = relative(join(root, core), path);
            edits.forEach(([of, fixed, open], at) => {
              if (of !== file) return;
              if (!contents.includes(fixed)) throw new Error(`${of} does not hold: ${fixed}`);
              contents = contents.replace(fixed, () => open);
              done.add(at);
            });
            return { contents, loader: 'ts', resolveDir: dirname(path) };
          });
        },
      },
    ],
  });
  expect(done.size).toBe(edits.length);
  return (await import(pathToFileURL(outfile).href)) as typeof import('../testing/differential');
}

describe('the differential test sees each hole when it is put back', () => {
  it('and nothing where none is', async () => {
    const { firstEscape } = await withEdits('none', []);
    expect(firstEscape(500, 1)).toBeNull();
  });
  for (const { name, edits, values } of mutants) {
    it(
      name,
      async () => {
        const { firstEscape } = await withEdits(name, edits);
        expect(firstEscape(30_000, 1, { smallest: false, ...(values ? { values } : {}) })).not.toBeNull();
      },
      120_000,
    );
  }
});
