import {
  Html,
  isRecord,
  type Placement,
  record,
  type Rendered,
  type SiteServices,
  type Take,
  type Template,
  type Value,
} from '@/core/language';
import { pieceLabel, placeableOf } from '@/core/theme';
import type { PageRequest } from './request';
import { services } from './services';
import { Setting } from './setting';

/** How many of a list are shown. */
const several = 3;

const escaped = (text: string): string => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** What an input is given for a picture of its piece: its label where it is a text, goods of the shop where it is goods. null: nothing. */
function sampleOf({ type, label, name, options, least }: Take, able: SiteServices): Value {
  const says = label || name.replaceAll('_', ' ');
  const products = (limit: number) => (able.products?.({ limit }) ?? []) as Value[];
  const categories = () => ((able.categories?.() ?? []) as Value[]).slice(0, several);
  if (options.length) return options[0] ?? null;
  switch (type.toLowerCase()) {
    case 'text':
      return says;
    case 'html':
      return new Html(`<h2>${escaped(says)}</h2><p>${escaped(says)}, ${escaped(says)}, ${escaped(says)}.</p>`);
    case 'number':
      return least ?? several;
    case 'boolean':
      return true;
    case 'link':
      return able.address?.('/') ?? '/';
    case 'picture':
    case 'media': {
      const pictured = products(24).find((one) => isRecord(one) && isRecord((one.image ?? null) as Value));
      return isRecord(pictured) ? ((pictured.image ?? null) as Value) : null;
    }
    case 'product':
      return products(1)[0] ?? null;
    case 'category':
      return categories()[0] ?? null;
    case 'article':
      return ((able.articles?.(1) ?? []) as Value[])[0] ?? null;
    case 'list of product':
      return products(several);
    case 'list of category':
      return categories();
    case 'list of article':
      return able.articles?.(several) ?? null;
    default:
      return null;
  }
}

/** Whether a piece that staff may place shows words, and needs nothing else. */
const isWords = (template: Template | null): boolean =>
  template !== null &&
  placeableOf(template) !== null &&
  template.takes.length > 0 &&
  template.takes.every(({ type, required }) => required && (type === 'text' || type === 'html'));

/** Whether there is something to see: a text, a picture, a line. */
const isSeen = ({ html }: Rendered): boolean =>
  /<(?:img|svg|hr|picture|iframe|input|button)\b|style="/i.test(html) || html.replace(/<[^>]*>/g, '').trim() !== '';

/**
 * A piece by itself with sample inputs, as its picture shows it; null where there is no such piece, or nothing comes of samples (a film, an address).
 * What a sample cannot be made for, as the name of a tag, may leave nothing: then the required inputs alone are given.
 */
export function makeSample(request: PageRequest, name: string): Rendered | null {
  const setting = new Setting(request);
  const template = setting.theme.template(name);
  if (!template) return null;
  const able = services(setting, request.prefix);
  const words = { value: pieceLabel(name, template) };
  /** On its own shelves stands what says something by words alone. */
  const onItsShelves = (): Placement[] => {
    const names = setting.theme.templateNames().filter((one) => one.startsWith('pieces/'));
    const piece = names.find((one) => isWords(setting.theme.template(one)));
    const takes = (piece && setting.theme.template(piece)?.takes) || [];
    return piece ? [{ id: null, piece, inputs: Object.fromEntries(takes.map((take) => [take.name, words])) }] : [];
  };
  const drawn = (takes: readonly Take[]): Rendered | null => {
    // What has a default shows that.
    const inputs = takes.flatMap((take) => {
      const value = take.default === null ? sampleOf(take, able) : null;
      return value === null ? [] : [[take.name, value] as const];
    });
    const rendered = setting.render(name, record(Object.fromEntries(inputs)), onItsShelves, 'sample');
    return isSeen(rendered) ? rendered : null;
  };
  return drawn(template.takes) ?? drawn(template.takes.filter(({ required }) => required));
}
