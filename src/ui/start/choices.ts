interface Choice {
  value: string;
  label: string;
}

/** Languages that are offered: those that shops of many countries write in. Any other may be given on the command line. */
const offered =
  'ar bg bn ca cs cy da de de-AT de-CH el en en-AU en-CA en-GB en-IE en-US es es-MX et eu fa fi fr fr-BE fr-CA fr-CH ga gl he hi hr hu id is it ja ko lt lv mk ms mt nb nl nl-BE pl pt pt-BR ro ru sk sl sq sr sv ta th tr uk ur vi zh zh-TW';

const named = (code: string, type: 'language' | 'currency', display: string): string =>
  new Intl.DisplayNames([display], { type, fallback: 'code' }).of(code) ?? code;

const sorted = (choices: Choice[], display: string): Choice[] => {
  const { compare } = new Intl.Collator(display);
  return choices.sort((a, b) => compare(a.label, b.label));
};

/** Languages by name, each with its tag (BCP 47; names by CLDR). */
export const languageChoices = (display: string): Choice[] =>
  sorted(
    offered.split(' ').map((value) => ({ value, label: `${named(value, 'language', display)} (${value})` })),
    display,
  );

/** Currencies by name, each with its code (ISO 4217; names by CLDR); those that are no longer in use left out. */
export const currencyChoices = (display: string): Choice[] =>
  sorted(
    Intl.supportedValuesOf('currency')
      .map((value) => ({ value, label: `${named(value, 'currency', display)} (${value})` }))
      // CLDR gives years with those that were replaced.
      .filter(({ value, label }) => !/\(\d{4}/.test(label) && !/^X[A-Z]{2}$/.test(value)),
    display,
  );
