import { decodeHTMLAttribute } from 'entities';
import type { Attribute, ElementNode } from '../1-parse/nodes';
import { stylePlace } from '../values/style';
import type { ThemeFacts } from './facts';
import type { Report } from './infer';
import { attributePlace } from './places';

/** Holds the attributes of a printed element against their places: what may take a value, and how; links that are written out. */
export function checkAttributes(element: ElementNode, theme: ThemeFacts, report: Report): void {
  const type = element.attributes.find((attribute) => attribute.name === 'type');
  const refreshes = element.attributes.some((attribute) => attribute.name === 'http-equiv');
  if (element.directives.json) {
    const value = type?.value ? element.source.slice(type.value.from, type.value.to).trim() : '';
    const data = element.name === 'script' && !type?.parts && /^application\/(?:ld\+)?json$/i.test(value);
    if (!data) report('json-place', element.attributes.find((attribute) => attribute.name === 'do:json') ?? element);
  }
  for (const attribute of element.attributes) {
    if (attribute.name.startsWith('data-last-')) report('reserved', attribute, { name: attribute.name });
    if (!attribute.parts) {
      checkLink(element, attribute, theme, report);
      continue;
    }
    const place = attributePlace(element.name, attribute.name, refreshes);
    if (place === 'script') {
      report('script-attribute', attribute, {
        text: `A value cannot stand in “${attribute.name}”: it would become part of a script`,
      });
    } else if (place === 'fixed') {
      report('literal-only', attribute, { name: attribute.name, element: element.name });
    } else if (place === 'address' || place === 'loading') {
      checkScheme(attribute, report);
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
function checkScheme(attribute: Attribute, report: Report): void {
  const first = attribute.parts?.[0];
  if (typeof first !== 'string') return;
  const written = decodeHTMLAttribute(first).replace(/[\u0000-\u0020]/g, '');
  const scheme = /^([a-zA-Z][a-zA-Z0-9+.-]*):/.exec(written)?.[1];
  if (scheme && !/^(?:https?|mailto|tel|sms)$/i.test(scheme)) {
    report('script-attribute', attribute, { text: `A value cannot stand in an address that begins with “${scheme}:”` });
  }
}

/** An address of this site that is written out leads to a page. */
function checkLink(element: ElementNode, attribute: Attribute, theme: ThemeFacts, report: Report): void {
  if (!theme.site || attribute.name !== 'href' || !attribute.value || !/^(?:a|area)$/.test(element.name)) return;
  const path = decodeHTMLAttribute(element.source.slice(attribute.value.from, attribute.value.to)).trim();
  if (!/^\/(?!\/)/.test(path) || theme.site.leads(path.replace(/[?#].*$/, ''))) return;
  report('link', attribute, { path });
}
