import { groupOf, type Condition } from './condition';
import type { Alternates } from './alternates';
import type { AddressedKind, SubjectKind } from '@/core/catalogue';

/** The slug that something has now, of which this may be an earlier one; null: it has none other. */
export type SlugNow = (kind: AddressedKind, slug: string) => string | null;

/** What the texts of a fact name. */
const factKinds: Record<string, AddressedKind> = {
  tag: 'tag',
  category: 'category',
  below: 'category',
  brand: 'brand',
};
const subjectKinds: Partial<Record<SubjectKind, AddressedKind>> = {
  product: 'product',
  category: 'category',
  content: 'content',
  article: 'article',
};

/** Assignments that name things by the slugs that these have now, whatever they were called when the file was written. */
export function followed(all: Alternates, now: SlugNow): Alternates {
  const slugOf = (kind: SubjectKind, slug: string): string => {
    const own = subjectKinds[kind];
    if (own) return now(own, slug) ?? slug;
    const [by, name] = slug.split('/');
    return kind === 'listing' && name && (by === 'tag' || by === 'brand') ? `${by}/${now(by, name) ?? name}` : slug;
  };
  const condition = (kind: SubjectKind, when: Condition): Condition => {
    const group = groupOf(when);
    if (group) return { [group.name]: group.parts.map((part) => condition(kind, part)) } as unknown as Condition;
    if (!('test' in when) || when.test !== 'is') return when;
    const of = when.fact === 'slug' ? subjectKinds[kind] : factKinds[when.fact];
    return of ? { ...when, value: when.value.map((value) => now(of, value) ?? value) } : when;
  };
  return {
    ...all,
    pins: all.pins.map((pin) => ({ ...pin, slug: slugOf(pin.kind, pin.slug) })),
    rules: all.rules.map((rule) => ({ ...rule, when: condition(rule.kind, rule.when) })),
  };
}
