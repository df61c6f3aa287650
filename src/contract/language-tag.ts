import { z } from 'zod';

/** A language tag (BCP 47) in its usual spelling: `en-GB`. */
export const languageTag = z
  .string()
  .trim()
  .transform((text, context) => {
    try {
      return Intl.getCanonicalLocales(text)[0] as string;
    } catch {
      context.addIssue({ code: 'custom', message: `“${text}” is not a language tag, as “en”, “en-GB” or “de” are` });
      return z.NEVER;
    }
  });
