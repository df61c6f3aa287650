const digitsOf = new Map<string, number>();

/** Decimals of a currency's minor unit (ISO 4217, from Intl): 2 for GBP, 0 for JPY, 3 for KWD; 2 for what is not a currency. */
export function minorDigits(currency: string): number {
  let digits = digitsOf.get(currency);
  if (digits === undefined) {
    try {
      digits =
        new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
    } catch {
      digits = 2;
    }
    digitsOf.set(currency, digits);
  }
  return digits;
}
