import { decodeHTMLAttribute } from 'entities';
import { attributesOf, sourceOf, type Attribute, type ElementNode } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import { forbiddenSchemes, linkSchemes, writtenSchemes } from '../values/address';
import { stylePlace } from '../values/style';
import type { ThemeFacts } from './facts';
import { rewrite, type Fix } from '../problems';
import type { Report } from './infer';
import type { Analysis } from './analysis';
import type { AttributePlace } from './places';
import { holdsData } from './walk';

/** Holds the attributes of a printed element against their places: what may take a value, and how; links that are written out. */
export function checkAttributes(
  element: ElementNode,
  theme: ThemeFacts,
  places: Analysis['places'],
  /** Reports about an attribute in its own file: an amendment may have given it. */
  reportIn: (source: Source) => Report,
): void {
  if (element.directives.json) {
    if (!holdsData(element))
      reportIn(element.source)(
        'json-place',
        element.attributes.find((attribute) => attribute.name === 'do:json') ?? element,
      );
  }
  for (const attribute of attributesOf(element)) {
    const report = reportIn(sourceOf(element, attribute));
    if (attribute.name.startsWith('data-last-')) report('reserved', attribute, { name: attribute.name });
    if (!attribute.parts) {
      checkLink(element, attribute, theme, report);
      continue;
    }
    const place = places.get(attribute);
    if (place === 'script') {
      report('script-attribute', attribute, {
        text: `A value cannot stand in “${attribute.name}”: it would become part of a script`,
      });
    } else if (place === 'fixed') {
      report('literal-only', attribute, { name: attribute.name, element: element.name });
    } else if (place === 'address' || place === 'loading' || place === 'candidates') {
      checkScheme(attribute, place, theme, report);
    } else if (place === 'style') {
      let before = '';
      for (const part of attribute.parts) {
        if (typeof part === 'string') before += decodeHTMLAttribute(part);
        else if (stylePlace(before) === 'property') report('style-property', part);
        else before += '0';
      }
    }
  }
}

/** A scheme that is written out and not one of the allowed may not take a value. */
function checkScheme(attribute: Attribute, place: AttributePlace, theme: ThemeFacts, report: Report): void {
  const parts = attribute.parts ?? [];
  const written = place === 'candidates' ? parts : parts.slice(0, 1);
  for (const [at, part] of written.entries()) {
    if (typeof part !== 'string' || at + 1 >= parts.length) continue;
    const schemes = writtenSchemes(part, place === 'candidates');
    const wrong = schemes.find(
      (one) => !linkSchemes.has(one) && (forbiddenSchemes.has(one) || !theme.schemes.has(one)),
    );
    if (wrong === undefined) continue;
    report('script-attribute', attribute, { text: `A value cannot stand in an address that begins with “${wrong}:”` });
    return;
  }
}

/** An address of this site that is written out leads to a page. */
function checkLink(element: ElementNode, attribute: Attribute, theme: ThemeFacts, report: Report): void {
  if (!theme.site || attribute.name !== 'href' || !attribute.value || !/^(?:a|area)$/.test(element.name)) return;
  const path = decodeHTMLAttribute(sourceOf(element, attribute).slice(attribute.value.from, attribute.value.to)).trim();
  if (!/^\/(?!\/)/.test(path)) return;
  const page = path.replace(/[?#].*$/, '');
  if (!theme.site.leads(page)) report('link', attribute, { path });
  else if (theme.site.locales.length > 1)
    report('link-prefix', attribute, { path }, printed(page, path, attribute.value));
}

/** The address as what prints it, with its language's prefix; none where that is not sure. */
function printed(page: string, path: string, span: { from: number; to: number }): Fix | undefined {
  const slug = /^\/content\/([a-z0-9-]+)$/.exec(page)?.[1];
  if (!slug || page !== path) return undefined;
  const text = `{content('${slug}').url}`;
  return rewrite(`Write ${text}`, span, text);
}
