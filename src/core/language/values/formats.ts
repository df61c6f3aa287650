import { LocaleFormat } from './locale';

const formats = new Map<string, LocaleFormat>();

/** The formatter of a locale, shared: its tables are costly to make and never change. */
export function formatFor(locale: string): LocaleFormat {
  let format = formats.get(locale);
  if (!format) formats.set(locale, (format = new LocaleFormat(locale)));
  return format;
}
