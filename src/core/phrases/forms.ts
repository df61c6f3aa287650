const all = ['zero', 'one', 'two', 'few', 'many', 'other'] as const;

/** Numbers that are counted up to: what a language tells apart only beyond them (a form for millions) is not asked for. */
const counted = 1000;

export interface Forms {
  /** Forms that every counted phrase of the language needs, in CLDR's order. */
  needed: string[];
  /** Those too that it has for rare numbers. */
  known: string[];
}

const known = new Map<string, Forms>();

/** The plural forms of a locale, from CLDR as `Intl.PluralRules` has it. Throws RangeError for what is no locale. */
export function formsOf(locale: string): Forms {
  let forms = known.get(locale);
  if (!forms) {
    const rules = new Intl.PluralRules(locale);
    const met = new Set<string>(['other']);
    for (let count = 0; count < counted; count++) met.add(rules.select(count));
    const { pluralCategories } = rules.resolvedOptions();
    forms = {
      needed: all.filter((form) => met.has(form)),
      known: all.filter((form) => pluralCategories.includes(form)),
    };
    known.set(locale, forms);
  }
  return forms;
}

export const inOrder = (forms: Iterable<string>): string[] => {
  const given = new Set(forms);
  return all.filter((form) => given.has(form));
};
