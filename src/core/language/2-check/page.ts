import { decodeHTML } from 'entities';
import { rawElements } from '../1-parse/names';
import { attributesOf, sourceOf, type ElementNode, type TemplateNode } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import type { Fix } from '../problems';
import type { ThemeFacts } from './facts';
import type { Report } from './infer';
import { fixedName } from './walk';

type ReportIn = (source: Source) => Report;

const attributeOf = (element: ElementNode, name: string) => [...attributesOf(element)].find((one) => one.name === name);

/** What a label can be of (HTML Standard, labelable elements). */
const labelable = new Set(['button', 'input', 'meter', 'output', 'progress', 'select', 'textarea']);

/** Something that is drawn from elsewhere: what it holds is not seen here. */
const fromElsewhere = new Set(['draw', 'gap', 'shelf', 'ask']);

const holds = (nodes: readonly TemplateNode[], test: (element: ElementNode) => boolean): boolean =>
  nodes.some((node) => node.type === 'element' && (test(node) || holds(node.children, test)));

/** Holds pictures and labels to what HTML asks of them. `whole`: all of the template. */
export function checkForReaders(element: ElementNode, whole: readonly TemplateNode[], reportIn: ReportIn): void {
  // What is worked out may give any attribute.
  if (element.space !== 'html' || element.directives.attributes) return;
  const tag = { from: element.from, to: element.openTo };
  if (element.name === 'img' && !attributeOf(element, 'alt')) reportIn(element.source)('alt', tag);
  if (element.name !== 'label') return;
  const named = attributeOf(element, 'for');
  if (!named) {
    const field = (one: ElementNode) => labelable.has(one.name) || (one.own && fromElsewhere.has(one.name));
    if (!holds(element.children, field))
      reportIn(element.source)('label', tag, { text: 'This label belongs to no field' });
    return;
  }
  const id = fixedName(element, 'for');
  if (id === null) return;
  const may = (one: ElementNode) => {
    if (one.own) return fromElsewhere.has(one.name);
    const given = attributeOf(one, 'id');
    return (
      one.directives.attributes !== null ||
      (given !== undefined && (given.parts !== null || fixedName(one, 'id') === id))
    );
  };
  if (!holds(whole, may))
    reportIn(sourceOf(element, named))('label', named, {
      text: `This label is for “${id}”, and nothing here has that id`,
    });
}

/** Attributes whose texts are shown or read out. */
const shown = new Set(['alt', 'title', 'placeholder', 'aria-label', 'aria-description']);

/**
 * Texts that are written out where the shop speaks several languages: customers of all but one read them in another's. `element`: that they stand in;
 * null at the root of a template.
 */
export function checkWritten(
  element: ElementNode | null,
  nodes: readonly TemplateNode[],
  theme: ThemeFacts,
  reportIn: ReportIn,
): void {
  if ((theme.site?.locales.length ?? 0) < 2 || (element && !isShown(element))) return;
  for (const attribute of element && !element.own ? attributesOf(element) : []) {
    if (!element || !shown.has(attribute.name) || !attribute.value || attribute.parts) continue;
    report(sourceOf(element, attribute), attribute.value, theme, reportIn);
  }
  for (const node of nodes)
    if (node.type === 'text' && !node.blank) report(node.source, textOf(node.source, node), theme, reportIn);
}

/** Whether what stands in an element is shown to customers as words, and not said to be as it is (`translate="no"`, `lang`). */
const isShown = (element: ElementNode): boolean =>
  element.space === 'html' &&
  !rawElements.has(element.name) &&
  !/^(?:code|pre|kbd|samp|noscript|template)$/.test(element.name) &&
  !attributeOf(element, 'lang') &&
  fixedName(element, 'translate') !== 'no';

/** The words of a text node without the white space and comments around them. */
function textOf(source: Source, { from, to }: { from: number; to: number }): { from: number; to: number } {
  const text = source.slice(from, to).replace(/<!--[^]*?-->/g, (one) => ' '.repeat(one.length));
  return { from: from + text.length - text.trimStart().length, to: from + text.trimEnd().length };
}

function report(source: Source, span: { from: number; to: number }, theme: ThemeFacts, reportIn: ReportIn): void {
  const written = source.slice(span.from, span.to);
  const text = decodeHTML(written).replace(/\s+/g, ' ').trim();
  // Signs, numbers, letters and units read the same everywhere.
  if (!/\p{Script=Latin}{3}|[^\P{L}\p{Script=Latin}]{2}/u.test(text) || written.includes('<')) return;
  const key = keyFor(source.file, text, theme);
  const said = text.length > 40 ? `${text.slice(0, 40)}…` : text;
  const edits = [{ ...span, text: `{t('${key}')}` }];
  const fix: Fix = { title: 'Make it a phrase', edits, phrases: [{ key, text: text.replace(/[{}]/g, '') }] };
  reportIn(source)('written-text', span, { text: said }, fix);
}

/** A key for a phrase: the file's name, and the first words of the text. */
function keyFor(file: string, text: string, theme: ThemeFacts): string {
  const name = (part: string) =>
    part
      .toLowerCase()
      .normalize('NFD')
      .replace(/\p{M}+/gu, '')
      .replace(/[^a-z0-9]+/g, '_')
      .replace(/^_+|_+$/g, '');
  const group = name(file.replace(/\.html$/, '').replace(/^pieces\//, '')) || 'page';
  const words = name(text).split('_').slice(0, 4).join('_') || 'text';
  for (let at = 1; ; at++) {
    const key = `${group}.${words}${at > 1 ? `_${at}` : ''}`;
    if (theme.phrase(key) === null) return key;
  }
}
