import { Eta } from 'eta';
import ejs from 'ejs';
import { Theme } from '@/core/theme/theme';
import { formatFor, record, renderPage, type Money, type RecordValue, type Rendered } from '../src/core/language';
import { listing, menu, one, shop } from './goods';
import { ejsFiles, etaFiles } from './templates/eta';
import { handListing } from './templates/hand';
import { lastFiles } from './templates/last';

/** Every engine with the same pages, compiled and ready: each a function from nothing to HTML. */

const format = formatFor('en-GB');
export const money = (value: Money) => format.money(value);

export const theme = new Theme([
  {
    kind: 'base',
    name: 'bench',
    version: '1',
    files: new Map(Object.entries(lastFiles).map(([path, text]) => [path, { hash: path, text }])),
  },
]);
const options = {
  locale: 'en-GB',
  services: { phrase: () => null },
  globals: { shop, look: record({ menu }), visit: record({}) },
};
const listingData = record({ listing });
const productData = record({ product: one });

const eta = new Eta({ autoTrim: false, cache: true, views: '/', useWith: false });
for (const [name, text] of Object.entries(etaFiles)) eta.loadTemplate(`@${name}`, text);

const ejsMade: Record<string, ejs.TemplateFunction> = {};
const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const ejsEscape = (value: unknown) => String(value).replace(/[&<>"']/g, (sign) => entities[sign] as string);
for (const [name, text] of Object.entries(ejsFiles))
  ejsMade[name] = ejs.compile(text, {
    escape: ejsEscape,
    filename: `/${name}.ejs`,
    cache: true,
    // ejs' types allow a file's name only; its code takes the text besides.
    includer: ((path: string) => ({
      filename: `/${path}.ejs`,
      template: ejsFiles[path],
    })) as unknown as ejs.IncluderCallback,
  });
const ejsRender = (name: string, data: ejs.Data): string => (ejsMade[name] as ejs.TemplateFunction)(data);

export const renderListing = (traced = false): Rendered =>
  renderPage(theme, 'listing/default', listingData, traced ? { ...options, traced: true } : options);
export const renderProduct = (): Rendered => renderPage(theme, 'product/default', productData, options);

export const listingBy: Record<string, () => string> = {
  last: () => renderListing().html,
  eta: () => eta.render('@listing', { listing, money }),
  ejs: () => ejsRender('listing', { it: { listing, money } }),
  hand: () => handListing(listing as RecordValue & Record<string, unknown>, money),
};

export const productBy: Record<string, () => string> = {
  last: () => renderProduct().html,
  eta: () => eta.render('@product', { product: one, shop, menu, money }),
  ejs: () => ejsRender('product', { it: { product: one, title: one.name, shop, menu, money } }),
};
